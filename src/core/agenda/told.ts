import type { Standing } from './model';

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

/**
 * Who may know of each item by itself and by all that it lies in, by id: null for everybody.
 * @param items depth first
 */
export function readersWithin(items: readonly Readable[]): Map<string, ReadonlySet<string> | null> {
  const within = new Map<string, ReadonlySet<string> | null>();
  for (const { id, parentId, readers } of items) {
    const above = parentId === null ? null : (within.get(parentId) ?? null);
    within.set(
      id,
      readers === null ? above : above === null ? readers : new Set([...readers].filter((each) => above.has(each))),
    );
  }
  return within;
}
