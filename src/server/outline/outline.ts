import { inArray, sql } from 'drizzle-orm';
import type { Standing } from '@/core/outline/outline';
import { withBranch } from '@/core/outline/move';
import { invalidField } from '@/core/errors/issue';
import { orRefuse, refuse, Refusal } from '@/core/errors/refusal';
import type { Tx } from '../db/client';
import { person, type agendaItem, type packEntry } from '../db/schema';

/** Writes down in which order the lines of an outline stand, and in what they lie. */
export async function keepOrder(
  tx: Tx,
  table: typeof agendaItem | typeof packEntry,
  lines: readonly Standing[],
): Promise<void> {
  if (lines.length === 0) return;
  const rows = lines.map(({ id, parentId }, at) => sql`(${id}::uuid, ${parentId}::uuid, ${at}::int)`);
  await tx.execute(sql`
    update ${table} set parent_id = placed.parent_id, position = placed.position
    from (values ${sql.join(rows, sql`, `)}) as placed (id, parent_id, position)
    where ${table.id} = placed.id`);
}

/**
 * The lines with a branch that was taken out put back where it stood. Refuses where what it lay in is gone: elsewhere it would be
 * told to those who were not to know of it.
 */
export function putBack<Line extends Standing & { readonly position: number }>(
  lines: readonly Line[],
  branch: readonly Line[],
  most: number,
): Line[] {
  const [top] = branch;
  if (!top) return [...lines];
  const { parentId, position } = top;
  if (parentId !== null && !lines.some(({ id }) => id === parentId))
    refuse('conflict', 'What it lay in was taken out as well. Put that back first.');
  const next = lines.find((each) => each.position >= position && each.parentId === parentId);
  return orRefuse(withBranch(lines, branch, parentId, next?.id ?? null, most));
}

/** Refuses those who may know of something where one of them is nobody; else each of them once. */
export async function requireReaders(tx: Tx, personIds: readonly string[]): Promise<string[]> {
  const ids = [...new Set(personIds)];
  if (ids.length === 0) return [];
  const known = await tx.select({ id: person.id }).from(person).where(inArray(person.id, ids));
  if (known.length < ids.length)
    throw new Refusal(invalidField('readers', 'Somebody who was chosen is not known here.'));
  return ids;
}
