import { issue } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { depthsOf, deepest, type Standing } from './model';

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
 */
export function withBranch<Item extends Standing>(
  items: readonly Item[],
  branch: readonly Item[],
  parentId: string | null,
  beforeId: string | null,
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
  if (Math.max(...depthsOf(placed)) > deepest)
    return bad(issue('invalid', 'Items lie three deep at most. Nothing was moved.'));
  return good(placed);
}
