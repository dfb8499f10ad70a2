import { listOf, readySets, setOf } from './capability';
import { openToWords, readySetOf, setInWords } from './words';

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
