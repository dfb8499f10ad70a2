import { createHash } from 'node:crypto';
import path from 'node:path';
import { eq, sql } from 'drizzle-orm';
import { storeOf } from '../blobs/content';
import { keptBytes } from '../blobs/directory';
import { graceMs, unneededFiles } from '../blobs/sweep';
import type { Reader } from '../db/client';
import { blob } from '../db/schema';
import type { Depth, Difference } from './difference';

/** Content that is incomplete or unused or, if bytes are checked, that does not match its hash. */
export async function contentDifferences(reader: Reader, { contentBytes }: Depth): Promise<Difference[]> {
  const { rows } = await reader.execute<{ about: string; says: string }>(sql`
    with piece as (
      select content_id, start_byte, length(data) as bytes,
        lead(start_byte) over (partition by content_id order by start_byte) as next_byte
      from blob_chunk
    ), whole as (
      select content_id, min(start_byte) as first_byte, sum(bytes)::bigint as bytes,
        bool_or(next_byte is not null and next_byte <> start_byte + bytes) as broken
      from piece group by content_id
    )
    select blob.sha256 as about, 'is not there whole' as says from blob left join whole using (content_id)
      where blob.store = 'rows' and blob.size_bytes > 0 and (whole.content_id is null or whole.first_byte <> 0 or whole.broken or whole.bytes <> blob.size_bytes)
    union all
    select whole.content_id::text, 'is content that nothing needs' from whole
      where not exists (select from blob where blob.content_id = whole.content_id and blob.store = 'rows')
        and not exists (select from upload where upload.content_id = whole.content_id and upload.store = 'rows'
          and coalesce(upload.outcome ->> 'state', '') not in ('filed', 'refused', 'left-out'))
    union all
    select version.id::text, 'is a version whose content is of another size' from version join blob using (sha256)
      where blob.size_bytes <> version.size_bytes
    union all
    select upload.id::text, 'has received other bytes than it counts' from upload left join whole using (content_id)
      where upload.store = 'rows' and coalesce(upload.outcome ->> 'state', '') not in ('filed', 'refused', 'left-out')
        and upload.received_bytes <> coalesce(whole.bytes, 0)`);
  const differences: Difference[] = rows.map((row) => ({ of: 'content', ...row }));
  differences.push(...(await directoryDifferences(reader)));
  if (!contentBytes) return differences;
  for (const content of await reader.select().from(blob)) {
    const hash = createHash('sha256');
    try {
      // Past the checksums: what is held to its hash here is what the store has.
      for await (const part of storeOf(content.store).read(content, 0, content.sizeBytes)) hash.update(part);
    } catch {
      continue; // Told above: it is not there whole.
    }
    if (hash.digest('hex') !== content.sha256)
      differences.push({ of: 'content', about: content.sha256, says: 'is kept under this hash and has another' });
  }
  return differences;
}

/** Files of the directory that are missing, too short or too long, or that nothing has needed for longer than the grace. */
async function directoryDifferences(reader: Reader): Promise<Difference[]> {
  const differences: Difference[] = [];
  const differ = (about: string, says: string) => differences.push({ of: 'content', about, says });
  for (const { sha256, sizeBytes } of await reader
    .select({ sha256: blob.sha256, sizeBytes: blob.sizeBytes })
    .from(blob)
    .where(eq(blob.store, 'directory')))
    if ((await keptBytes(sha256)) !== sizeBytes) differ(sha256, 'is not there whole');
  for await (const files of unneededFiles(reader, graceMs))
    for (const file of files) differ(path.basename(file), 'is content that nothing needs');
  return differences;
}
