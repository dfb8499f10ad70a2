/** Letters by which words may differ that are taken for misspellings of each other; shorter words have too many neighbours. */
const allowed = (length: number): number => (length < 4 ? 0 : length < 7 ? 1 : 2);

/**
 * How many letters have to be put in, left out, changed or swapped with their neighbour to make one word the other (optimal
 * string alignment: F. J. Damerau, "A technique for computer detection and correction of spelling errors", 1964).
 * @returns `most + 1` where it is more than `most`
 */
export function editsBetween(one: string, other: string, most: number): number {
  if (Math.abs(one.length - other.length) > most) return most + 1;
  let [before, last] = [new Int32Array(0), Int32Array.from({ length: other.length + 1 }, (_none, at) => at)];
  for (let at = 1; at <= one.length; at += 1) {
    const row = new Int32Array(other.length + 1).fill(at, 0, 1);
    let least = at;
    for (let to = 1; to <= other.length; to += 1) {
      const same = one[at - 1] === other[to - 1];
      let edits = Math.min((last[to] ?? 0) + 1, (row[to - 1] ?? 0) + 1, (last[to - 1] ?? 0) + Number(!same));
      if (at > 1 && to > 1 && one[at - 1] === other[to - 2] && one[at - 2] === other[to - 1])
        edits = Math.min(edits, (before[to - 2] ?? 0) + 1);
      row[to] = edits;
      least = Math.min(least, edits);
    }
    if (least > most) return most + 1;
    [before, last] = [last, row];
  }
  return Math.min(last[other.length] ?? 0, most + 1);
}

/** Which letters a word has: words that differ in few letters differ in few bits. */
function lettersOf(word: string): number {
  let bits = 0;
  for (let at = 0; at < word.length; at += 1) bits |= 1 << (word.charCodeAt(at) & 31);
  return bits;
}

function bitsIn(number: number): number {
  let [rest, count] = [number, 0];
  for (; rest !== 0; rest &= rest - 1) count += 1;
  return count;
}

/** Words a letter or two from a typed one, with how many: none for what has digits, or is short. */
export function nearOnes(typed: string, words: Iterable<string>): { readonly word: string; readonly edits: number }[] {
  const most = allowed(typed.length);
  if (most === 0 || /\d/u.test(typed)) return [];
  const letters = lettersOf(typed);
  const near: { word: string; edits: number }[] = [];
  for (const word of words) {
    if (Math.abs(word.length - typed.length) > most || word.length < 3) continue;
    // A changed letter is a bit less here and a bit more there.
    if (bitsIn(letters ^ lettersOf(word)) > 2 * most) continue;
    const edits = editsBetween(typed, word, most);
    if (edits > 0 && edits <= most && !/\d/u.test(word)) near.push({ word, edits });
  }
  return near;
}
