import { createHash } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { blobStore } from '../blobs/blobStore';
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
      where blob.size_bytes > 0 and (whole.content_id is null or whole.first_byte <> 0 or whole.broken or whole.bytes <> blob.size_bytes)
    union all
    select whole.content_id::text, 'is content that nothing needs' from whole
      where not exists (select from blob where blob.content_id = whole.content_id)
        and not exists (select from upload where upload.content_id = whole.content_id
          and coalesce(upload.outcome ->> 'state', '') not in ('filed', 'refused', 'left-out'))
    union all
    select version.id::text, 'is a version whose content is of another size' from version join blob using (sha256)
      where blob.size_bytes <> version.size_bytes
    union all
    select upload.id::text, 'has received other bytes than it counts' from upload left join whole using (content_id)
      where coalesce(upload.outcome ->> 'state', '') not in ('filed', 'refused', 'left-out')
        and upload.received_bytes <> coalesce(whole.bytes, 0)`);
  const differences: Difference[] = rows.map((row) => ({ of: 'content', ...row }));
  if (!contentBytes) return differences;
  for (const { sha256, contentId, sizeBytes } of await reader.select().from(blob)) {
    const hash = createHash('sha256');
    try {
      for await (const piece of blobStore.read(contentId, 0, sizeBytes)) hash.update(piece);
    } catch {
      continue; // Told above: it is not there whole.
    }
    if (hash.digest('hex') !== sha256)
      differences.push({ of: 'content', about: sha256, says: 'is kept under this hash and has another' });
  }
  return differences;
}
