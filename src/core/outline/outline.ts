/** Where an item of an outline stands. Items are always listed depth first: each is followed by those in it. */
export interface Standing {
  readonly id: string;
  /** The item in which it lies; null at the top. */
  readonly parentId: string | null;
}

/** The depth of each item, 1 at the top, in the order of the items. */
export function depthsOf(items: readonly Standing[]): number[] {
  const depths = new Map<string, number>();
  return items.map(({ id, parentId }) => {
    const depth = parentId === null ? 1 : (depths.get(parentId) ?? 0) + 1;
    depths.set(id, depth);
    return depth;
  });
}
