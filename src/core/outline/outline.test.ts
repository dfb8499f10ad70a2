import fc from 'fast-check';
import { branchOf, shiftOf, withBranch, type Shift } from './move';
import { depthsOf, type Standing } from './outline';
import { readersWithin, toldItems } from './told';

/** How deep lines may lie here. */
const deepest = 3;
const item = (id: string, parentId: string | null = null): Standing => ({ id, parentId });
const items = [item('a'), item('b'), item('b1', 'b'), item('b2', 'b'), item('b2x', 'b2'), item('c')];

describe('the order', () => {
  const moved = (id: string, parentId: string | null, beforeId: string | null): string[] | string => {
    const outcome = withBranch(items, branchOf(items, id), parentId, beforeId, deepest);
    return outcome.ok ? outcome.value.map((each) => each.id) : outcome.issue.kind;
  };

  it('moves an item with all that lie in it', () => {
    expect(moved('b', null, 'a')).toEqual(['b', 'b1', 'b2', 'b2x', 'a', 'c']);
    expect(moved('b2', null, null)).toEqual(['a', 'b', 'b1', 'c', 'b2', 'b2x']);
    expect(moved('c', 'b', 'b2')).toEqual(['a', 'b', 'b1', 'c', 'b2', 'b2x']);
    expect(moved('b', null, 'b')).toEqual(items.map(({ id }) => id));
  });

  it('moves by keys: before, behind, into and out of what stands there', () => {
    const shifted = (id: string, shift: Shift): string[] | null => {
      const to = shiftOf(items, id, shift);
      if (to === null) return null;
      const outcome = withBranch(items, branchOf(items, id), to.parentId, to.beforeId, deepest);
      return outcome.ok ? outcome.value.map((each) => each.id) : [outcome.issue.kind];
    };
    expect(shifted('c', 'up')).toEqual(['a', 'c', 'b', 'b1', 'b2', 'b2x']);
    expect(shifted('a', 'down')).toEqual(['b', 'b1', 'b2', 'b2x', 'a', 'c']);
    expect(shifted('c', 'in')).toEqual(['a', 'b', 'b1', 'b2', 'b2x', 'c']);
    expect(shiftOf(items, 'c', 'in')).toEqual({ parentId: 'b', beforeId: null });
    expect(shifted('b2', 'out')).toEqual(['a', 'b', 'b1', 'b2', 'b2x', 'c']);
    expect(shiftOf(items, 'b2', 'out')).toEqual({ parentId: null, beforeId: 'c' });
    expect([shifted('a', 'up'), shifted('a', 'in'), shifted('a', 'out'), shifted('c', 'down')]).toEqual([
      null,
      null,
      null,
      null,
    ]);
    expect(shiftOf(items, 'gone', 'up')).toBeNull();
  });

  it('refuses what cannot be', () => {
    expect(moved('b', 'b2', null)).toBe('invalid');
    // It has two levels in it already.
    expect(moved('b', 'a', null)).toBe('invalid');
    expect(moved('a', 'gone', null)).toBe('conflict');
    expect(moved('a', null, 'b1')).toBe('conflict');
  });

  it('stays depth first, complete and no deeper than is allowed, whatever is moved', () => {
    const ids = fc.constantFrom(...items.map(({ id }) => id));
    const moves = fc.array(fc.tuple(ids, fc.option(ids), fc.option(ids)), { maxLength: 12 });
    fc.assert(
      fc.property(moves, (all) => {
        let now = items;
        for (const [id, parentId, beforeId] of all) {
          const outcome = withBranch(now, branchOf(now, id), parentId, beforeId, deepest);
          if (outcome.ok) now = outcome.value;
          expect(now.map((each) => each.id).sort()).toEqual(items.map((each) => each.id).sort());
          expect(Math.max(...depthsOf(now))).toBeLessThanOrEqual(deepest);
          // Depth first: what lies in an item stands directly behind it.
          for (const each of now) {
            const at = now.indexOf(each);
            const branch = branchOf(now, each.id);
            expect(now.slice(at, at + branch.length)).toEqual(branch);
          }
        }
      }),
      { seed: 7, numRuns: 300 },
    );
  });
});

describe('who is told of items', () => {
  const readable = [
    { id: 'a', parentId: null, readers: null },
    { id: 'b', parentId: null, readers: new Set(['chair', 'clerk']) },
    { id: 'b1', parentId: 'b', readers: new Set(['chair', 'member']) },
    { id: 'b2', parentId: 'b', readers: null },
  ];

  it('is who may know of an item and of all that it lies in', () => {
    expect(toldItems(readable, 'chair', false)).toEqual([true, true, true, true]);
    expect(toldItems(readable, 'clerk', false)).toEqual([true, true, false, true]);
    expect(toldItems(readable, 'member', false)).toEqual([true, false, false, false]);
    expect(toldItems(readable, 'member', true)).toEqual([true, true, true, true]);
    const within = readersWithin(readable);
    expect([...within].map(([id, readers]) => [id, readers && [...readers]])).toEqual([
      ['a', null],
      ['b', ['chair', 'clerk']],
      ['b1', ['chair']],
      ['b2', ['chair', 'clerk']],
    ]);
  });
});
