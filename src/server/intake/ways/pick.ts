import { and, asc, eq, ilike, inArray } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { acts, asks } from '../../acts/operation';
import { db } from '../../db/client';
import { storePaper, wayIn } from '../../db/schema';
import { oneMoreLook } from './model';
import { requireKeeper } from './ways';

/** So many papers of a store are listed at once. */
const mostListed = 300;

/** What lay in a connected store at the last look. */
export const inStore = asks('intake.inStore', async (actor, { id, words }) => {
  requireKeeper(actor);
  const has = words.split(/\s+/u).map((word) => ilike(storePaper.path, `%${word.replaceAll(/[\\%_]/gu, '\\$&')}%`));
  const rows = await db()
    .select()
    .from(storePaper)
    .where(and(eq(storePaper.wayInId, id), ...has))
    .orderBy(asc(storePaper.path))
    .limit(mostListed + 1);
  const papers = rows.slice(0, mostListed).map(({ path, sizeBytes, changedAt, state }) => ({
    ...{ path, sizeBytes, state },
    changedAt: changedAt?.toISOString() ?? null,
  }));
  return { papers, hasMore: rows.length > mostListed };
});

/** Has papers of a connected store taken at the next look, which is now. */
export const pickFromStore = acts('intake.pick', [], async (tx, actor, { id, paths }) => {
  requireKeeper(actor);
  const [way] = await tx.select().from(wayIn).where(eq(wayIn.id, id)).for('update');
  if (!way || way.removedAt !== null || way.settings.kind !== 'store') refuse('not-found');
  if (!way.on) refuse('invalid', 'This way in is switched off.');
  const picked = await tx
    .update(storePaper)
    .set({ state: 'picked' })
    .where(and(eq(storePaper.wayInId, id), inArray(storePaper.path, paths), eq(storePaper.state, 'there')))
    .returning({ path: storePaper.path });
  if (picked.length === 0) refuse('conflict', 'These are taken already, or are gone from the store.');
  await tx.update(wayIn).set({ looksWanted: oneMoreLook }).where(eq(wayIn.id, id));
  return {
    entry: { act: 'store.picked', subjects: [], detail: { count: picked.length, name: way.name } },
    result: { picked: picked.length },
  };
});
