import { nearOnes } from './near';

/** All terms of the index, with about how many texts have each: from here come beginnings, parts of numbers and near words. */
export class TermList {
  readonly #texts = new Map<string, number>();
  #sorted: string[] | null = null;
  /** All terms with digits, one a line, with a line end before and behind each: one text is looked through faster than many. */
  #numbered: string | null = null;
  /** Texts up to this number are in it. */
  upTo = 0;

  /** Adds terms of some texts. One that is there gets more texts. */
  add(terms: Iterable<readonly [term: string, texts: number]>): void {
    for (const [term, texts] of terms) {
      const there = this.#texts.get(term);
      this.#texts.set(term, (there ?? 0) + texts);
      if (there !== undefined) continue;
      this.#sorted = null;
      this.#numbered = null;
    }
  }

  /** About how many texts have a term. */
  textsOf = (term: string): number => this.#texts.get(term) ?? 0;

  /** At most so many terms that begin so, in their order. */
  beginningWith(start: string, most: number): string[] {
    const sorted = (this.#sorted ??= [...this.#texts.keys()].sort());
    let [low, high] = [0, sorted.length];
    while (low < high) {
      const middle = (low + high) >>> 1;
      if ((sorted[middle] ?? '') < start) low = middle + 1;
      else high = middle;
    }
    const found: string[] = [];
    for (let at = low; at < sorted.length && found.length < most; at += 1) {
      const term = sorted[at] ?? '';
      if (!term.startsWith(start)) break;
      found.push(term);
    }
    return found;
  }

  /** At most so many terms with digits of which this is a part, the shortest first. */
  having(part: string, most: number): string[] {
    const all =
      (this.#numbered ??= `\n${[...this.#texts.keys()].filter((term) => /\d/u.test(term) && !/^[#=]/u.test(term)).join('\n')}\n`);
    const found: string[] = [];
    for (let at = all.indexOf(part); at !== -1;) {
      const end = all.indexOf('\n', at);
      const term = all.slice(all.lastIndexOf('\n', at) + 1, end);
      if (term !== part) found.push(term);
      at = all.indexOf(part, end);
    }
    return found.sort((one, other) => one.length - other.length || (one < other ? -1 : 1)).slice(0, most);
  }

  /** At most so many terms a letter or two from a typed one: the nearest first, then those of most texts. */
  near(typed: string, most: number): string[] {
    return nearOnes(typed, this.#texts.keys())
      .sort((one, other) => one.edits - other.edits || this.textsOf(other.word) - this.textsOf(one.word))
      .slice(0, most)
      .map(({ word }) => word);
  }
}
