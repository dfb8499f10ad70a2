import { arrayContains, eq, max, sql } from 'drizzle-orm';
import { maxDepth } from '@/core/tree/placeKind';
import { refuse } from '@/core/errors/refusal';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { place } from '../db/schema';
import { requireChanging } from '../db/transaction';

/**
 * Moves a place, with everything below it, to the end of another: parent, position, lineages and filing years. Reads both
 * places itself. The callers (`putInto`, `applyPlan`) recompute access and given values.
 */
export async function movePlaceRows(tx: Tx, placeId: string, toId: string): Promise<void> {
  requireChanging(tx, 'tree');
  const rows = await tx
    .select({ id: place.id, kind: place.kind, lineage: place.lineage, filingYear: place.filingYear })
    .from(place)
    .where(idIn(place.id, [placeId, toId]));
  const moved = rows.find((row) => row.id === placeId);
  const target = rows.find((row) => row.id === toId);
  if (!moved || !target) refuse('not-found');
  if (target.lineage.includes(moved.id)) refuse('into-itself');
  const [deepest] = await tx
    .select({ depth: sql<number>`max(array_length(${place.lineage}, 1))` })
    .from(place)
    .where(arrayContains(place.lineage, [moved.id]));
  const shift = target.lineage.length + 1 - moved.lineage.length;
  if ((deepest?.depth ?? 0) + shift > maxDepth + 1)
    refuse('invalid', `Folders go ${maxDepth} steps deep at most. Nothing was moved.`);
  const [last] = await tx
    .select({ position: max(place.position) })
    .from(place)
    .where(eq(place.parentId, target.id));
  await tx
    .update(place)
    .set({ parentId: target.id, position: (last?.position ?? 0) + 1, revision: sql`${place.revision} + 1` })
    .where(eq(place.id, moved.id));
  // A dossier keeps its years; a folder and everything below it take the filing year of their new parent, if any.
  const year = moved.kind === 'dossier' ? sql`${place.filingYear}` : sql`${target.filingYear}::integer`;
  await tx.execute(sql`
    update ${place}
    set lineage = ${sql.param(target.lineage)}::uuid[] || ${place.lineage}[${sql.raw(String(moved.lineage.length))}:],
        filing_year = ${year}
    where ${arrayContains(place.lineage, [moved.id])}`);
}
