import { searchKey } from '../text/fold';
import { writtenIn } from '../text/written';
import { joinedOf, termOf } from './analyse';
import { termLanguages, type WordLanguages } from './languages';
import type { Wanted } from './question';

/** Where something that is wanted stands in a text: [from, to) in UTF-16 units, and which of what is wanted it is. */
export interface Hit {
  readonly from: number;
  readonly to: number;
  readonly which: number;
}

const word = /[\p{L}\p{N}\p{M}]+(?:['’][\p{L}\p{N}\p{M}]+)*/gu;

/** What is wanted as single words are compared with it: of a phrase each word counts, since they are marked one by one. */
function asked(all: readonly Wanted[], languages: readonly (string | null)[]) {
  const [terms, keys] = [new Map<string, number>(), new Map<string, number>()];
  const starts: [string, number][] = [];
  const parts: [string, number][] = [];
  all.forEach(({ words, joined, written, isBeginning, part }, which) => {
    for (const each of words)
      for (const language of languages) {
        const term = termOf(each, language);
        if (term !== '' && !terms.has(term)) terms.set(term, which);
      }
    if (joined !== null) keys.set(joined, which);
    if (written !== null) keys.set(written, which);
    const [first = ''] = words;
    if (isBeginning) starts.push([termOf(first, null), which]);
    if (part !== null) parts.push([part, which]);
  });
  return { terms, keys, starts, parts };
}

/**
 * Where the words of a question stand in a text, in order and without overlap. At most so many are looked for.
 * @param languages in which words may have been stemmed
 */
export function hitsIn(text: string, all: readonly Wanted[], languages: WordLanguages, most = 400): Hit[] {
  const tongues = termLanguages(languages);
  const { terms, keys, starts, parts } = asked(all, tongues);
  const whichIs = (said: string): number | undefined => {
    for (const language of tongues) {
      const which = terms.get(termOf(said, language));
      if (which !== undefined) return which;
    }
    if (starts.length === 0 && parts.length === 0) return undefined;
    const plain = searchKey(said).replace(/[^\p{L}\p{N}]+/gu, '');
    return (starts.find(([start]) => plain.startsWith(start)) ?? parts.find(([part]) => plain.includes(part)))?.[1];
  };
  const whole = [
    ...(keys.size === 0 ? [] : writtenHits(text, keys)),
    ...joinedHits(text, new Map([...terms, ...keys])),
  ];
  const hits: Hit[] = whole.slice(0, most);
  for (const { 0: said, index } of text.matchAll(word)) {
    if (hits.length >= most) break;
    if (whole.some(({ from, to }) => index < to && from < index + said.length)) continue;
    const which = whichIs(said);
    if (which !== undefined) hits.push({ from: index, to: index + said.length, which });
  }
  return hits.sort((one, other) => one.from - other.from);
}

/** Days and amounts, in whatever way they are written. */
const writtenHits = (text: string, keys: ReadonlyMap<string, number>): Hit[] =>
  writtenIn(text).flatMap(({ index, length, keys: ofIt }) => {
    const which = ofIt.map((key) => keys.get(key)).find((each) => each !== undefined);
    return which === undefined ? [] : [{ from: index, to: index + length, which }];
  });

const compound = /[\p{L}\p{N}]+(?:[-/.‐-―'’][\p{L}\p{N}]+)+/gu;

/** What is joined by hyphens and was typed as one word, or the other way round. */
const joinedHits = (text: string, keys: ReadonlyMap<string, number>): Hit[] =>
  [...text.matchAll(compound)].flatMap(({ 0: run, index }) => {
    const joined = joinedOf(run);
    const which = joined === null ? undefined : keys.get(joined);
    return which === undefined ? [] : [{ from: index, to: index + run.length, which }];
  });

/** Only the places of hits, as marks. */
export const marksOf = (hits: readonly Hit[]): [number, number][] => hits.map(({ from, to }) => [from, to]);
