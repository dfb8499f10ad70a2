import { asc, eq, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { setPositions } from '../db/order';
import { acts } from '../acts/operation';
import { papersFor, placeFor } from '../gate/held';
import { document } from '../db/schema';

/**
 * Moves papers of a place before another paper of it (null: to the end), in the order shared by everyone. The first time,
 * every paper of the place gets a position, by title; later only moved ones do.
 */
export const reorderPapers = acts('papers.reorder', [], async (tx, actor, input) => {
  const papers = await papersFor(tx, actor, input.documentIds, 'amend');
  const homes = new Set(papers.map((paper) => paper.homeId));
  const [homeId] = homes;
  if (homeId === undefined || homes.size > 1) refuse('invalid', 'Papers are put in order within one place.');
  const home = await placeFor(tx, actor, homeId, 'amend');
  const rows = await tx
    .select({ id: document.id, position: document.position })
    .from(document)
    .where(eq(document.homeId, homeId))
    .orderBy(sql`${document.position} nulls last`, asc(document.title), asc(document.id))
    .for('update');
  const moving = new Set(input.documentIds);
  const rest = rows.filter((row) => !moving.has(row.id));
  const at = input.beforeId === null ? rest.length : rest.findIndex((row) => row.id === input.beforeId);
  if (at === -1) refuse('not-found');
  const moved = input.documentIds.filter((id, index) => input.documentIds.indexOf(id) === index);
  const room = moved.length + 1;
  const after = rest[at]?.position ?? (rest[at - 1]?.position ?? 0) + room;
  const before = rest[at - 1]?.position ?? after - room;
  const step = (after - before) / room;
  // Renumbers all papers if some have no position yet, or the gap has become too small.
  const counts = rest.some((row) => row.position === null) || step < 1e-6;
  const order = counts
    ? [...rest.slice(0, at).map((row) => row.id), ...moved, ...rest.slice(at).map((row) => row.id)].map(
        (id, index) => [id, index + 1] as const,
      )
    : moved.map((id, index) => [id, before + step * (index + 1)] as const);
  await setPositions(tx, document, order);
  const detail = { count: papers, name: home };
  return { entry: { act: 'papers.reordered', subjects: [...moved, home.id], detail }, result: null };
});
