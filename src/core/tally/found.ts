import { termLanguages, type WordLanguages } from '../search/languages';
import { readQuestion, type Wanted } from '../search/question';
import { textHits, type Hits, type TextIndex } from '../search/textHits';
import { idf, inMeanText, mostReordered, saturated, weights } from '../search/weights';
import type { Among } from '../search/among';
import type { FindCondition } from '../views/conditions';
import { reordered } from './foundOrder';
import { Matcher } from './matcher';
import type { Scan } from './scan';
import { selectRange } from './selectRange';
import type { Tally } from './tally';
import { valueBits } from './valueBits';
import { placeBits } from './placeBits';

/** What a condition by words finds among the rows of a scan. */
export interface Found {
  /** By row of the tally: how well it answers; 0 for a row that does not. */
  readonly scores: Float32Array;
  /** What was wanted, and in how many of the rows that the asker may see each of it stands. */
  readonly wanted: readonly { readonly wanted: Wanted; readonly rows: number }[];
}

/** The languages in which a library's words are looked for: English always, since names say nothing of theirs. */
export const languagesOf = ({ texts }: Tally): WordLanguages => [...new Set(['en', ...texts.languages])].sort();

/** The index of a library's texts. */
export const indexOf = (tally: Tally): TextIndex => ({
  terms: tally.index.terms,
  postings: (term) => tally.index.postings(term),
  languages: termLanguages(languagesOf(tally)),
});

/** By row, a bit for each of what is wanted, by where it stands. */
interface Bits {
  readonly title: Int32Array;
  readonly fileName: Int32Array;
  readonly value: Int32Array;
  readonly place: Int32Array;
  readonly text: Int32Array;
}

/**
 * The rows in which everything stands that a condition wants, wherever in them, and nothing that it puts out: by titles,
 * values and texts alike. Scored by BM25F (Robertson, Zaragoza, Taylor: "Simple BM25 extension to multiple weighted
 * fields", 2004); how rare a word is is counted among the rows of the scan, so that no order tells of papers that are kept
 * from the asker. A condition that only puts out finds nothing.
 */
function foundIn(scan: Scan, { find, among }: FindCondition): Found {
  const { tally, rows } = scan;
  const scores = new Float32Array(tally.rows);
  const { all, none } = readQuestion(find);
  const index = indexOf(tally);
  const hits = [...all, ...none].map((wanted) => textHits(wanted, index));
  const { bits, matcher } = bitsOf(scan, [...all, ...none], hits, among);
  const every = firstBits(all.length);
  const out = firstBits(all.length + none.length) & ~every;
  // A word that says nothing in texts, as "the" does, is asked of none of them; a question of only such is asked of titles.
  const silent = hits.slice(0, all.length).reduce((sum, each, at) => (each === null ? sum | (1 << at) : sum), 0);
  const asked = silent === every ? every : every & ~silent;
  const within = new Int32Array(all.length);
  const matched = new Int32Array(rows.length);
  const isMail = among === 'mail' ? scan.lane('kind') : null;
  const mail = isMail?.kind === 'coded' ? { codes: isMail.codes, code: isMail.find('MAIL') } : null;
  let count = 0;
  for (let at = 0; at < rows.length; at += 1) {
    const row = rows[at] as number;
    const here =
      (bits.title[row] as number) |
      (bits.fileName[row] as number) |
      (bits.value[row] as number) |
      (bits.place[row] as number) |
      (bits.text[row] as number);
    if (here === 0 || (mail && mail.codes[row] !== mail.code)) continue;
    for (let rest = here & every; rest !== 0; rest &= rest - 1) {
      const which = 31 - Math.clz32(rest & -rest);
      within[which] = (within[which] as number) + 1;
    }
    if ((here & asked) === asked && (here & out) === 0) matched[count++] = row;
  }
  const found = all.length === 0 ? matched.subarray(0, 0) : matched.subarray(0, count);
  const says = Array.from(within, (papers) => idf(rows.length, papers));
  score(scan, found, bits, { says, hits: hits.slice(0, all.length), among, scores });
  const best = bestOf(found, scores);
  reordered(scan, best, { all, says, index, scores, among, matcher });
  return { scores, wanted: all.map((wanted, at) => ({ wanted, rows: within[at] ?? 0 })) };
}

/** What each condition found in a scan: it is asked for by those that pass rows, and by those that put them in order. */
const known = new WeakMap<Scan, Map<string, Found>>();

/** What a condition by words finds among the rows of a scan. */
export function foundBy(scan: Scan, condition: FindCondition): Found {
  const ofScan = known.get(scan) ?? new Map<string, Found>();
  known.set(scan, ofScan);
  const key = JSON.stringify(condition);
  const found = ofScan.get(key) ?? foundIn(scan, condition);
  ofScan.set(key, found);
  return found;
}

const firstBits = (count: number): number => (count >= 32 ? -1 : (1 << count) - 1);

/** The best rows, in their order. */
function bestOf(found: Int32Array, scores: Float32Array): Int32Array {
  const order = found.slice();
  const compare = (a: number, b: number): number => (scores[b] as number) - (scores[a] as number) || a - b;
  selectRange(order, compare, 0, Math.min(mostReordered, order.length));
  return order.subarray(0, mostReordered);
}

/** Which fields are looked at where words are looked for among some of what is known. */
const fieldsOf: Readonly<Record<Among, readonly (keyof Bits)[]>> = {
  everything: ['title', 'fileName', 'value', 'place', 'text'],
  titles: ['title', 'fileName'],
  inside: ['text'],
  values: ['value'],
  mail: ['title', 'fileName', 'value', 'text'],
};

/** Arrays as long as the tally, used again from one question to the next: making them anew is most of the work of a small question. */
const scratch = new WeakMap<Tally, Int32Array[]>();
function empties(tally: Tally, count: number): Int32Array[] {
  const there = scratch.get(tally);
  if (there?.[0]?.length !== tally.rows || there.length < count) {
    const made = Array.from({ length: count }, () => new Int32Array(tally.rows));
    scratch.set(tally, made);
    return made;
  }
  for (const array of there) array.fill(0);
  return there;
}

function bitsOf(
  scan: Scan,
  wanted: readonly Wanted[],
  hits: readonly (readonly Hits[] | null)[],
  among: Among,
): { readonly bits: Bits; readonly matcher: Matcher } {
  const { tally, rows } = scan;
  const fields = new Set(fieldsOf[among]);
  const [title, fileName, value, place, text] = empties(tally, 6) as [
    Int32Array,
    Int32Array,
    Int32Array,
    Int32Array,
    Int32Array,
  ];
  const bits: Bits = { title, fileName, value, place, text };
  const readValues = fields.has('value') ? valueBits(scan, wanted) : null;
  const readPlaces = fields.has('place') ? placeBits(scan) : null;
  // All words of values and places are known to the lexicon by now.
  const matcher = new Matcher(tally.lexicon, wanted, languagesOf(tally));
  tally.rowWords.match(rows, matcher, bits);
  if (!fields.has('title')) bits.title.fill(0);
  if (!fields.has('fileName')) bits.fileName.fill(0);
  if (readValues) readValues(matcher, bits.value);
  else bits.value.fill(0);
  readPlaces?.(matcher, bits.place);
  if (fields.has('text'))
    hits.forEach((ways, which) => {
      for (const { numbers } of ways ?? [])
        for (const number of numbers)
          tally.texts.each(number, (row) => (bits.text[row] = (bits.text[row] as number) | (1 << which)));
    });
  return { bits, matcher };
}

/** Gives each row that was found its score. */
function score(
  scan: Scan,
  found: Int32Array,
  bits: Bits,
  {
    says,
    hits,
    among,
    scores,
  }: {
    readonly says: readonly number[];
    readonly hits: readonly (readonly Hits[] | null)[];
    readonly among: Among;
    readonly scores: Float32Array;
  },
): void {
  const { tally } = scan;
  // The one array that the bits leave over.
  const slots = scratch.get(tally)?.[5] ?? new Int32Array(tally.rows);
  found.forEach((row, at) => (slots[row] = at + 1));
  const mean = meanLength(scan);
  const { lengths } = tally.texts;
  const inTexts = fieldsOf[among].includes('text');
  says.forEach((weight, which) => {
    const counts = new Float32Array(found.length);
    if (inTexts)
      for (const { numbers, counts: often, weight: way } of hits[which] ?? [])
        for (let at = 0; at < numbers.length; at += 1) {
          const number = numbers[at] as number;
          const count = way * inMeanText(often[at] as number, lengths[number] as number, mean);
          tally.texts.each(number, (row, older) => {
            const slot = slots[row] as number;
            if (slot > 0) counts[slot - 1] = (counts[slot - 1] as number) + (older ? weights.older * count : count);
          });
        }
    const bit = 1 << which;
    for (let at = 0; at < found.length; at += 1) {
      const row = found[at] as number;
      let count = counts[at] as number;
      if (((bits.title[row] as number) & bit) !== 0) count += weights.title;
      else if (((bits.fileName[row] as number) & bit) !== 0) count += weights.fileName;
      if (((bits.value[row] as number) & bit) !== 0) count += weights.value;
      if (((bits.place[row] as number) & bit) !== 0) count += weights.place;
      scores[row] = (scores[row] as number) + weight * saturated(count);
    }
  });
  const { changedAtMs } = tally;
  const now = scan.looking.today * dayMs;
  const isFrequented = Uint8Array.from(tally.places, ({ id }) => Number(scan.asker.frequented.has(id)));
  for (let at = 0; at < found.length; at += 1) {
    const row = found[at] as number;
    const years = Math.max(0, now - (changedAtMs[row] as number)) / yearMs;
    const slightly = weights.recent * 2 ** -years + weights.frequented * (isFrequented[scan.standsAt(row)] as number);
    // Never 0, which stands for a row that was not found.
    scores[row] = Math.max(least, scores[row] as number) * (1 + slightly);
  }
}

const dayMs = 86_400_000;
const yearMs = 365.25 * dayMs;
const least = 1e-6;

/** How long a text is on average of those whose papers the asker may see. */
function meanLength({ tally, rows }: Scan): number {
  const { lengths } = tally.texts;
  let [sum, texts] = [0, 0];
  for (let at = 0; at < rows.length; at += 1) {
    const number = tally.texts.ownOf(rows[at] as number);
    if (number === 0) continue;
    sum += lengths[number] as number;
    texts += 1;
  }
  return texts === 0 ? 0 : sum / texts;
}
