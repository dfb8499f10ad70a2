import { bitOf, listOf, readySets, setOf } from './capability';
import { opennessInWords, openToWords, readySetOf, setInWords } from './words';

it('says what a set lets people do', () => {
  expect(setInWords(setOf(['see']))).toBe('may see');
  expect(setInWords(setOf(['take']))).toBe('may see and take copies');
  expect(setInWords(setOf(['add', 'amend']))).toBe('may see, add and amend');
  expect(setInWords(readySets.manager)).toBe('may do everything');
  expect(setInWords(0)).toBe('may do nothing');
});

it('knows the ready-made sets by their words, and no other', () => {
  for (const [name, set] of Object.entries(readySets)) expect(readySetOf(set)).toBe(name);
  expect(readySetOf(setOf(['amend']))).toBeNull();
});

it('brings sight with anything, and everything with managing', () => {
  expect(listOf(setOf(['amend']))).toEqual(['see', 'amend']);
  expect(listOf(setOf(['manage']))).toEqual(['see', 'take', 'add', 'amend', 'manage']);
  expect(listOf(setOf([]))).toEqual([]);
});

it('counts people in a sentence', () => {
  expect([openToWords(0), openToWords(1), openToWords(12)]).toEqual([
    'Open to nobody yet',
    'Open to 1 person',
    'Open to 12 people',
  ]);
});

it('says of everyone else what oneself may do, and of a set just what is in it', () => {
  expect(opennessInWords(3, ['see'])).toBe('Open to 3 people');
  expect(opennessInWords(null, ['see', 'take'])).toBe('You may see and take copies');
  expect(opennessInWords(null, ['see', 'amend'])).toBe('You may see and amend, but not take copies');
  // Taking copies was withheld from somebody who manages: not everything, and no manager like the others.
  const set = setOf(['manage']) & ~bitOf('take');
  expect(setInWords(set)).toBe('may see, add, amend and manage');
  expect(readySetOf(set)).toBeNull();
});
