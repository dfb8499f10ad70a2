import { execFileSync } from 'node:child_process';
import { termOf, tokensIn } from './analyse';

const terms = (text: string, language: string | null = 'en'): string[] =>
  Array.from(tokensIn(text, language), ({ term, position }) => `${position} ${term}`);

describe('the words of a text', () => {
  it.each([
    ['The fenders were inspected', ['1 fender', '3 inspect']],
    ['Café, naïve: ﬁsh', ['0 cafe', '1 naiv', '2 fish']],
    ['growers’ and the Trust’s', ['0 grower', '3 trust']],
    ['', []],
    ['— … !', []],
  ])('%s', (text, expected) => expect(terms(text)).toEqual(expected));

  it('joined by hyphens, slashes or full stops also stand as one', () => {
    expect(terms('INV-2023-00471', null)).toEqual(['0 inv', '1 2023', '2 00471', '0 inv202300471']);
    expect(terms('(e-mail).', 'en')).toEqual(['0 e', '1 mail', '0 email']);
    expect(terms('a/b/c/d/e/f/g/h', null)).not.toContain('0 abcdefgh');
  });

  it('are stemmed in their own language, and only folded where it is unknown', () => {
    expect(terms('Die Brücken überschritten', 'de')).toEqual(['1 bruck', '2 uberschritt']);
    expect(terms('bridges', null)).toEqual(['0 bridges']);
    expect(termOf('GRÖSSE', 'de')).toBe(termOf('Größe', 'de'));
  });

  it('of no script that is written with blanks are found all the same', () => {
    expect(terms('港务局会议记录', null).length).toBeGreaterThan(1);
    expect(terms('שלום לכל', null)).toEqual(['0 שלום', '1 לכל']);
    // As a page is read on which directions change.
    expect(terms('\u202bשלום לנמל\u202cpier', null)).toEqual(['0 שלום', '1 לנמל', '2 pier']);
  });

  it('without end are cut, and keys of thousands of letters stop nothing', () => {
    expect(terms('x'.repeat(100_000), 'en')[0]?.length).toBeLessThan(70);
    expect(terms('a-'.repeat(5000), 'en').length).toBeLessThanOrEqual(5001);
  });
});

/** Snowball's own vocabularies: Debian's `snowball-data`, version of January 2021. */
it.each([
  ['en', 'english', 0],
  ['de', 'german', 0],
  // The package's French is older: 79 of 20,805 words, all with a diaeresis, have another stem.
  ['fr', 'french', 79],
])('stems of %s are Snowball’s', (code, name, differ) => {
  const told: unknown = JSON.parse(
    execFileSync(process.execPath, ['--import', 'tsx', 'tests/oracle/stemVocabulary.ts', code, name], {
      encoding: 'utf8',
    }),
  );
  expect(told).toEqual({ words: expect.any(Number) as number, differ });
  expect((told as { words: number }).words).toBeGreaterThan(20_000);
});
