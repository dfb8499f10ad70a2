import { readText } from '@/core/columns/read';
import type { Value, Values } from '@/core/columns/model';
import { refuse } from '@/core/errors/refusal';
import type { Actor } from '../gate/actor';
import type { Tx } from '../db/client';
import { allColumns, allLists, lexiconsOf, vocabularyFor } from './read';

/** Where something is typed, for the words of a refusal. */
type Fields = (columnId: string) => string;

/**
 * Values for papers that come to a place, from what is typed for its columns. What is empty is left out.
 * @param lineage of the place @param pathOf where a column’s text stands in what was sent
 * @throws Refusal `invalid` with the reason for what cannot be read, `gone` for a column that is not in use there
 */
export async function typedValues(
  tx: Tx,
  actor: Actor,
  lineage: readonly string[],
  typed: Readonly<Record<string, string>>,
  pathOf: Fields,
): Promise<Values> {
  const all = await allColumns(tx);
  const columns = Object.keys(typed).map(
    (id) =>
      all.find((each) => each.id === id && !each.retired && lineage.includes(each.placeId)) ??
      refuse('gone', 'One of the columns is no longer in use there. Nothing was filed.'),
  );
  const vocabulary = await vocabularyFor(tx, actor, columns, lexiconsOf(await allLists(tx)));
  const values: Record<string, Value> = {};
  for (const column of columns) {
    const read = readText(column, typed[column.id] ?? '', vocabulary);
    const says = !read.ok
      ? read.issue.says
      : read.value.kind === 'new-terms'
        ? `“${typed[column.id]}” is not on the list of ${column.name}. Add it there first.`
        : null;
    if (says !== null) refuse('invalid', `${column.name}: ${says}`, [{ path: pathOf(column.id), says }]);
    if (read.ok && read.value.kind === 'value' && read.value.value !== null) values[column.id] = read.value.value;
  }
  return values;
}
