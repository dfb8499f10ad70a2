import { and, eq, sql, type SQL } from 'drizzle-orm';
import { dueAt } from '@/core/disposal/due';
import type { DisposedPaper, TrayOrder } from '@/core/disposal/model';
import { searchKey } from '@/core/text/fold';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { document, library, person, place } from '../db/schema';
import { paperIsDisposed, placeIsStill } from '../gate/visible';
import { paperIsHeld } from '../holds/held';
import { fullName } from '../known/places';

const orders: Readonly<Record<TrayOrder, SQL>> = {
  newest: sql`${document.disposedAt} desc`,
  oldest: sql`${document.disposedAt}`,
  title: sql`${document.title}`,
  place: sql`${fullName}, ${document.title}`,
  person: sql`${person.name}, ${document.disposedAt} desc`,
};

/** Papers in the disposal tray that the caller may restore, by words of title, place or person. */
export const disposedPapers = asks('papers.disposed', async (actor, { words, order, most }) => {
  const [settings] = await db().select({ trayDays: library.trayDays, since: library.trayDaysSince }).from(library);
  const { trayDays, since } = settings ?? { trayDays: null, since: new Date(0) };
  const isAsked = (word: string): SQL => {
    const like = `%${escapeLike(word)}%`;
    return sql`(${document.searchKey} like ${like} or ${place.searchKey} like ${like} or ${person.searchKey} like ${like})`;
  };
  const asked = searchKey(words).split(' ').filter(Boolean);
  const held = await paperIsHeld(db());
  const where = and(paperIsDisposed(actor), ...asked.map(isAsked));
  const from = () =>
    db()
      .select({
        id: document.id,
        title: document.title,
        stamp: document.stamp,
        sizeBytes: document.sizeBytes,
        homeId: place.id,
        homeName: fullName,
        disposedAt: document.disposedAt,
        disposedBy: sql<string>`coalesce(${person.name}, '')`,
        closed: sql<boolean>`${placeIsStill('add')}`,
        locked: sql<boolean>`${placeIsStill('amend')}`,
        held: sql<boolean>`${held}`,
        mayDestroy: sql<boolean>`${paperIsDisposed(actor, 'manage')}`,
      })
      .from(document)
      .innerJoin(place, eq(place.id, document.homeId))
      .leftJoin(person, eq(person.id, document.disposedBy));
  const [rows, [counted]] = await Promise.all([
    from().where(where).orderBy(orders[order], document.id).limit(most),
    db()
      .select({ total: sql<number>`count(*)::int` })
      .from(document)
      .innerJoin(place, eq(place.id, document.homeId))
      .leftJoin(person, eq(person.id, document.disposedBy))
      .where(where),
  ]);
  const papers = rows.map(({ disposedAt, closed, locked, held, ...row }): DisposedPaper => {
    const at = disposedAt ?? new Date(0);
    return {
      ...row,
      disposedAt: at.toISOString(),
      dueAt: dueAt(at, trayDays, since),
      still: closed ? 'closedPlace' : locked ? 'lockedPlace' : held ? 'held' : null,
    };
  });
  return { papers, total: counted?.total ?? 0, trayDays };
});
