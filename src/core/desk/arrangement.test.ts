import { columnOf, completed, moved, plainDesk, turned } from './arrangement';
import { blocks, type Block } from './model';

it('gives a desk that nobody has arranged every block once', () => {
  expect(completed(null)).toEqual(plainDesk);
  expect(new Set(plainDesk.order).size).toBe(blocks.length);
});

it('puts a block that is new where a new desk has it, and forgets one that is no more', () => {
  const order = blocks.filter((block) => block !== 'lately').reverse();
  const { order: whole } = completed({ order: [...order, 'gone' as Block, 'needs'], folded: [], leftOut: [] });
  expect([...whole].sort()).toEqual([...blocks].sort());
  expect(whole[whole.indexOf('followed') + 1]).toBe('lately');
  expect(completed({ order: ['figures'], folded: [], leftOut: [] }).order[0]).toBe('needs');
});

it('moves a block up and down, and not over the ends', () => {
  const [first = 'needs', second = 'news'] = plainDesk.order;
  expect(moved(plainDesk, first, 1).order.slice(0, 2)).toEqual([second, first]);
  expect(moved(plainDesk, first, -1)).toEqual(plainDesk);
  const last = moved(moved(plainDesk, second, 100), second, 100);
  expect(columnOf(last, false).at(-1)).toBe(second);
  expect(columnOf(last, true)).toEqual(columnOf(plainDesk, true));
  expect([...last.order].sort()).toEqual([...blocks].sort());
});

it('folds and unfolds', () => {
  const folded = turned(plainDesk, 'folded', 'news');
  expect(folded.folded).toEqual(['news']);
  expect(turned(folded, 'folded', 'news')).toEqual(plainDesk);
});
