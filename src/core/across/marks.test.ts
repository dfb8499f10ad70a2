import fc from 'fast-check';
import { chosenOf, isChosen, ticked, type Mark } from './marks';

const at = (way: string): string[] => ['library', ...way.split('/').filter(Boolean)];
const tickAll = (...ways: string[]): Mark[] => ways.reduce<Mark[]>((marks, way) => ticked(marks, at(way)), []);

it('chooses nothing at first, and all of what is ticked', () => {
  expect(isChosen([], at('a'))).toBe(false);
  const marks = tickAll('a');
  expect([chosenOf(marks, at('a')), chosenOf(marks, at('a/b')), chosenOf(marks, at('c'))]).toEqual([
    'all',
    'all',
    'none',
  ]);
  expect(chosenOf(marks, at(''))).toBe('part');
});

it('leaves out what is ticked off below, and shows all above as chosen in part', () => {
  const marks = tickAll('a', 'a/b');
  expect([chosenOf(marks, at('a')), chosenOf(marks, at('a/b')), chosenOf(marks, at('a/c'))]).toEqual([
    'part',
    'none',
    'all',
  ]);
  expect(chosenOf(ticked(marks, at('a/b/d')), at('a/b'))).toBe('part');
});

it('makes a part whole when it is ticked, and empties what is whole', () => {
  const part = tickAll('a', 'a/b');
  expect(ticked(part, at('a'))).toEqual(tickAll('a'));
  expect(ticked(tickAll('a'), at('a'))).toEqual([]);
});

/** Every place of a small tree, by its way. */
const ways = ['a', 'b', 'c'].flatMap((first) => [
  first,
  ...['x', 'y'].flatMap((second) => [`${first}/${first}${second}`, `${first}/${first}${second}/${first}${second}z`]),
]);

it('agrees with a set of places that is ticked one by one, whatever is ticked in whatever order', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...ways), { maxLength: 25 }), (order) => {
      let marks: Mark[] = [];
      const chosen = new Set<string>();
      for (const way of order) {
        const within = ways.filter((each) => each === way || each.startsWith(`${way}/`));
        const all = within.every((each) => chosen.has(each));
        // A place counts as whole only if whatever may yet be made in it would be chosen too: so says its own mark.
        const whole = chosenOf(marks, at(way)) === 'all';
        expect(whole).toBe(all && isChosen(marks, at(way)));
        for (const each of within) {
          if (whole) chosen.delete(each);
          else chosen.add(each);
        }
        marks = ticked(marks, at(way));
        expect(ways.filter((each) => isChosen(marks, at(each)))).toEqual(ways.filter((each) => chosen.has(each)));
      }
    }),
    { seed: 19, numRuns: 500 },
  );
});
