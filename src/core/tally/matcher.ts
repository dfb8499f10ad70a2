import { termOf } from '../search/analyse';
import type { WordLanguages } from '../search/languages';
import type { Wanted } from '../search/question';
import { searchKey } from '../text/fold';
import type { Lexicon } from './lexicon';

/** Words that have to stand one after the other. */
interface Phrase {
  readonly bit: number;
  readonly steps: readonly ReadonlySet<number>[];
}

/** What a question wants, as codes of a lexicon: bit `i` stands for the `i`th of what is wanted. */
export class Matcher {
  /** By code: the bits of what a word answers by itself. */
  readonly single: Int32Array;
  /** By code: not 0 for a word with which a phrase begins. */
  readonly first: Int32Array;
  /** A bit for each code that is not 0 in either, by the end of the code. */
  hint = 0;
  readonly #phrases: Phrase[] = [];

  constructor(lexicon: Lexicon, wanted: readonly Wanted[], languages: WordLanguages) {
    this.single = new Int32Array(lexicon.words.length);
    this.first = new Int32Array(lexicon.words.length);
    wanted.forEach((each, at) => this.#add(lexicon, each, 1 << at, languages));
  }

  #add(lexicon: Lexicon, wanted: Wanted, bit: number, languages: WordLanguages): void {
    const { words, joined, written, isBeginning, part } = wanted;
    const note = (codes: Iterable<number>, marks: Int32Array) => {
      for (const code of codes) {
        marks[code] = (marks[code] as number) | bit;
        this.hint |= 1 << (code & 31);
      }
    };
    for (const one of [joined, written]) {
      const code = one === null ? null : lexicon.codeOf(one);
      if (code !== null) note([code], this.single);
    }
    if (part !== null)
      note(
        lexicon.codesWith((each) => each.includes(part) && !/^[#=]/u.test(each)),
        this.single,
      );
    const [word = ''] = words;
    if (words.length > 1) {
      const steps = words.map((each) => new Set(lexicon.codesFor(each, languages)));
      if (steps.some((codes) => codes.size === 0)) return;
      this.#phrases.push({ bit, steps });
      return note(steps[0] ?? [], this.first);
    }
    note(lexicon.codesFor(word, languages), this.single);
    const start = isBeginning ? termOf(word, null) : '';
    if (start !== '')
      note(
        lexicon.codesWith((each) => each.startsWith(start)),
        this.single,
      );
  }

  /** The bits of the phrases that begin at a place of some codes. */
  phrasesAt(codes: ArrayLike<number>, place: number, end: number): number {
    let bits = 0;
    for (const { bit, steps } of this.#phrases) {
      if (place + steps.length > end) continue;
      if (steps.every((step, at) => step.has(codes[place + at] as number))) bits |= bit;
    }
    return bits;
  }

  /** The bits of all that stands in some codes. */
  bitsIn(codes: readonly number[]): number {
    let bits = 0;
    for (let place = 0; place < codes.length; place += 1) {
      const code = codes[place] as number;
      bits |= this.single[code] as number;
      if (this.first[code] !== 0) bits |= this.phrasesAt(codes, place, codes.length);
    }
    return bits;
  }
}

/** A typed word as lexicons spell it. */
export const spelled = (word: string): string => searchKey(word).replace(/[^\p{L}\p{N}]+/gu, '');
