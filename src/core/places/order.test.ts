import fc from 'fast-check';
import { movedBefore } from './order';
import { mayHold, placeKinds } from './model';

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
