import { beginning, carriedTitle } from './begin';
import type { Standing } from '../outline/outline';
import { fullNumbersOf, numbersOf } from './numbering';
import { clockOf, lengthInWords, minutesOf, timesOf } from './timing';

const item = (id: string, parentId: string | null = null): Standing => ({ id, parentId });
const items = [item('a'), item('b'), item('b1', 'b'), item('b2', 'b'), item('b2x', 'b2'), item('c')];

describe('numbers', () => {
  it('follow the style, level by level', () => {
    expect(numbersOf(items, 'figures')).toEqual(['1', '2', '2.1', '2.2', '2.2.1', '3']);
    expect(numbersOf(items, 'letters')).toEqual(['1', '2', '(a)', '(b)', '(i)', '3']);
    expect(numbersOf(items, 'capitals')).toEqual(['A', 'B', '1', '2', '(a)', 'C']);
  });

  it('are told in full where a sentence speaks of one', () => {
    expect(fullNumbersOf(items, 'letters')[4]).toBe('2 (b) (i)');
    expect(fullNumbersOf(items, 'figures')[4]).toBe('2.2.1');
  });

  // The roman numerals of ISO 32000-1, 12.4.2 (page labels) go on so; letters go on after z as list markers of CSS do
  // (W3C CSS Counter Styles Level 3, 6.1 lower-alpha: 27 is "aa"). Both from memory.
  it('go on past the end of the alphabet, and in roman figures', () => {
    const many = [item('top'), ...Array.from({ length: 28 }, (_, at) => item(`m${at}`, 'top'))];
    expect(numbersOf(many, 'letters').slice(26)).toEqual(['(z)', '(aa)', '(ab)']);
    const deep = [item('top'), item('mid', 'top'), ...Array.from({ length: 49 }, (_, at) => item(`m${at}`, 'mid'))];
    const roman = numbersOf(deep, 'letters').slice(2);
    expect([roman[3], roman[8], roman[13], roman[39], roman[48]]).toEqual(['(iv)', '(ix)', '(xiv)', '(xl)', '(xlix)']);
  });
});

describe('times', () => {
  it('follow from the start, by hand: own minutes first, then those of the items within', () => {
    const lengths = [5, 10, 20, null, 15, 5].map((minutes) => ({ minutes }));
    const { times, endsAt } = timesOf(lengths, 18 * 60 + 30);
    expect(times.map(({ from }) => clockOf(from))).toEqual(['18:30', '18:35', '18:45', '19:05', '19:05', '19:20']);
    expect(clockOf(endsAt)).toBe('19:25');
  });

  it('go past midnight, and say so', () => {
    expect(clockOf(timesOf([{ minutes: 45 }], 23 * 60 + 30).endsAt)).toBe('00:15, the day after');
    expect(clockOf(3 * 1440)).toBe('00:00, 3 days after');
  });

  it('are read from what a clock field gives, and from nothing else', () => {
    expect(['18:30', '00:00', '23:59'].map(minutesOf)).toEqual([1110, 0, 1439]);
    expect(['24:00', '7:30', '', '18:60', 'noon'].map(minutesOf)).toEqual([null, null, null, null, null]);
  });

  it('have their length in words', () => {
    expect([5, 60, 65].map(lengthInWords)).toEqual(['5 min', '1 h', '1 h 5 min']);
  });
});

describe('a new agenda', () => {
  const standing = (id: string, parentId: string | null = null, takesCarried = false) => ({
    id,
    parentId,
    title: id,
    takesCarried,
  });
  const make = (title: string) => ({ id: 'made', parentId: null, title, takesCarried: true });
  const carried = [[standing('dredge', 'old'), standing('dredge cost', 'dredge')], [standing('lease', null)]];
  const told = (list: readonly { readonly id: string; readonly parentId: string | null }[]): string[] =>
    list.map(({ id, parentId }) => (parentId === null ? id : `${id} in ${parentId}`));

  it('has what was carried over in the item for it, behind what lies in that', () => {
    const template = [
      standing('apologies'),
      standing('arising', null, true),
      standing('log', 'arising'),
      standing('close'),
    ];
    expect(told(beginning(template, carried, make))).toEqual([
      'apologies',
      'arising',
      'log in arising',
      'dredge in arising',
      'dredge cost in dredge',
      'lease in arising',
      'close',
    ]);
  });

  it('makes such an item where there is none, and only if anything is carried over', () => {
    expect(told(beginning([standing('apologies')], carried, make))).toEqual([
      'apologies',
      'made',
      'dredge in made',
      'dredge cost in dredge',
      'lease in made',
    ]);
    expect(beginning([], carried, make)[0]?.title).toBe(carriedTitle);
    expect(told(beginning([standing('apologies')], [], make))).toEqual(['apologies']);
  });

  it('raises what would lie too deep', () => {
    const deep = [[standing('a'), standing('b', 'a'), standing('c', 'b'), standing('d', 'b')]];
    expect(told(beginning([], deep, make))).toEqual(['made', 'a in made', 'b in a', 'c in a', 'd in a']);
  });
});
