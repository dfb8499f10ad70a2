import { and, eq, isNotNull } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { mayHoldPapers } from '@/core/tree/placeKind';
import { acts } from '../acts/operation';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { disposalRunItem, document } from '../db/schema';
import { rehome } from '../documents/amend';
import type { Actor } from '../gate/actor';
import { papersFor, placeFor } from '../gate/held';
import { paperIsDisposed } from '../gate/visible';

/** Puts papers into the disposal tray, as a part of an act that journals it. */
export async function putInTray(tx: Tx, actor: Actor, documentIds: readonly string[]) {
  const papers = await papersFor(tx, actor, documentIds, 'amend');
  const ids = papers.map((paper) => paper.id);
  await tx.update(document).set({ disposedAt: now(), disposedBy: actor.personId }).where(idIn(document.id, ids));
  return papers;
}

/** Puts papers into the disposal tray. Nothing is lost. */
export const disposePapers = acts('papers.dispose', [], async (tx, actor, input) => {
  const papers = await putInTray(tx, actor, input.documentIds);
  const ids = papers.map((paper) => paper.id);
  const subjects = [...ids, ...new Set(papers.map((paper) => paper.homeId))];
  return {
    entry: { act: 'papers.disposed', subjects, detail: { count: papers } },
    result: { disposed: ids.length },
  };
});

/**
 * Restores papers from the disposal tray, with all their filings; those already restored are ignored. They go where they were,
 * or, as where that is closed, into another place: that needs `manage` where they were and `add` where they go.
 */
export const putBackPapers = acts('papers.putBack', [], async (tx, actor, { documentIds, toId }) => {
  const papers = await disposedFor(tx, actor, documentIds, toId === undefined ? 'amend' : 'manage');
  if (papers.length === 0) refuse('not-found');
  const homes = [...new Set(papers.map((paper) => paper.homeId))];
  const ids = papers.map((paper) => paper.id);
  const target = toId === undefined ? null : await placeFor(tx, actor, toId, 'add');
  if (target && !mayHoldPapers(target.kind)) refuse('invalid', 'Papers are filed in a series or below it.');
  if (!target) for (const homeId of homes) await placeFor(tx, actor, homeId, 'amend');
  await tx.update(document).set({ disposedAt: null, disposedBy: null }).where(idIn(document.id, ids));
  await tx
    .update(disposalRunItem)
    .set({ state: 'putBack' })
    .where(and(idIn(disposalRunItem.documentId, ids), eq(disposalRunItem.state, 'disposed')));
  const result = { restored: ids.length };
  if (!target)
    return { entry: { act: 'papers.putBack', subjects: [...ids, ...homes], detail: { count: papers } }, result };
  await rehome(tx, actor, ids, target.id);
  const detail = { count: papers, to: target };
  return { entry: { act: 'papers.putBackElsewhere', subjects: [...ids, ...homes, target.id], detail }, result };
});

/** Papers among these that lie in the disposal tray and for which the caller has a capability. Locks their rows. */
export function disposedFor(tx: Tx, actor: Actor, ids: readonly string[], capability: 'amend' | 'manage') {
  return tx
    .select({ id: document.id, title: document.title, homeId: document.homeId })
    .from(document)
    .where(and(idIn(document.id, ids), isNotNull(document.disposedAt), paperIsDisposed(actor, capability)))
    .orderBy(document.id)
    .for('update');
}
