import { termOf } from '../search/analyse';
import { nearOnes } from '../search/near';
import type { Wanted } from '../search/question';
import { findsIn } from '../views/conditions';
import type { Meant } from '../views/question';
import { foundBy, indexOf, languagesOf } from './found';
import { Matcher, spelled } from './matcher';
import type { Scan } from './scan';
import { valueBits } from './valueBits';

/** A typed word that stands in at most so many papers may be misspelt, if one near to it stands in so many times more. */
const few = 2;
const timesMore = 20;
/** Near words that are counted: the nearest, then those of most texts. */
const mostCounted = 12;

/** Words of a question that are in few of the papers that the asker may see, or in none. */
function rareOnes(scan: Scan): { readonly typed: string; readonly rows: number }[] {
  const found = findsIn(scan.question.conditions).flatMap((condition) => foundBy(scan, condition).wanted);
  return found
    .filter(({ wanted, rows }) => rows <= few && isPlain(wanted))
    .map(({ wanted, rows }) => ({ typed: wanted.words[0] ?? '', rows }));
}

const isPlain = ({ words, isBeginning, part, written }: Wanted): boolean =>
  words.length === 1 && !isBeginning && part === null && written === null;

/** Terms of texts near to the rare words of a question, which have to be there to be counted. */
export function nearTerms(scan: Scan): string[] {
  const { terms, languages } = indexOf(scan.tally);
  return [
    ...new Set(
      rareOnes(scan).flatMap(({ typed }) =>
        languages.flatMap((language) => terms.near(termOf(typed, language), mostCounted)),
      ),
    ),
  ];
}

/**
 * What may have been meant by rare words: for each the near word that stands in most of the papers that the asker may see.
 * One that stands in none of those is never told.
 */
export function meantBy(scan: Scan): Meant[] {
  return rareOnes(scan).flatMap(({ typed, rows }) => {
    const enough = Math.max(1, timesMore * rows);
    const near = [...inNames(scan, typed), ...inTexts(scan, typed)].filter((each) => each.papers >= enough);
    near.sort(
      (one, other) =>
        one.edits - other.edits ||
        other.papers - one.papers ||
        Number(one.standsIn !== null) - Number(other.standsIn !== null),
    );
    const [best] = near;
    return best ? [{ typed, word: best.word, standsIn: best.standsIn }] : [];
  });
}

interface Near {
  readonly word: string;
  readonly edits: number;
  readonly papers: number;
  readonly standsIn: string | null;
}

/** Near words of titles, file names, remarks and values. */
function inNames(scan: Scan, typed: string): Near[] {
  const { tally, rows } = scan;
  // Words of values are among those of the lexicon by now, whoever they are of: only rows that may be seen are counted.
  const near = nearOnes(spelled(typed), tally.lexicon.words.slice(1))
    .sort((one, other) => one.edits - other.edits)
    .slice(0, mostCounted);
  if (near.length === 0) return [];
  const wanted = near.map(({ word }): Wanted => ({
    typed: word,
    words: [word],
    joined: null,
    isBeginning: false,
    written: null,
    part: null,
  }));
  const bits = new Int32Array(tally.rows);
  const read = valueBits(scan, wanted);
  const matcher = new Matcher(tally.lexicon, wanted, languagesOf(tally));
  tally.rowWords.match(rows, matcher, { title: bits, fileName: bits, value: bits });
  read(matcher, bits);
  const papers = near.map(() => 0);
  for (const row of rows)
    for (let rest = bits[row] as number; rest !== 0; rest &= rest - 1) {
      const which = 31 - Math.clz32(rest & -rest);
      papers[which] = (papers[which] ?? 0) + 1;
    }
  return near.map((each, at) => ({ ...each, papers: papers[at] ?? 0, standsIn: null }));
}

/** Near terms of texts. */
function inTexts(scan: Scan, typed: string): Near[] {
  const { tally } = scan;
  const index = indexOf(tally);
  const isSeen = new Uint8Array(tally.rows);
  for (const row of scan.rows) isSeen[row] = 1;
  const near = new Map<string, number>();
  for (const language of index.languages) {
    const term = termOf(typed, language);
    for (const { word, edits } of nearOnes(term, index.terms.near(term, mostCounted)))
      near.set(word, Math.min(edits, near.get(word) ?? edits));
  }
  return [...near].flatMap(([word, edits]): Near[] => {
    const seen = new Set<number>();
    for (const number of index.postings(word)?.numbers ?? [])
      tally.texts.each(number, (row) => isSeen[row] === 1 && seen.add(row));
    const [first] = seen;
    return first === undefined ? [] : [{ word, edits, papers: seen.size, standsIn: tally.ids.idOf(first) }];
  });
}
