import { blocks, narrowBlocks, type Arrangement, type Block } from './model';

/** A desk that nobody has arranged. */
export const plainDesk: Arrangement = { order: blocks, folded: [], leftOut: [] };

/** An arrangement as it was stored, with each block once: those that are new since then come where a new desk has them. */
export function completed(stored: Arrangement | null): Arrangement {
  if (!stored) return plainDesk;
  const order = [...new Set(stored.order)].filter((block) => blocks.includes(block));
  for (const [at, block] of blocks.entries()) {
    if (order.includes(block)) continue;
    const before = blocks.slice(0, at).findLast((each) => order.includes(each));
    order.splice(before === undefined ? 0 : order.indexOf(before) + 1, 0, block);
  }
  return { ...stored, order };
}

/** The blocks of the wide column, or of the narrow one, in their order. */
export const columnOf = ({ order }: Arrangement, isNarrow: boolean): readonly Block[] =>
  order.filter((block) => narrowBlocks.includes(block) === isNarrow);

/** Moves a block so many steps down in its column, or up; it stops at the ends. */
export function moved(all: Arrangement, block: Block, by: number): Arrangement {
  const isNarrow = narrowBlocks.includes(block);
  const column = columnOf(all, isNarrow);
  const others = column.filter((each) => each !== block);
  const to = Math.min(others.length, Math.max(0, column.indexOf(block) + by));
  const arranged = [...others.slice(0, to), block, ...others.slice(to)];
  const [wide, narrow] = isNarrow ? [columnOf(all, false), arranged] : [arranged, columnOf(all, true)];
  return { ...all, order: [...wide, ...narrow] };
}

/** Puts a block into one of the lists, or takes it out. */
export const turned = (all: Arrangement, list: 'folded' | 'leftOut', block: Block): Arrangement => ({
  ...all,
  [list]: all[list].includes(block) ? all[list].filter((each) => each !== block) : [...all[list], block],
});
