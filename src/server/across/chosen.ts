import { eq, sql, type SQL } from 'drizzle-orm';
import { mostAcross, type AcrossQuestion } from '@/core/across/contract';
import { asks } from '../acts/operation';
import { allColumns } from '../columns/read';
import { momentNow } from '../conditions/moment';
import { meetsAll } from '../conditions/where';
import { db } from '../db/client';
import { document, journal, person, place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { homeIsTold, paperAllows } from '../gate/visible';

/** Papers that are chosen, themselves or by their home, as far as the caller may see them and be told where they lie, and that meet the conditions. */
async function chosen(actor: Actor, { marks, conditions, closedBefore = null }: AcrossQuestion): Promise<SQL> {
  const ids = sql.param(marks.map(({ id }) => id));
  const on = sql.param(marks.map((mark) => mark.on));
  // The deepest mark on the way to a place decides. Worked out once for each place, not for each paper.
  const homes = sql`select lying.id from ${place} as lying
    join lateral (
      select mark.on from unnest(${ids}::uuid[], ${on}::boolean[]) as mark (id, "on")
      where mark.id = any(lying.lineage)
      order by array_position(lying.lineage, mark.id) desc limit 1) as deepest on deepest.on`;
  // A mark on a paper is the deepest there can be.
  const itself = (turned: boolean) =>
    sql`${document.id} = any(${sql.param(marks.filter((mark) => mark.on === turned).map(({ id }) => id))}::uuid[])`;
  const moment = await momentNow();
  return sql`(${itself(true)} or ${document.homeId} in (${homes}) and not ${itself(false)})
    and ${closedBefore === null ? sql`true` : wasClosedBefore(closedBefore, moment.timeZone)} and ${homeIsTold(actor)} and ${paperAllows(actor, 'see')}
    and ${meetsAll(actor, conditions, await allColumns(db()), moment)}`;
}

/** Whether the home, or a place above it, is closed and was closed for the last time before a day. Worked out once for each place. */
const wasClosedBefore = (day: string, timeZone: string): SQL => sql`${document.homeId} in (
  select lying.id from ${place} as lying join (
    select closed.id from ${place} as closed where closed.closed
      and (select max(entry.at) from ${journal} as entry where entry.act = 'place.closed' and entry.subjects @> array[closed.id])
        < (${day}::date::timestamp at time zone ${timeZone}::text)
  ) as shut on shut.id = any(lying.lineage))`;

/** How many papers the ticks choose, with how many pages and bytes. */
export const acrossTotals = asks('across.totals', async (actor, question) => {
  const [sums] = await db()
    .select({
      papers: sql<number>`count(*)::int`,
      pages: sql<number>`coalesce(sum(${document.pageCount}), 0)::int`,
      sizeBytes: sql<number>`coalesce(sum(${document.sizeBytes}), 0)::float8`,
    })
    .from(document)
    .innerJoin(person, eq(person.id, document.filedBy))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(await chosen(actor, question));
  return sums ?? { papers: 0, pages: 0, sizeBytes: 0 };
});

/** The papers that the ticks choose; null where they are too many. */
export const acrossPapers = asks('across.papers', async (actor, question) => {
  const ids = await chosenIds(actor, question, mostAcross + 1);
  return ids.length > mostAcross ? null : ids;
});

/** The papers that the ticks choose, or as many of them. */
export async function chosenIds(actor: Actor, question: AcrossQuestion, most?: number): Promise<string[]> {
  const query = db()
    .select({ id: document.id })
    .from(document)
    .innerJoin(person, eq(person.id, document.filedBy))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(await chosen(actor, question))
    .orderBy(document.id);
  const rows = await (most === undefined ? query : query.limit(most));
  return rows.map(({ id }) => id);
}
