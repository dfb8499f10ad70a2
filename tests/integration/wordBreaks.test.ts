import { readFileSync } from 'node:fs';
import { wordsIn } from '@/core/text/words';

/** Unicode's own test of word boundaries (UAX #29), as Debian's package unicode-data ships it (Unicode 15). */
const file = '/usr/share/unicode/auxiliary/WordBreakTest.txt';

/** The cases: segments between the boundaries (÷), of code points in hexadecimal. */
const cases = readFileSync(file, 'utf8')
  .split('\n')
  .map((line) => line.replace(/#.*$/u, '').trim())
  .filter((line) => line !== '')
  .map((line) =>
    line
      .split('÷')
      .map((segment) =>
        segment
          .split(/[\s×]+/u)
          .filter((code) => code !== '')
          .map((code) => String.fromCodePoint(Number.parseInt(code, 16)))
          .join(''),
      )
      .filter((segment) => segment !== ''),
  );

it('finds the words between the boundaries that Unicode publishes', () => {
  expect(cases.length).toBeGreaterThan(1800);
  const differ = cases.filter((segments) => {
    const published = segments.filter((segment) => /[\p{L}\p{N}]/u.test(segment));
    const found = [...wordsIn(segments.join(''))];
    return JSON.stringify(found) !== JSON.stringify(published);
  });
  console.log(
    `${cases.length} cases of Unicode's word breaks, ${differ.length} differ: ${JSON.stringify(differ.slice(0, 5))}`,
  );
  // Node's Intl carries a newer Unicode, which breaks two of the cases otherwise: a letter joined to a pictograph.
  expect(differ.length).toBeLessThanOrEqual(2);
});
