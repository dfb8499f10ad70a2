import { sql } from 'drizzle-orm';
import type { Reader } from '../db/client';
import { signatureOf } from '../documents/signature';
import type { Difference } from './difference';

/** Compares what papers store about their current version with the version and what was read from it. */
export async function countDifferences(reader: Reader): Promise<Difference[]> {
  const { rows } = await reader.execute<{ id: string; says: string }>(sql`
    select document.id, 'has no current version, or one of another paper' as says from document
      left join version on version.id = document.version_id and version.document_id = document.id where version.id is null
    union all
    select document.id, 'does not show the newest version' from document join version on version.id = document.version_id
      where version.number <> (select max(newest.number) from version as newest where newest.document_id = document.id)
    union all
    select document.id, 'shows another kind or size than its version' from document
      join version on version.id = document.version_id
      where version.stamp <> document.stamp or version.size_bytes <> document.size_bytes
    union all
    select document.id, 'shows other pages or words than were counted' from document
      join version on version.id = document.version_id join reading on reading.sha256 = version.sha256
      where document.page_count is distinct from reading.page_count or document.word_count is distinct from reading.word_count
    union all
    select document.id, 'says another thing of its signatures than they do' from document
      where document.signature is distinct from ${signatureOf}
    union all
    select document.id, 'is filed in its own home as well' from document
      join filing on filing.document_id = document.id and filing.place_id = document.home_id`);
  return rows.map(({ id, says }) => ({ of: 'counts', about: id, says }));
}
