import { termOf } from './analyse';

/** A passage of a text, with the places of the words that were asked for: [from, to) in UTF-16 units of the passage. */
export interface Passage {
  readonly text: string;
  readonly marks: readonly (readonly [number, number])[];
  /** How many different terms stand in it. */
  readonly terms: number;
}

/** How many words a passage has, and how many of them stand before the first that was asked for. */
const passageWords = 34;
const wordsBefore = 6;
/** More hits of one page are not looked at: the best passage is among the first. */
const mostHits = 400;

const word = /[\p{L}\p{N}\p{M}]+(?:['’][\p{L}\p{N}\p{M}]+)*/gu;

/**
 * The passage of a page that has most of the terms close together; null where none of them stands on it.
 * @param terms as they are indexed
 * @param languages in which words may have been stemmed
 */
export function passageOf(
  page: string,
  terms: ReadonlySet<string>,
  beginnings: readonly string[],
  languages: readonly (string | null)[],
): Passage | null {
  const words = [...page.matchAll(word)];
  const hits: { readonly at: number; readonly term: string }[] = [];
  for (const [at, [said]] of words.entries()) {
    const term = languages.map((language) => termOf(said, language)).find((each) => terms.has(each));
    const begun =
      term ?? (beginnings.length === 0 ? undefined : beginnings.find((each) => termOf(said, null).startsWith(each)));
    if (begun !== undefined) hits.push({ at, term: begun });
    if (hits.length >= mostHits) break;
  }
  if (hits.length === 0) return null;
  let best = { from: hits[0]?.at ?? 0, terms: 0 };
  for (const [first, { at }] of hits.entries()) {
    const within = new Set<string>();
    for (let next = first; next < hits.length; next += 1) {
      const hit = hits[next];
      if (!hit || hit.at >= at + passageWords - wordsBefore) break;
      within.add(hit.term);
    }
    if (within.size > best.terms) best = { from: at, terms: within.size };
  }
  const from = Math.max(0, best.from - wordsBefore);
  const to = Math.min(words.length, from + passageWords) - 1;
  const [start, end] = [words[from]?.index ?? 0, (words[to]?.index ?? 0) + (words[to]?.[0].length ?? 0)];
  const marks = hits.flatMap(({ at }) => {
    const match = words[at];
    if (!match || at < from || at > to) return [];
    return [[match.index - start, match.index - start + match[0].length] as const];
  });
  return { text: page.slice(start, end), marks, terms: best.terms };
}
