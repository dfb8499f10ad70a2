import { and, asc, eq, max } from 'drizzle-orm';
import { mostItemPapers } from '@/core/agenda/model';
import { refuse } from '@/core/errors/refusal';
import { movedBefore } from '@/core/order/movedBefore';
import { acts } from '../acts/operation';
import type { Tx } from '../db/client';
import { agendaPaper, version } from '../db/schema';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { noteChanged, numberOf } from './items';
import { agendaOfItem, itemsOf } from './read';

/** Puts papers that the caller may see under an item, by reference. Those that are there already stay as they are. */
export const attachPapers = acts('agenda.attach', [], async (tx, actor, { itemId, documentIds }) => {
  const { agenda: found, item, dossier, named } = await agendaOfItem(tx, actor, itemId);
  if (item.removedAt !== null) refuse('not-found');
  const { papers, ids, already } = await attached(tx, actor, itemId, documentIds);
  if (ids.length === 0) return { entry: null, result: { attached: 0, already } };
  await noteChanged(tx, found.id);
  const number = numberOf(await itemsOf(tx, found.id), found.numbering, itemId);
  const count = papers.filter(({ id }) => ids.includes(id));
  return {
    entry: { act: 'agenda.papersAttached', subjects: [dossier.id, ...ids], detail: { count, number, agenda: named } },
    result: { attached: ids.length, already },
  };
});

/** Puts papers under an item whose agenda is locked; tells which, and how many were there already. */
export async function attached(tx: Tx, actor: Actor, itemId: string, documentIds: readonly string[]) {
  const papers = await papersFor(tx, actor, documentIds, 'see');
  const there = await tx.select().from(agendaPaper).where(eq(agendaPaper.itemId, itemId));
  const ids = [...new Set(documentIds)].filter((id) => !there.some(({ documentId }) => documentId === id));
  const already = papers.length - ids.length;
  if (ids.length === 0) return { papers, ids, already };
  if (there.length + ids.length > mostItemPapers)
    refuse('invalid', `An item has ${mostItemPapers} papers at most. None was added.`);
  const [last] = await tx
    .select({ position: max(agendaPaper.position) })
    .from(agendaPaper)
    .where(eq(agendaPaper.itemId, itemId));
  const after = (last?.position ?? -1) + 1;
  await tx
    .insert(agendaPaper)
    .values(ids.map((documentId, at) => ({ itemId, documentId, versionId: null, position: after + at })));
  return { papers, ids, already };
}

/** A paper of an item, which the caller may see, with its agenda. */
async function paperOfItem(tx: Tx, actor: Actor, agendaPaperId: string) {
  const [found] = await tx.select().from(agendaPaper).where(eq(agendaPaper.id, agendaPaperId));
  if (!found) refuse('not-found');
  const subject = await agendaOfItem(tx, actor, found.itemId);
  await papersFor(tx, actor, [found.documentId], 'see');
  return { ...subject, paper: found };
}

/** Holds one version of a paper, or lets it follow the newest; moves it among those of its item. */
export const changePaper = acts('agenda.changePaper', [], async (tx, actor, input) => {
  const { agenda: found, item, dossier, named, paper } = await paperOfItem(tx, actor, input.agendaPaperId);
  const versionId = input.heldVersion === null ? null : await versionNumbered(tx, paper.documentId, input.heldVersion);
  await tx.update(agendaPaper).set({ versionId }).where(eq(agendaPaper.id, paper.id));
  if (input.beforeId !== undefined) {
    const beside = await tx
      .select({ id: agendaPaper.id })
      .from(agendaPaper)
      .where(eq(agendaPaper.itemId, item.id))
      .orderBy(asc(agendaPaper.position), asc(agendaPaper.id));
    const ids = beside.map(({ id }) => id);
    if (input.beforeId !== null && !ids.includes(input.beforeId)) refuse('conflict');
    const placed = movedBefore(ids, paper.id, input.beforeId);
    for (const [position, id] of placed.entries())
      await tx.update(agendaPaper).set({ position }).where(eq(agendaPaper.id, id));
  }
  await noteChanged(tx, found.id);
  const number = numberOf(await itemsOf(tx, found.id), found.numbering, item.id);
  return {
    entry: { act: 'agenda.paperChanged', subjects: [dossier.id], detail: { number, agenda: named } },
    result: null,
  };
});

async function versionNumbered(tx: Tx, documentId: string, number: number): Promise<string> {
  const [found] = await tx
    .select({ id: version.id })
    .from(version)
    .where(and(eq(version.documentId, documentId), eq(version.number, number)));
  if (!found) refuse('invalid', 'The paper has no such version.');
  return found.id;
}

/** Takes a paper out of an item. The paper stays where it lives. */
export const detachPaper = acts('agenda.detach', [], async (tx, actor, { agendaPaperId }) => {
  const { agenda: found, item, dossier, named, paper } = await paperOfItem(tx, actor, agendaPaperId);
  await tx.delete(agendaPaper).where(eq(agendaPaper.id, paper.id));
  await noteChanged(tx, found.id);
  const number = numberOf(await itemsOf(tx, found.id), found.numbering, item.id);
  return {
    entry: { act: 'agenda.paperDetached', subjects: [dossier.id], detail: { number, agenda: named } },
    result: null,
  };
});
