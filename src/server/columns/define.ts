import { and, eq, max, sql } from 'drizzle-orm';
import type { ColumnFields } from '@/core/columns/contract';
import { isListed, type Column } from '@/core/columns/model';
import { checkValue } from '@/core/columns/read';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { nameKey } from '@/core/text/fold';
import { reorder } from '../db/order';
import { acts } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import type { Reader, Tx } from '../db/client';
import { columnDef, document, place } from '../db/schema';
import { recomputeGiven } from './given';
import { allColumns, allLists, lexiconsOf } from './read';

/** Checks the fields that belong to the column's type, and empties all others. */
export async function keptFields(reader: Reader, fields: ColumnFields, placeId: string) {
  const { name, help, type, required } = fields;
  const lists = await allLists(reader);
  const listId = isListed(type) ? fields.listId : null;
  if (isListed(type) && !lists.some((list) => list.id === listId))
    refuse('invalid', 'A choice takes its values from a controlled list. Choose one, or make one.', [
      { path: 'listId', says: 'Choose a controlled list.' },
    ]);
  if (type === 'amount' && fields.currency === '')
    refuse('invalid', 'An amount needs its currency: GBP is the form.', [
      { path: 'currency', says: 'Name the currency.' },
    ]);
  const kept = {
    name,
    nameKey: nameKey(name),
    help,
    type,
    listId,
    open: isListed(type) && fields.open,
    unit: type === 'number' ? fields.unit : '',
    decimals: type === 'number' ? fields.decimals : null,
    currency: type === 'amount' ? fields.currency : '',
    required,
    meaning: type === 'date' ? fields.meaning : ('none' as const),
  };
  const lexicons = lexiconsOf(lists);
  const probe: Column = { ...kept, id: '', placeId, defaultValue: null, position: 0, retired: false, revision: 0 };
  const defaultValue = orRefuse(checkValue(probe, fields.defaultValue, { terms: (id) => lexicons.get(id) }));
  return { ...kept, defaultValue };
}

/** Refuses a name that a column in force above or below already has: it would appear twice in one list. */
async function freeName(
  tx: Tx,
  name: string,
  lineage: readonly string[],
  placeId: string,
  but: string | null,
): Promise<void> {
  const rows = await tx
    .select({ id: columnDef.id, placeId: columnDef.placeId, lineage: place.lineage })
    .from(columnDef)
    .innerJoin(place, eq(place.id, columnDef.placeId))
    .where(and(eq(columnDef.nameKey, nameKey(name)), eq(columnDef.retired, false)));
  const taken = rows.some((row) => row.id !== but && (lineage.includes(row.placeId) || row.lineage.includes(placeId)));
  if (taken) refuse('name-taken', 'Another column in force here already has that name. Choose a different one.');
}

/** Defines a column at a place, for it and everything below. Returns how many papers lack a value, if it is required. */
export const defineColumn = acts('column.define', [], async (tx, actor, input) => {
  const at = await placeFor(tx, actor, input.placeId, 'manage');
  await freeName(tx, input.name, at.lineage, at.id, null);
  const kept = await keptFields(tx, input, at.id);
  const [last] = await tx.select({ position: max(columnDef.position) }).from(columnDef);
  const [made] = await tx
    .insert(columnDef)
    .values({ ...kept, placeId: at.id, position: (last?.position ?? 0) + 1 })
    .returning({ id: columnDef.id });
  if (!made) throw new Error('The column was not made');
  const missing = input.required ? await papersBelow(tx, at.id) : 0;
  return {
    entry: {
      act: 'column.defined',
      subjects: [at.id, made.id],
      detail: { name: input.name, place: at.name, placeId: at.id },
    },
    result: { id: made.id, missing },
  };
});

async function papersBelow(tx: Tx, placeId: string): Promise<number> {
  const [row] = await tx
    .select({ papers: sql<number>`count(*)::int` })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(sql`${document.disposedAt} is null and ${place.lineage} @> array[${placeId}::uuid]`);
  return row?.papers ?? 0;
}

/** A column whose place the caller manages. */
export async function managedColumn(tx: Tx, actor: Actor, columnId: string) {
  const column = (await allColumns(tx)).find((each) => each.id === columnId);
  if (!column) refuse('not-found');
  const at = await placeFor(tx, actor, column.placeId, 'manage');
  return { column, at };
}

/** Writes a new column, with its default where there is one. */
export async function writeColumn(
  tx: Tx,
  column: Column,
  revision: number,
  values: Partial<typeof columnDef.$inferInsert>,
): Promise<void> {
  const changed = await tx
    .update(columnDef)
    .set({ ...values, revision: revision + 1 })
    .where(and(eq(columnDef.id, column.id), eq(columnDef.revision, revision)))
    .returning({ id: columnDef.id });
  if (changed.length === 0) refuse('conflict');
}

/** Changes a column, except its type and list. Values stay as they are. */
export const changeColumn = acts('column.change', [], async (tx, actor, input) => {
  const { column, at } = await managedColumn(tx, actor, input.columnId);
  await freeName(tx, input.name, at.lineage, at.id, column.id);
  if (column.type === 'amount' && input.currency !== column.currency)
    refuse('invalid', 'The currency of a column changes with its type: use “Change its type”.');
  const kept = await keptFields(tx, { ...input, type: column.type, listId: column.listId }, at.id);
  await writeColumn(tx, column, input.revision, kept);
  return {
    entry: { act: 'column.changed', subjects: [at.id, column.id], detail: { from: column.name, name: input.name } },
    result: { revision: input.revision + 1 },
  };
});

/** Retires a column, keeping its values, or brings a retired one back. */
export const retireColumn = acts('column.retire', ['given'], async (tx, actor, input) => {
  const { column, at } = await managedColumn(tx, actor, input.columnId);
  if (!input.retired) await freeName(tx, column.name, at.lineage, at.id, column.id);
  await writeColumn(tx, column, input.revision, { retired: input.retired });
  await recomputeGiven(tx, at.id);
  const act = input.retired ? ('column.retired' as const) : ('column.restored' as const);
  return { entry: { act, subjects: [at.id, column.id], detail: { name: column.name } }, result: null };
});

/** Moves a column before another of the same place (null: to the end). */
export const reorderColumn = acts('column.reorder', [], async (tx, actor, input) => {
  const { column, at } = await managedColumn(tx, actor, input.columnId);
  const ids = (await allColumns(tx)).filter((each) => each.placeId === column.placeId).map((each) => each.id);
  await reorder(tx, columnDef, ids, column.id, input.beforeId);
  return {
    entry: { act: 'column.reordered', subjects: [at.id, column.id], detail: { name: column.name } },
    result: null,
  };
});
