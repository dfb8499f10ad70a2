import { searchKey } from '../text/fold';

const wordShape = /[\p{L}\p{N}\p{Mn}]+(?:['’][\p{L}\p{N}\p{Mn}]+)*/gu;

/**
 * Where the words of a query occur in a name, ignoring accents and case: ordered, non-overlapping [from, to) positions. A
 * query word matches the beginning of a word, or characters inside it.
 */
export function marksIn(name: string, query: string): [number, number][] {
  const wanted = searchKey(query).split(' ').filter(Boolean);
  const marks: [number, number][] = [];
  for (const match of name.matchAll(wordShape)) {
    const word = match[0];
    const hit = wanted.map((each) => runIn(word, each)).find((run) => run !== null);
    if (hit) marks.push([match.index + hit[0], match.index + hit[1]]);
  }
  return marks;
}

/** The first run of characters whose folded form is the wanted one. */
function runIn(word: string, wanted: string): [number, number] | null {
  for (let from = 0; from < word.length; from += 1) {
    for (let to = from + 1; to <= word.length; to += 1) {
      const folded = searchKey(word.slice(from, to));
      if (folded === wanted) return [from, extendOverMarks(word, to)];
      if (!wanted.startsWith(folded)) break;
    }
  }
  return null;
}

function extendOverMarks(word: string, to: number): number {
  let end = to;
  while (end < word.length && /\p{Mn}/u.test(word.charAt(end))) end += 1;
  return end;
}
