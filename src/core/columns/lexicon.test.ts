import fc from 'fast-check';
import { Lexicon, termKey } from './lexicon';
import type { Term } from './model';

const term = (id: string, name: string, more: Partial<Term> = {}): Term => ({
  id,
  listId: 'list',
  parentId: null,
  name,
  otherNames: [],
  position: 0,
  retired: false,
  ...more,
});

it('lets a preferred name go before another value’s other name', () => {
  const lexicon = new Lexicon([term('a', 'Letter', { otherNames: ['Mail'] }), term('b', 'Mail')]);
  expect(lexicon.idOf('mail')).toBe('b');
  expect(lexicon.idOf('letter')).toBe('a');
});

it('leads nowhere from words that are not on it', () => {
  const lexicon = new Lexicon([term('a', 'Letter')]);
  for (const words of ['', ' ', 'Lett', 'Letters', 'a', '>', 'Letter > ']) expect(lexicon.idOf(words)).toBeNull();
});

it('says the way to a value from the top, and what it stands under', () => {
  const lexicon = new Lexicon([
    term('a', 'Finance'),
    term('b', 'Audit', { parentId: 'a' }),
    term('c', 'Internal', { parentId: 'b' }),
  ]);
  expect(lexicon.wayTo('c')).toBe('Finance > Audit > Internal');
  expect(lexicon.ancestry('c')).toEqual(['c', 'b', 'a']);
  expect(lexicon.idOf('finance>AUDIT > internal')).toBe('c');
  expect(lexicon.wayTo('nowhere')).toBe('');
});

it('comes to an end where values stand in a circle, which no list should have', () => {
  const lexicon = new Lexicon([term('a', 'A', { parentId: 'b' }), term('b', 'B', { parentId: 'a' })]);
  expect(lexicon.wayTo('a')).toBe('B > A');
  expect(lexicon.ancestry('a')).toEqual(['a', 'b']);
});

it('keeps the list’s own order, each value after the one it stands under; those without a home at the top', () => {
  const terms = [
    term('late', 'Late', { position: 3 }),
    term('inner', 'Inner', { parentId: 'first', position: 9 }),
    term('first', 'First', { position: 1 }),
    term('orphan', 'Orphan', { parentId: 'gone', position: 2 }),
  ];
  expect(new Lexicon(terms).inOrder().map(({ term: each, depth }) => `${depth} ${each.id}`)).toEqual([
    '0 first',
    '1 inner',
    '0 orphan',
    '0 late',
  ]);
});

it('finds any value by its own way and name, in any case and with any accents taken off, on random lists', () => {
  const names = fc.uniqueArray(fc.constantFrom('Finance', 'Audit', 'Café', 'Straße', 'Über', 'Ævar', 'Nº 4', '港'), {
    minLength: 1,
  });
  fc.assert(
    fc.property(names, (some) => {
      const lexicon = new Lexicon(some.map((name, index) => term(String(index), name, { position: index })));
      for (const [index, name] of some.entries()) {
        expect(lexicon.idOf(name)).toBe(String(index));
        expect(lexicon.idOf(name.toUpperCase())).toBe(String(index));
        expect(lexicon.idOf(name.normalize('NFD'))).toBe(String(index));
        expect(lexicon.idOf(`  ${name} `)).toBe(String(index));
      }
    }),
    { seed: 20 },
  );
});

it('compares names in one form only, however often it is made', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme', maxLength: 30 }), (text) => {
      expect(termKey(termKey(text))).toBe(termKey(text));
    }),
    { seed: 21, numRuns: 500 },
  );
});
