import { and, desc, eq, sql, type SQL } from 'drizzle-orm';
import { newsOf, type NewsLine, type PaperChange } from '@/core/desk/news';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { document, person, place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { paperAllows } from '../gate/visible';
import { namesOf } from '../known/names';
import { standId } from '../known/standing';

/** Of so many changes the lines are made, and so many lines are shown. */
const [mostChanges, mostLines] = [2000, 12];

/** What was changed lately of what the caller may see: by everyone, or what they filed themselves. */
export const newsFor = asks('desk.news', (actor, { whose }) =>
  whose === 'mine'
    ? newsWhere(actor, eq(document.filedBy, actor.personId), { most: mostLines, asFiled: true })
    : newsWhere(actor, sql`true`, { most: mostLines }),
);

/**
 * Changes of papers that the caller may see, as lines, the latest first.
 * @param which a condition on `document`, which is joined to its home
 * @param asFiled by whom and when they were filed, and not changed last
 */
export async function newsWhere(
  actor: Actor,
  which: SQL,
  { most, asFiled = false }: { readonly most: number; readonly asFiled?: boolean },
): Promise<NewsLine[]> {
  const rows = await db()
    .select({
      id: document.id,
      title: document.title,
      stamp: document.stamp,
      placeId: standId(actor),
      by: person.name,
      filedAt: document.filedAt,
      changedAt: document.changedAt,
    })
    .from(document)
    .innerJoin(person, eq(person.id, asFiled ? document.filedBy : document.changedBy))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(paperAllows(actor, 'see'), which))
    .orderBy(desc(asFiled ? document.filedAt : document.changedAt))
    .limit(mostChanges);
  const lines = newsOf(
    rows.map(({ filedAt, changedAt, ...row }): PaperChange => {
      const isFiled = asFiled || filedAt.getTime() === changedAt.getTime();
      const at = (isFiled ? filedAt : changedAt).toISOString();
      return { ...row, placeName: '', at, verb: isFiled ? 'filed' : 'changed' };
    }),
    most,
  );
  const names = await namesOf(db(), actor, { place: lines.map(({ placeId }) => placeId) }, { inFull: true });
  return lines.map((line) => ({ ...line, placeName: names[line.placeId] ?? 'its place' }));
}
