import type { Postings } from './postings';
import type { Wanted } from './question';
import type { TermList } from './termList';
import { otherTerms, waysOf } from './terms';
import { weights } from './weights';

/** The index of texts, as far as a question needs it. */
export interface TextIndex {
  /** Languages (ISO 639-1) of the texts; null stands for those whose language is unknown. */
  readonly languages: readonly (string | null)[];
  readonly terms: TermList;
  /** Null where no text has the term. */
  postings(term: string): Postings | null;
}

/** Texts in which something stands: their numbers, ascending, and how often. */
export interface Hits {
  readonly numbers: Int32Array;
  readonly counts: Int32Array;
  /** How much one of these counts beside the word as it was typed. */
  readonly weight: number;
}

/** In which texts something stands, one list a way; null where it says nothing in any text, as a stop word does. */
export function textHits(wanted: Wanted, index: TextIndex): Hits[] | null {
  const ways = waysOf(wanted, index.languages);
  const { same, begun, parts } = otherTerms(wanted, index.terms);
  if (ways.length === 0 && same.length === 0 && begun.length === 0 && parts.length === 0) return null;
  const known = new Set(ways.flatMap((tokens) => tokens.map(({ term }) => term)));
  const of = (terms: readonly string[], weight: number) =>
    terms.filter((term) => !known.has(term)).map((term) => termHits(term, index, weight));
  return [
    ...ways.map((tokens) =>
      tokens.length === 1 && tokens[0] ? termHits(tokens[0].term, index, 1) : inARow(tokens, index),
    ),
    ...of(same, 1),
    ...of(begun, weights.begun),
    ...of(parts, weights.part),
  ].filter(({ numbers }) => numbers.length > 0);
}

function termHits(term: string, index: TextIndex, weight: number): Hits {
  const { numbers, counts } = index.postings(term) ?? none;
  return { numbers, counts, weight };
}
const none = { numbers: new Int32Array(), counts: new Int32Array() };

/** Texts in which terms stand at the same distances as in the phrase. */
function inARow(tokens: readonly { readonly term: string; readonly position: number }[], index: TextIndex): Hits {
  const lists = tokens.map(({ term }) => index.postings(term));
  const there = lists.filter((each) => each !== null);
  const [first] = there;
  if (!first || there.length < lists.length) return { ...none, weight: 1 };
  const start = tokens[0]?.position ?? 0;
  const offsets = tokens.map(({ position }) => position - start);
  const at = there.map(() => 0);
  const [numbers, counts]: [number[], number[]] = [[], []];
  for (let text = 0; text < first.numbers.length; text += 1) {
    const number = first.numbers[text] as number;
    if (!alignedAt(there, at, number)) continue;
    const places = there.slice(1).map((list, which) => list.positionsAt(at[which + 1] as number));
    let count = 0;
    for (const position of first.positionsAt(text))
      if (places.every((positions, which) => holds(positions, position + (offsets[which + 1] as number)))) count += 1;
    if (count === 0) continue;
    numbers.push(number);
    counts.push(count);
  }
  return { numbers: Int32Array.from(numbers), counts: Int32Array.from(counts), weight: 1 };
}

/** Moves each list on to a text; false where one of them does not have it. */
function alignedAt(lists: readonly Postings[], at: number[], number: number): boolean {
  for (let list = 1; list < lists.length; list += 1) {
    const { numbers } = lists[list] as Postings;
    let place = at[list] as number;
    while (place < numbers.length && (numbers[place] as number) < number) place += 1;
    at[list] = place;
    if (numbers[place] !== number) return false;
  }
  return true;
}

/** Whether ascending numbers have one among them. */
function holds(sorted: Int32Array, wanted: number): boolean {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((sorted[middle] as number) < wanted) low = middle + 1;
    else high = middle;
  }
  return sorted[low] === wanted;
}
