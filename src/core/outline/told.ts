import type { Standing } from './outline';

/** An item with who may know of it: null for everybody. */
export interface Readable extends Standing {
  readonly readers: ReadonlySet<string> | null;
}

/**
 * Whether somebody is told of each item, in the order of the items: of one that is confidential only its readers are, and of
 * what lies in such an item nobody else either.
 * @param items depth first
 * @param knowsAll whether they may change the agenda
 */
export function toldItems(items: readonly Readable[], personId: string, knowsAll: boolean): boolean[] {
  const told = new Map<string, boolean>();
  return items.map(({ id, parentId, readers }) => {
    const isTold = knowsAll || ((readers?.has(personId) ?? true) && (parentId === null || told.get(parentId) === true));
    told.set(id, isTold);
    return isTold;
  });
}

/** Who may know of each item by itself and by all that it lies in, by id: null for everybody. In whatever order they are. */
export function readersWithin(items: readonly Readable[]): Map<string, ReadonlySet<string> | null> {
  const byId = new Map(items.map((item) => [item.id, item]));
  const within = new Map<string, ReadonlySet<string> | null>();
  const of = (item: Readable): ReadonlySet<string> | null => {
    const known = within.get(item.id);
    if (known !== undefined) return known;
    const parent = byId.get(item.parentId ?? '');
    const above = parent ? of(parent) : null;
    const { readers } = item;
    const both = readers && above ? new Set([...readers].filter((each) => above.has(each))) : (readers ?? above);
    within.set(item.id, both);
    return both;
  };
  items.forEach(of);
  return within;
}
