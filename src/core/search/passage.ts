import { hitsIn, type Hit } from './hits';
import type { WordLanguages } from './languages';
import type { Wanted } from './question';

/** A passage of a text, with the places of the words that were asked for: [from, to) in UTF-16 units of the passage. */
export interface Passage {
  readonly text: string;
  readonly marks: readonly (readonly [number, number])[];
  /** How many different things that are wanted stand in it. */
  readonly terms: number;
}

/** How many words a passage has, and how many of them stand before the first that was asked for. */
const passageWords = 34;
const wordsBefore = 6;

const word = /[\p{L}\p{N}\p{M}]+(?:['’][\p{L}\p{N}\p{M}]+)*/gu;
/** So much of a text around its best place is looked at. In characters. */
const around = 600;

/**
 * The passage of a page that has most of what is wanted close together; null where none of it stands on it.
 * @param languages in which words may have been stemmed
 */
export function passageOf(page: string, all: readonly Wanted[], languages: WordLanguages): Passage | null {
  const hits = hitsIn(page, all, languages);
  const [first] = hits;
  if (!first) return null;
  let best = { hit: first, terms: 0 };
  for (const [at, hit] of hits.entries()) {
    const near = hits.slice(at, at + passageWords).filter(({ from }) => from < hit.from + around / 2);
    const terms = new Set(near.map(({ which }) => which)).size;
    if (terms > best.terms) best = { hit, terms };
  }
  return cut(page, best.hit, hits, best.terms);
}

function cut(page: string, hit: Hit, hits: readonly Hit[], terms: number): Passage {
  const base = Math.max(0, hit.from - around);
  const words = [...page.slice(base, hit.from + around).matchAll(word)].map(({ 0: said, index }) => ({
    from: base + index,
    to: base + index + said.length,
  }));
  const at = Math.max(
    0,
    words.findIndex(({ to }) => to > hit.from),
  );
  const shown = words.slice(Math.max(0, at - wordsBefore), Math.max(0, at - wordsBefore) + passageWords);
  const [start, end] = [shown[0]?.from ?? hit.from, Math.max(hit.to, shown.at(-1)?.to ?? hit.to)];
  const marks = hits
    .filter(({ from, to }) => from >= start && to <= end)
    .map(({ from, to }) => [from - start, to - start] as const);
  return { text: page.slice(start, end), marks, terms };
}
