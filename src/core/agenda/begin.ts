import { deepest } from './model';
import { depthsOf, type Standing } from '../outline/outline';

/** What of an item goes into another agenda. */
export interface Carried extends Standing {
  readonly title: string;
  /** Whether what is carried over goes into this item. */
  readonly takesCarried: boolean;
}

/** The item that what is carried over lies in, where the standing items have none for it. */
export const carriedTitle = 'Matters carried over';

/**
 * The items with which an agenda begins: the standing ones, and in the one for it what the last meeting carried over, each
 * with all that lies in it.
 * @param standing depth first
 * @param branches what is carried over, each item followed by those in it
 * @param makeItem makes the item that takes what is carried over, where there is none
 */
export function beginning<Item extends Carried>(
  standing: readonly Item[],
  branches: readonly (readonly Item[])[],
  makeItem: (title: string) => Item,
): Item[] {
  if (branches.length === 0) return [...standing];
  const takes = standing.find((each) => each.takesCarried && each.parentId === null);
  const home = takes ?? makeItem(carriedTitle);
  const carried = branches.flatMap(([top, ...inner]) => (top ? [{ ...top, parentId: home.id }, ...inner] : []));
  if (!takes) return raised([...standing, home, ...carried]);
  const own = standing.findIndex(({ id }) => id === home.id);
  // Behind the item and what lies in it already.
  const next = standing.findIndex((each, at) => at > own && each.parentId === null);
  const end = next < 0 ? standing.length : next;
  return raised([...standing.slice(0, end), ...carried, ...standing.slice(end)]);
}

/** What lies too deep is raised into the item above the one that it lay in. */
function raised<Item extends Standing>(items: readonly Item[]): Item[] {
  const parents = new Map<string, string | null>();
  const depths = depthsOf(items);
  const depthOf = new Map(items.map(({ id }, at) => [id, depths[at] ?? 1]));
  return items.map((item) => {
    let { parentId } = item;
    while (parentId !== null && (depthOf.get(parentId) ?? 1) >= deepest) parentId = parents.get(parentId) ?? null;
    parents.set(item.id, parentId);
    depthOf.set(item.id, parentId === null ? 1 : (depthOf.get(parentId) ?? 0) + 1);
    return { ...item, parentId };
  });
}
