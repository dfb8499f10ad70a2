import canonicalize from 'canonicalize';
import { sql } from 'drizzle-orm';
import { outcomeBelow } from '../columns/given';
import type { Reader } from '../db/client';
import { document, place } from '../db/schema';
import type { Difference } from './difference';
import { rootOf } from './root';

/** Compares what places give and papers show with the sheets of given values and papers' own values. */
export async function givenDifferences(reader: Reader): Promise<Difference[]> {
  const outcome = await outcomeBelow(reader, await rootOf(reader));
  const places = await reader
    .select({ id: place.id, fixed: place.fixedValues, offered: place.offeredValues })
    .from(place);
  const differences: Difference[] = [];
  for (const { id, fixed, offered } of places) {
    const should = outcome.get(id);
    if (!same(fixed, should?.fixed) || !same(offered, should?.offered))
      differences.push({ of: 'given', about: id, says: 'gives other values than its sheets say' });
  }
  const { rows } = await reader.execute<{ id: string }>(sql`
    select ${document.id} as id from ${document} join ${place} on ${place.id} = ${document.homeId}
    where ${document.shownValues} <> ${document.ownValues} || ${place.fixedValues}`);
  for (const { id } of rows)
    differences.push({ of: 'given', about: id, says: 'shows other values than its own and what its home fixes' });
  return differences;
}

const same = (a: object, b: object | undefined): boolean => canonicalize(a) === canonicalize(b ?? {});
