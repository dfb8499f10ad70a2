import { termOf } from './analyse';
import type { Postings } from './postings';
import type { SearchQuestion, Wanted } from './question';
import { waysOf } from './terms';

/** What is known of the texts that are searched. */
export interface TextIndex {
  /** Languages (ISO 639-1) of the texts; null stands for those whose language is unknown. */
  readonly languages: readonly (string | null)[];
  /** How many texts there are, and how many words they have on average. */
  readonly texts: number;
  readonly meanLength: number;
  /** How many words a text has. */
  lengthOf(number: number): number;
  /** Null where no text has the term. */
  postings(term: string): Postings | null;
  /** Terms that begin so, the most frequent first. */
  beginningWith(start: string): readonly string[];
}

/** Texts that answer a question: their numbers, ascending, and how well each does. */
export interface Answered {
  readonly numbers: Int32Array;
  readonly scores: Float64Array;
}

/** Texts in which something stands, and how often: numbers ascend. */
interface Found {
  readonly numbers: readonly number[];
  readonly counts: readonly number[];
}

/** How many of the terms that begin as was typed are looked for. */
const mostBeginnings = 64;

/**
 * The texts in which everything stands that a question wants and nothing that it puts out, scored by BM25 (Robertson,
 * Zaragoza: "The Probabilistic Relevance Framework: BM25 and Beyond", 2009). A question that only puts out finds nothing.
 */
export function evaluate(question: SearchQuestion, index: TextIndex): Answered {
  const wanted = question.all.map((each) => foundOf(each, index)).filter((each) => each !== null);
  if (wanted.length === 0) return { numbers: new Int32Array(), scores: new Float64Array() };
  const out = new Set(question.none.flatMap((each) => foundOf(each, index)?.numbers ?? []));
  // From what is in the fewest texts: it leaves the least to look at.
  const [first, ...rest] = [...wanted].sort((one, other) => one.numbers.length - other.numbers.length);
  const others = rest.map(({ numbers, counts }) => new Map(numbers.map((number, at) => [number, counts[at] ?? 0])));
  const weights = [first as Found, ...rest].map(({ numbers }) => idf(index.texts, numbers.length));
  const [numbers, scores]: [number[], number[]] = [[], []];
  (first as Found).numbers.forEach((number, at) => {
    if (out.has(number)) return;
    const counts = [(first as Found).counts[at] ?? 0, ...others.map((each) => each.get(number) ?? 0)];
    if (counts.includes(0)) return;
    const length = index.lengthOf(number);
    numbers.push(number);
    scores.push(
      counts.reduce((sum, count, slot) => sum + (weights[slot] ?? 0) * saturated(count, length, index.meanLength), 0),
    );
  });
  return { numbers: Int32Array.from(numbers), scores: Float64Array.from(scores) };
}

/** How fast a further time counts less, and how much a long text counts against a hit: measured on published pages. */
const [k1, b] = [1.6, 0.2];

/** How much a word says that stands in so many of the texts. */
export const idf = (texts: number, within: number): number =>
  Math.log(1 + (Math.max(0, texts - within) + 0.5) / (within + 0.5));

/** How much it counts that a word stands so often in a text of so many words. */
function saturated(count: number, length: number, meanLength: number): number {
  const often = count / (1 - b + (b * length) / Math.max(1, meanLength));
  return (often * (k1 + 1)) / (often + k1);
}

/** In which texts something stands; null where it says nothing, as a stop word does. */
function foundOf(wanted: Wanted, index: TextIndex): Found | null {
  const ways = waysOf(wanted, index.languages);
  const parts = ways.map((tokens) =>
    tokens.length === 1 && tokens[0] ? termFound(tokens[0].term, index) : inARow(tokens, index),
  );
  if (wanted.joined !== null) parts.push(termFound(wanted.joined, index));
  const [word] = wanted.words;
  if (wanted.isBeginning && word !== undefined) {
    const known = new Set(ways.flatMap((tokens) => tokens.map(({ term }) => term)));
    for (const term of index.beginningWith(termOf(word, null)).slice(0, mostBeginnings))
      if (!known.has(term)) parts.push(termFound(term, index));
  }
  return parts.length === 0 ? null : union(parts);
}

const nothing: Found = { numbers: [], counts: [] };

function termFound(term: string, index: TextIndex): Found {
  const postings = index.postings(term);
  return postings ? { numbers: [...postings.numbers], counts: [...postings.counts] } : nothing;
}

/** Texts in which terms stand at the same distances as in the phrase. */
function inARow(tokens: readonly { readonly term: string; readonly position: number }[], index: TextIndex): Found {
  const lists = tokens.map(({ term }) => index.postings(term));
  const places = lists.map((postings) => (postings ? placesOf(postings) : new Map<number, Int32Array>()));
  const [first] = places;
  if (!first || lists.includes(null)) return nothing;
  const [numbers, counts]: [number[], number[]] = [[], []];
  const start = tokens[0]?.position ?? 0;
  for (const [number, positions] of first) {
    const rest = places.slice(1).map((each) => each.get(number));
    if (rest.includes(undefined)) continue;
    const sets = rest.map((each) => new Set(each));
    let count = 0;
    for (const position of positions)
      if (sets.every((set, at) => set.has(position + (tokens[at + 1]?.position ?? 0) - start))) count += 1;
    if (count === 0) continue;
    numbers.push(number);
    counts.push(count);
  }
  return { numbers, counts };
}

/** The positions of a term by text. */
function placesOf({ numbers, counts, positions }: Postings): Map<number, Int32Array> {
  const places = new Map<number, Int32Array>();
  let at = 0;
  numbers.forEach((number, text) => {
    const count = counts[text] ?? 0;
    places.set(number, positions.subarray(at, at + count));
    at += count;
  });
  return places;
}

/** Texts in any of several lists; counts are added. */
function union(parts: readonly Found[]): Found {
  const [only] = parts;
  if (parts.length === 1 && only) return only;
  const sums = new Map<number, number>();
  for (const { numbers, counts } of parts)
    numbers.forEach((number, at) => sums.set(number, (sums.get(number) ?? 0) + (counts[at] ?? 0)));
  const numbers = [...sums.keys()].sort((one, other) => one - other);
  return { numbers, counts: numbers.map((number) => sums.get(number) ?? 0) };
}
