import { issue } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { depthsOf, type Standing } from './outline';

/** An item and all that lie in it, in order. */
export function branchOf<Item extends Standing>(items: readonly Item[], id: string): Item[] {
  const within = new Set([id]);
  return items.filter((each) => {
    const isIn = within.has(each.id) || (each.parentId !== null && within.has(each.parentId));
    if (isIn) within.add(each.id);
    return isIn;
  });
}

/**
 * The items with one put in, with all that lie in it, under `parentId` and before `beforeId` (null: last there). An item that
 * is among them already is moved.
 * @param items depth first; so is the outcome
 * @param branch the item that is put in, followed by those in it
 * @param most how deep items may lie
 */
export function withBranch<Item extends Standing>(
  items: readonly Item[],
  branch: readonly Item[],
  parentId: string | null,
  beforeId: string | null,
  most: number,
): Result<Item[]> {
  const [top, ...inner] = branch;
  if (!top) return good([...items]);
  const ids = new Set(branch.map(({ id }) => id));
  if (parentId !== null && ids.has(parentId)) return bad(issue('invalid', 'An item cannot lie in itself.'));
  const rest = items.filter(({ id }) => !ids.has(id));
  const parent = rest.findIndex(({ id }) => id === parentId);
  if (parentId !== null && parent < 0)
    return bad(issue('conflict', 'The item in which it would lie is not there any more. Nothing was moved.'));
  const before = rest.findIndex(({ id }) => id === beforeId);
  // Before itself: it stays where it is.
  if (beforeId !== null && ids.has(beforeId)) return good([...items]);
  if (beforeId !== null && rest[before]?.parentId !== parentId)
    return bad(issue('conflict', 'The item before which it would stand is not there any more. Nothing was moved.'));
  const end = parentId === null ? rest.length : parent + branchOf(rest, parentId).length;
  const at = beforeId === null ? end : before;
  const placed = [...rest.slice(0, at), { ...top, parentId }, ...inner, ...rest.slice(at)];
  if (Math.max(...depthsOf(placed)) > most)
    return bad(issue('invalid', `They lie ${most} deep at most. Nothing was moved.`));
  return good(placed);
}

/** Ways in which an item is moved by keys. */
export const shifts = ['up', 'down', 'in', 'out'] as const;
export type Shift = (typeof shifts)[number];

/** Where an item would lie after a move by keys, as `withBranch` takes it; null where it cannot go that way. */
export function shiftOf(
  items: readonly Standing[],
  id: string,
  shift: Shift,
): { readonly parentId: string | null; readonly beforeId: string | null } | null {
  const item = items.find((each) => each.id === id);
  if (!item) return null;
  const besideOf = (parentId: string | null) => items.filter((each) => each.parentId === parentId);
  const beside = besideOf(item.parentId);
  const at = beside.indexOf(item);
  const { parentId } = item;
  if (shift === 'up') return at === 0 ? null : { parentId, beforeId: beside[at - 1]?.id ?? null };
  if (shift === 'down') return at === beside.length - 1 ? null : { parentId, beforeId: beside[at + 2]?.id ?? null };
  if (shift === 'in') {
    const above = beside[at - 1];
    return above === undefined ? null : { parentId: above.id, beforeId: null };
  }
  const parent = items.find((each) => each.id === parentId);
  if (!parent) return null;
  const around = besideOf(parent.parentId);
  return { parentId: parent.parentId, beforeId: around[around.indexOf(parent) + 1]?.id ?? null };
}
