import { and, eq, isNull, sql } from 'drizzle-orm';
import { deepest, mostItems, type Numbering } from '@/core/agenda/model';
import type { Standing } from '@/core/outline/outline';
import { fullNumbersOf } from '@/core/agenda/numbering';
import { branchOf, withBranch } from '@/core/outline/move';
import { invalidField } from '@/core/errors/issue';
import { orRefuse, refuse, Refusal } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { acts } from '../acts/operation';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { agenda, agendaItem, agendaReader, itemOutcome } from '../db/schema';
import { keepOrder, putBack, requireReaders } from '../outline/outline';
import { isIssued } from './issued';
import { agendaFor, agendaOfItem, itemsOf } from './read';

export type ItemRow = Awaited<ReturnType<typeof itemsOf>>[number];

/** What sentences call an item: its whole number. */
export function numberOf(items: readonly ItemRow[], numbering: Numbering, itemId: string): string {
  const numbers = fullNumbersOf(items, numbering);
  return numbers[items.findIndex(({ id }) => id === itemId)] ?? '';
}

/** Notes that an agenda was changed, so that its printed form is made again where there is one; until a pack of it is issued. */
export async function noteChanged(tx: Tx, agendaId: string): Promise<void> {
  await tx
    .update(agenda)
    .set({
      changedAt: now(),
      filingTries: 0,
      filing: sql`case when ${agenda.filing} = 'no' or ${isIssued} then ${agenda.filing} else 'waiting' end`,
    })
    .where(eq(agenda.id, agendaId));
}

/** Sets when an agenda begins, and how its items are numbered. */
export const setAgenda = acts('agenda.set', [], async (tx, actor, input) => {
  const { agenda: found, dossier, named } = await agendaFor(tx, actor, input.agendaId);
  if (found.revision !== input.revision) refuse('conflict');
  const { startsAt, numbering } = input;
  await tx
    .update(agenda)
    .set({ startsAt, numbering, revision: input.revision + 1 })
    .where(eq(agenda.id, found.id));
  await noteChanged(tx, found.id);
  return { entry: { act: 'agenda.set', subjects: [dossier.id], detail: { agenda: named } }, result: null };
});

/** Puts items on an agenda, in an item or at the top, before another or last. */
export const addItems = acts('agenda.addItems', [], async (tx, actor, input) => {
  const { agenda: found, dossier, named } = await agendaFor(tx, actor, input.agendaId);
  let items: Standing[] = await itemsOf(tx, found.id);
  if (items.length + input.titles.length > mostItems)
    throw new Refusal(invalidField('titles', `An agenda has ${mostItems} items at most. Nothing was added.`));
  const made = input.titles.map((title) => ({ id: crypto.randomUUID(), title }));
  for (const { id } of made)
    items = orRefuse(withBranch(items, [{ id, parentId: null }], input.parentId, input.beforeId, deepest));
  await tx
    .insert(agendaItem)
    .values(made.map((each) => ({ ...each, agendaId: found.id, parentId: input.parentId, position: mostItems })));
  await keepOrder(tx, agendaItem, items);
  await noteChanged(tx, found.id);
  const detail = { count: counted(made.length, 'item'), agenda: named };
  return {
    entry: { act: 'agenda.itemsAdded', subjects: [dossier.id], detail },
    result: { itemIds: made.map(({ id }) => id) },
  };
});

/** Changes what an item says, and who may know of it. */
export const changeItem = acts('agenda.changeItem', [], async (tx, actor, { itemId, readers, revision, ...says }) => {
  const { agenda: found, item, dossier, named } = await agendaOfItem(tx, actor, itemId);
  if (item.removedAt !== null) refuse('not-found');
  if (item.revision !== revision) refuse('conflict');
  await tx
    .update(agendaItem)
    .set({ ...says, confidential: readers !== null, revision: revision + 1 })
    .where(eq(agendaItem.id, itemId));
  // One item takes what is carried over.
  if (says.takesCarried)
    await tx
      .update(agendaItem)
      .set({ takesCarried: false })
      .where(and(eq(agendaItem.agendaId, found.id), sql`${agendaItem.id} <> ${itemId}`));
  await tx.delete(agendaReader).where(eq(agendaReader.itemId, itemId));
  const known = await requireReaders(tx, readers ?? []);
  if (known.length > 0) await tx.insert(agendaReader).values(known.map((personId) => ({ itemId, personId })));
  await noteChanged(tx, found.id);
  const number = numberOf(await itemsOf(tx, found.id), found.numbering, itemId);
  return {
    entry: { act: 'agenda.itemChanged', subjects: [dossier.id], detail: { number, agenda: named } },
    result: null,
  };
});

/** Moves an item, with all that lie in it, before another or last. */
export const moveItem = acts('agenda.moveItem', [], async (tx, actor, { itemId, parentId, beforeId }) => {
  const { agenda: found, dossier, named } = await agendaOfItem(tx, actor, itemId);
  const items = await itemsOf(tx, found.id);
  const branch = branchOf(items, itemId);
  if (branch.length === 0) refuse('not-found');
  const placed = orRefuse(withBranch(items, branch, parentId, beforeId, deepest));
  const from = numberOf(items, found.numbering, itemId);
  const to = numberOf(placed, found.numbering, itemId);
  const isSame = placed.every(({ id, parentId: within }, at) => items[at]?.id === id && items[at].parentId === within);
  if (isSame) return { entry: null, result: null };
  await keepOrder(tx, agendaItem, placed);
  await noteChanged(tx, found.id);
  return {
    entry: { act: 'agenda.itemMoved', subjects: [dossier.id], detail: { from, to, agenda: named } },
    result: null,
  };
});

/** Takes an item off an agenda with all that lie in it, or puts it back with what went with it. */
export const removeItem = acts('agenda.removeItem', [], async (tx, actor, { itemId, removed }) => {
  const { agenda: found, item, dossier, named } = await agendaOfItem(tx, actor, itemId);
  if (removed === (item.removedAt !== null)) refuse('conflict');
  const items = await itemsOf(tx, found.id);
  if (removed) {
    const branch = branchOf(items, itemId);
    const number = numberOf(items, found.numbering, itemId);
    const ids = branch.map(({ id }) => id);
    const cameTo = and(idIn(itemOutcome.itemId, ids), isNull(itemOutcome.removedAt));
    if ((await tx.$count(itemOutcome, cameTo)) > 0)
      refuse('conflict', 'A decision or an action is recorded under this item. Nothing was removed.');
    await tx.update(agendaItem).set({ removedAt: now() }).where(idIn(agendaItem.id, ids));
    await noteChanged(tx, found.id);
    const entry = { act: 'agenda.itemRemoved', subjects: [dossier.id], detail: { number, agenda: named } } as const;
    return { entry, result: { items: branch.length } };
  }
  // What was removed in one act has one moment.
  const gone = await tx
    .select()
    .from(agendaItem)
    .where(
      and(
        eq(agendaItem.agendaId, found.id),
        sql`${agendaItem.removedAt} = (select removed_at from agenda_item where id = ${itemId})`,
      ),
    )
    .orderBy(agendaItem.position);
  const branch = branchOf(gone, itemId);
  if (items.length + branch.length > mostItems) refuse('invalid', `An agenda has ${mostItems} items at most.`);
  const placed = putBack(items, branch, deepest);
  await tx
    .update(agendaItem)
    .set({ removedAt: null })
    .where(
      idIn(
        agendaItem.id,
        branch.map(({ id }) => id),
      ),
    );
  await keepOrder(tx, agendaItem, placed);
  await noteChanged(tx, found.id);
  const number = numberOf(placed, found.numbering, itemId);
  return {
    entry: { act: 'agenda.itemPutBack', subjects: [dossier.id], detail: { number, agenda: named } },
    result: { items: branch.length },
  };
});
