import fc from 'fast-check';
import { usual } from './usual';

it('is what was done with most of them, and with the last two', () => {
  expect(usual([['a', 'b'], ['a'], ['a', 'c'], ['a'], ['b']])).toEqual([{ id: 'a', times: 4 }]);
  expect(usual([['b'], ['a'], ['a'], ['a'], ['a'], ['a']])).toEqual([]);
  expect(usual([['a'], ['a']])).toEqual([]);
  expect(
    usual([
      ['b', 'a'],
      ['a', 'b'],
      ['a', 'b'],
    ]).map(({ id }) => id),
  ).toEqual(['a', 'b']);
});

it('never says what was not done with both of the last, whatever came before', () => {
  fc.assert(
    fc.property(fc.array(fc.uniqueArray(fc.constantFrom<string>('a', 'b', 'c'))), (done) =>
      usual(done).every(({ id }) => done[0]?.includes(id) === true && done[1]?.includes(id) === true),
    ),
  );
});
