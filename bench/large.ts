import { createHash } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { kindOfMediaType } from '@/core/files/fileKind';
import type { Actor } from '@/server/gate/actor';
import { writableDb } from '@/server/db/client';
import { transaction } from '@/server/db/transaction';
import { appendToJournal } from '@/server/acts/append';

/**
 * Puts many papers into places at once, past the use-cases and with one content among them all: for measuring,
 * where filing each as a person would takes an hour. One transaction, one journal entry. Titles have numbers and
 * words to sort and find by; filed and changed spread over four years.
 */
export async function fillWithPapers(actor: Actor, placeIds: readonly string[], papers: number): Promise<void> {
  const kind = kindOfMediaType('text/plain');
  if (!kind) throw new Error('Plain text is no kind');
  const content = Buffer.from('A paper for measuring.\n');
  await transaction([], async (tx) => {
    const sha256 = createHash('sha256').update(content).digest('hex');
    const contentId = crypto.randomUUID();
    await tx.execute(sql`
      with kept as (
        insert into blob (sha256, content_id, size_bytes) values (${sha256}, ${contentId}, ${content.length})
        on conflict do nothing returning content_id
      )
      insert into blob_chunk (content_id, start_byte, data) select content_id, 0, ${content} from kept`);
    await tx.execute(sql`
      create temporary table seeded on commit drop as
      select n, gen_random_uuid() as document_id, gen_random_uuid() as version_id,
        (${sql.param([...placeIds])}::uuid[])[1 + n % ${placeIds.length}::integer] as home_id,
        (array['Minutes', 'Agenda', 'Invoice', 'Survey report', 'Letter', 'Berth lease', 'Certificate'])[1 + n % 7] || ' ' || n as title,
        timestamptz '2023-04-01' + (n * 7919 % 1330) * interval '1 day' + n % 86400 * interval '1 second' as at
      from generate_series(1, ${papers}::integer) as n`);
    await tx.execute(sql`
      insert into document (id, home_id, title, title_key, search_key, stamp, size_bytes, page_count, filed_by, filed_at, changed_by, changed_at)
      select document_id, home_id, title, lower(title), lower(title), ${kind.stamp}, ${content.length}, 1 + n % 40,
        ${actor.personId}::uuid, at, ${actor.personId}::uuid, at + interval '3 days'
      from seeded`);
    await tx.execute(sql`
      insert into version (id, document_id, number, sha256, file_name, media_type, stamp, size_bytes, made_by, made_at)
      select version_id, document_id, 1, ${sha256}, title || '.txt', ${kind.mediaType}, ${kind.stamp}, ${content.length}, ${actor.personId}::uuid, at
      from seeded`);
    // Without knowing how many there are, the planner compares each with each.
    await tx.execute(sql`analyze seeded, document`);
    await tx.execute(sql`
      update document set version_id = seeded.version_id from seeded where document.id = seeded.document_id`);
    await appendToJournal(tx, actor, {
      act: 'paper.filed',
      subjects: [...placeIds].slice(0, 100),
      detail: { title: `${papers} papers for measuring` },
    });
  });
  await writableDb().execute(sql`analyze`);
}
