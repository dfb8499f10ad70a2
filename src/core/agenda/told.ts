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
