import fc from 'fast-check';
import { inOwnOrder } from './order';
import { movedBefore } from '../order/movedBefore';
import type { PlaceRow } from './model';
import { mayHold, placeKinds } from '../tree/placeKind';

describe('the order of places', () => {
  it.each([
    ['c', 'a', ['c', 'a', 'b', 'd']],
    ['a', null, ['b', 'c', 'd', 'a']],
    ['a', 'd', ['b', 'c', 'a', 'd']],
    ['b', 'b', ['a', 'b', 'c', 'd']],
    ['x', 'a', ['a', 'b', 'c', 'd']],
  ])('%s put before %s gives %j', (moved, before, order) => {
    expect(movedBefore(['a', 'b', 'c', 'd'], moved, before)).toEqual(order);
  });

  it('loses and doubles nothing', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.string()), fc.string(), fc.option(fc.string()), (ids, moved, before) => {
        expect([...movedBefore(ids, moved, before)].sort()).toEqual([...ids].sort());
      }),
      { seed: 2 },
    );
  });
});

describe('which places stand in which', () => {
  it('lets nothing hold the library, and a year stand in a dossier alone', () => {
    expect(placeKinds.filter((kind) => mayHold(kind, 'library'))).toEqual([]);
    expect(placeKinds.filter((kind) => mayHold(kind, 'year'))).toEqual(['dossier']);
    expect(placeKinds.filter((kind) => mayHold('folder', kind))).toEqual(['folder']);
  });
});

describe('an order of one’s own', () => {
  const rows = (
    [
      ['Works 10', 'T-2'],
      ['ardent', null],
      ['Works 9', 'T-10'],
      ['Zephyr', null],
    ] as const
  ).map(([name, reference]) => ({ name, reference }) as PlaceRow);
  const names = (order: Parameters<typeof inOwnOrder>[1]) => inOwnOrder(rows, order).map((row) => row.name);

  it('is by name or by reference, figures by their size, without references last; and the kept one else', () => {
    expect(names('kept')).toEqual(['Works 10', 'ardent', 'Works 9', 'Zephyr']);
    expect(names('name')).toEqual(['ardent', 'Works 9', 'Works 10', 'Zephyr']);
    expect(names('reference')).toEqual(['Works 10', 'Works 9', 'ardent', 'Zephyr']);
    expect(rows[0]?.name).toBe('Works 10');
  });
});
