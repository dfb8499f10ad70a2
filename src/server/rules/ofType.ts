import { eq, inArray } from 'drizzle-orm';
import { isListed } from '@/core/columns/model';
import { refuse } from '@/core/errors/refusal';
import type { OfType } from '@/core/rules/rules';
import { allColumns } from '../columns/read';
import type { Reader } from '../db/client';
import { columnDef, term } from '../db/schema';

/**
 * Checks the type of paper of a rule: a value of a controlled list, in a column that is in force at the rule's place.
 * @returns its name; null for all papers
 */
export async function checkType(
  reader: Reader,
  ofType: OfType | null,
  lineage: readonly string[],
): Promise<string | null> {
  if (ofType === null) return null;
  const column = (await allColumns(reader)).find(({ id }) => id === ofType.columnId);
  if (!column || column.retired || !lineage.includes(column.placeId) || !isListed(column.type))
    refuse('invalid', 'That column is not in use here, or has no list of values.');
  const [found] = await reader
    .select({ name: term.name, listId: term.listId })
    .from(term)
    .where(eq(term.id, ofType.termId));
  if (found?.listId !== column.listId) refuse('invalid', 'That value is not on the list of the column.');
  return `${column.name} ${found.name}`;
}

/** The names of types, as rules are listed: "Type Policy". Those whose column or term is gone are missing. */
export async function namesOfTypes(
  reader: Reader,
  types: readonly (OfType | null)[],
): Promise<ReadonlyMap<string, string>> {
  const some = types.filter((each) => each !== null);
  if (some.length === 0) return new Map();
  const terms = await reader
    .select({ id: term.id, name: term.name })
    .from(term)
    .where(
      inArray(
        term.id,
        some.map(({ termId }) => termId),
      ),
    );
  const columns = await reader
    .select({ id: columnDef.id, name: columnDef.name })
    .from(columnDef)
    .where(
      inArray(
        columnDef.id,
        some.map(({ columnId }) => columnId),
      ),
    );
  const [termOf, columnOf] = [terms, columns].map((rows) => new Map(rows.map(({ id, name }) => [id, name])));
  return new Map(
    some.map(({ columnId, termId }) => [
      termId,
      `${columnOf?.get(columnId) ?? ''} ${termOf?.get(termId) ?? ''}`.trim(),
    ]),
  );
}
