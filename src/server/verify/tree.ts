import { sql } from 'drizzle-orm';
import { placeTree, type TreePlace, type TreePosition } from '@/core/tree/tree';
import type { Reader, Tx } from '../db/client';
import { place } from '../db/schema';
import type { Difference } from './difference';

async function read(reader: Reader) {
  return reader
    .select({
      id: place.id,
      parentId: place.parentId,
      kind: place.kind,
      lineage: place.lineage,
      filingYear: place.filingYear,
      position: place.position,
    })
    .from(place);
}

/** Compares lineages, filing years and positions with those that follow from the parents. */
export async function treeDifferences(reader: Reader): Promise<Difference[]> {
  const rows = await read(reader);
  const wanted = placeTree(rows);
  const differences: Difference[] = [];
  const tell = (about: string, says: string) => differences.push({ of: 'tree', about, says });
  for (const row of rows) {
    const where = wanted.get(row.id);
    if (!where)
      tell(row.id, 'is not reached from the library: it stands below itself, or in a place that is not there');
    else if (row.lineage.join() !== where.lineage.join())
      tell(row.id, `has the way ${row.lineage.join(' ')} and should have ${where.lineage.join(' ')}`);
    else if (row.filingYear !== where.filingYear)
      tell(row.id, `is of the year ${row.filingYear} and should be of ${where.filingYear}`);
  }
  const orders = new Map<string, TreePlace['id']>();
  for (const { id, parentId, position } of rows) {
    const key = `${parentId} ${position}`;
    if (orders.has(key)) tell(id, `has the position ${position} beside ${orders.get(key)}`);
    orders.set(key, id);
  }
  return differences;
}

/** Recomputes lineages, filing years and positions; siblings with equal positions keep the order in which they are shown. */
export async function mendTree(tx: Tx): Promise<void> {
  const wanted = [...placeTree(await read(tx))].map(([id, where]: [string, TreePosition]) => ({ id, ...where }));
  await tx.execute(sql`
    update ${place} set lineage = wanted.lineage, filing_year = wanted.filing_year
    from (select id, array(select jsonb_array_elements_text(lineage)::uuid) as lineage, filing_year
      from jsonb_to_recordset(${JSON.stringify(
        wanted.map(({ id, lineage, filingYear }) => ({ id, lineage, filing_year: filingYear })),
      )}::jsonb) as given (id uuid, lineage jsonb, filing_year integer)) as wanted
    where ${place.id} = wanted.id
      and (${place.lineage} <> wanted.lineage or ${place.filingYear} is distinct from wanted.filing_year)`);
  await tx.execute(sql`
    update ${place} set position = ranked.position
    from (select id, row_number() over (partition by parent_id order by position, name, id) as position from ${place}
      where parent_id in (select parent_id from ${place} group by parent_id, position having count(*) > 1)) as ranked
    where ${place.id} = ranked.id`);
}
