import { sql } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import { convertValues } from '@/core/columns/convert';
import { columnTypeWords, sameValue, type Column, type Value } from '@/core/columns/model';
import { refuse } from '@/core/errors/refusal';
import { acts, asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import type { Tx } from '../db/client';
import { document, givenValue } from '../db/schema';
import { snapshot } from '../db/transaction';
import { keptFields, managedColumn, writeColumn } from './define';
import { recomputeGiven } from './given';
import { allLists, asNames, lexiconsOf, namesFor, vocabularyFor } from './read';
import { addTerms } from './setValues';
import { keepChanges, writeOwn, type OwnChange } from './write';

type Wanted = Pick<ReadInputOf<'column.forecastType'>, 'type' | 'listId' | 'unit' | 'decimals' | 'currency'>;

/** A column whose type the caller may change. Papers moved elsewhere keep its values, so this is for keepers, who see them all. */
async function retypeable(tx: Tx, actor: Actor, columnId: string) {
  const found = await managedColumn(tx, actor, columnId);
  if (!actor.keeper) refuse('not-allowed', 'Only a keeper changes the type of a column. Ask one of them.');
  return found;
}

/** The column as it would become, and the outcome for each of its present values. */
async function conversion(tx: Tx, actor: Actor, column: Column, wanted: Wanted) {
  const { type, listId, unit, decimals, currency } = wanted;
  const kept = await keptFields(
    tx,
    { ...column, type, listId, unit, decimals, currency, defaultValue: null },
    column.placeId,
  );
  const after: Column = { ...column, ...kept, defaultValue: null };
  const rows = await tx.execute<{ value: Value; papers: number }>(sql`
    select ${document.ownValues} -> ${column.id} as value, count(*)::int as papers
    from ${document} where ${document.ownValues} ? ${column.id} group by 1`);
  const lexicons = lexiconsOf(await allLists(tx));
  const values = rows.rows;
  const named = await namesFor(
    tx,
    actor,
    [column],
    values.map(({ value }) => ({ [column.id]: value })),
  );
  const vocabulary = await vocabularyFor(tx, actor, [after], lexicons);
  return { after, kept, ...convertValues(column, after, values, asNames(lexicons, named), vocabulary) };
}

const sum = (rows: readonly { papers: number }[]): number => rows.reduce((total, row) => total + row.papers, 0);

/** What a change of type would do to a column's values: how many convert, which are lost and why. */
export const forecastType = asks('column.forecastType', async (actor, input) => {
  return snapshot(async (tx) => {
    const { column } = await retypeable(tx, actor, input.columnId);
    const { converts, lost, newTerms } = await conversion(tx, actor, column, input);
    const examples = [...lost].sort((a, b) => b.papers - a.papers).slice(0, 20);
    return { converts: sum(converts), lost: sum(lost), examples, newTerms };
  });
});

/** Changes a column's type and converts its values, in one act. Keeps the former values for undoing. */
export const setType = acts('column.setType', ['given'], async (tx, actor, input) => {
  const { column, at } = await retypeable(tx, actor, input.columnId);
  if (input.addTerms) {
    const { newTerms, after } = await conversion(tx, actor, column, input);
    if (after.listId !== null && newTerms.length > 0) {
      if (!actor.keeper && !after.open) refuse('not-allowed', 'Only a keeper puts values on a closed list.');
      const there = (await allLists(tx)).find((list) => list.id === after.listId)?.terms ?? [];
      await addTerms(tx, after.listId, newTerms, Math.max(0, ...there.map((each) => each.position)));
    }
  }
  const { kept, converts } = await conversion(tx, actor, column, input);
  await writeColumn(tx, column, input.revision, kept);
  const papers = await tx
    .select({ id: document.id, own: document.ownValues })
    .from(document)
    .where(sql`${document.ownValues} ? ${column.id}`);
  const becomes = new Map(converts.map((each) => [JSON.stringify(each.from), each.value]));
  const changes = papers.flatMap((paper): OwnChange[] => {
    const before = paper.own[column.id] ?? null;
    const after = becomes.get(JSON.stringify(before)) ?? null;
    return sameValue(before, after) ? [] : [{ documentId: paper.id, columnId: column.id, before, after }];
  });
  await writeOwn(tx, actor, changes);
  const recordUnder = await keepChanges(tx, changes);
  const gave = await tx
    .delete(givenValue)
    .where(sql`${givenValue.columnId} = ${column.id}`)
    .returning({ placeId: givenValue.placeId });
  for (const { placeId } of gave) await recomputeGiven(tx, placeId);
  const detail = {
    name: column.name,
    from: columnTypeWords[column.type],
    to: columnTypeWords[input.type],
    papers: changes.length,
  };
  return {
    entry: { act: 'column.retyped', subjects: [at.id, column.id], detail },
    recorded: async (entryId) => {
      await recordUnder(entryId);
      return { changed: changes.length, fixed: 0, entryId: null };
    },
  };
});
