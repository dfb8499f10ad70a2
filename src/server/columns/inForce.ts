import { and, arrayContains, eq } from 'drizzle-orm';
import type { Column } from '@/core/columns/model';
import { refuse } from '@/core/errors/refusal';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { plannedOnce } from '../db/plannedOnce';
import { place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { placeIsKnown } from '../gate/visible';
import { allColumns } from './read';

/** The columns in use at a place or, with `below`, also at places below it that the caller may know of. */
export async function columnsIn(actor: Actor, placeId: string, below: boolean): Promise<Column[]> {
  const [[known], all] = await Promise.all([
    db()
      .select({ lineage: place.lineage })
      .from(place)
      .where(and(eq(place.id, placeId), placeIsKnown(actor), plannedOnce)),
    allColumns(db()),
  ]);
  if (!known) refuse('not-found');
  const columns = all.filter((column) => !column.retired);
  const elsewhere = columns.map((column) => column.placeId).filter((id) => !known.lineage.includes(id));
  const under =
    below && elsewhere.length > 0
      ? await db()
          .select({ id: place.id })
          .from(place)
          .where(and(idIn(place.id, elsewhere), arrayContains(place.lineage, [placeId]), placeIsKnown(actor)))
      : [];
  const reached = new Set([...known.lineage, ...under.map((row) => row.id)]);
  return columns.filter((column) => reached.has(column.placeId));
}
