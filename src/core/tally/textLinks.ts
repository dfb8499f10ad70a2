import type { ViewText } from '../views/question';
import { grown } from './rowIds';

/** In which way a text is a paper's: its own, an attachment's, or an earlier version's. */
export const textWays = ['own', 'attached', 'older'] as const;
export type TextWay = (typeof textWays)[number];
const waysCode: Readonly<Record<TextWay, number>> = { own: 0, attached: 1, older: 2 };

const nobody = -1;

/** Which texts are which papers': nearly every paper has one, and nearly every text one paper. A number without a paper answers nothing. */
export class TextLinks {
  /** By number: the row and the way of the first paper, as `row * 4 + way`. */
  #first = new Int32Array(0);
  /** Further papers of a text. */
  readonly #more = new Map<number, number[]>();
  /** By row: the number of its own text; 0 for none. */
  #own = new Int32Array(0);
  readonly #others = new Map<number, readonly ViewText[]>();
  /** Words of each text, by number. */
  lengths = new Int32Array(0);
  readonly languages = new Set<string>();

  /** Sets the texts of a row. */
  set(row: number, texts: readonly ViewText[]): void {
    this.clear(row);
    for (const { number, length, language, as } of texts) {
      this.lengths = grown(this.lengths, number + 1);
      this.lengths[number] = length;
      if (language !== null) this.languages.add(language);
      this.#link(number, row * 4 + waysCode[as]);
    }
    this.#own = grown(this.#own, row + 1);
    this.#own[row] = texts.find(({ as }) => as === 'own')?.number ?? 0;
    const others = texts.filter(({ as }) => as !== 'own');
    if (others.length > 0) this.#others.set(row, others);
  }

  /** Takes a row's texts away. */
  clear(row: number): void {
    const own = this.#own[row] ?? 0;
    if (own !== 0) this.#unlink(own, row);
    for (const { number } of this.#others.get(row) ?? []) this.#unlink(number, row);
    this.#others.delete(row);
    if (row < this.#own.length) this.#own[row] = 0;
  }

  #link(number: number, link: number): void {
    const from = this.#first.length;
    this.#first = grown(this.#first, number + 1);
    if (this.#first.length > from) this.#first.fill(nobody, from);
    if (this.#first[number] === nobody) this.#first[number] = link;
    else this.#more.set(number, [...(this.#more.get(number) ?? []), link]);
  }

  #unlink(number: number, row: number): void {
    const links = [this.#first[number] ?? nobody, ...(this.#more.get(number) ?? [])].filter(
      (link) => link !== nobody && link >> 2 !== row,
    );
    this.#first[number] = links[0] ?? nobody;
    if (links.length > 1) this.#more.set(number, links.slice(1));
    else this.#more.delete(number);
  }

  /** Calls for each paper of a text, with its row and whether it is an earlier version's. */
  each(number: number, call: (row: number, older: boolean) => void): void {
    const first = this.#first[number] ?? nobody;
    if (first === nobody) return;
    call(first >> 2, (first & 3) === waysCode.older);
    if (this.#more.size > 0)
      for (const link of this.#more.get(number) ?? []) call(link >> 2, (link & 3) === waysCode.older);
  }

  /** The number of a row's own text; 0 for none. */
  ownOf = (row: number): number => this.#own[row] ?? 0;

  /** The numbers of a row's texts, its own first. */
  ofRow(row: number): number[] {
    const own = this.#own[row] ?? 0;
    return [...(own === 0 ? [] : [own]), ...(this.#others.get(row) ?? []).map(({ number }) => number)];
  }
}
