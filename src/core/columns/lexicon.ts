import { searchKey } from '../text/fold';
import type { Term } from './model';

/**
 * Finds terms by what people type: name, full path (`Finance > Audit`) or other names, ignoring case, accents and
 * spacing. A name takes precedence over another term's other name.
 */
export class Lexicon {
  readonly #byId: ReadonlyMap<string, Term>;
  readonly #byKey = new Map<string, string>();
  readonly #parts = new Map<string, number>();

  constructor(readonly terms: readonly Term[]) {
    this.#byId = new Map(terms.map((term) => [term.id, term]));
    // The first entry for a key wins, so the most specific go first.
    for (const term of terms) this.#lead(this.wayTo(term.id), term.id);
    for (const term of terms) this.#lead(term.name, term.id);
    for (const term of terms) for (const other of term.otherNames) this.#lead(other, term.id);
  }

  #lead(words: string, id: string): void {
    const key = termKey(words);
    if (!this.#byKey.has(key)) this.#byKey.set(key, id);
  }

  term = (id: string): Term | undefined => this.#byId.get(id);

  /** The id of the term with a name; null if none. */
  idOf = (words: string): string | null => this.#byKey.get(termKey(words)) ?? null;

  /** Into how many parts a sign cuts the name that has most of it; 1 where no name has it. */
  mostParts(sign: string): number {
    let most = this.#parts.get(sign);
    if (most === undefined) {
      most = 1;
      for (const key of this.#byKey.keys()) if (key.includes(sign)) most = Math.max(most, key.split(sign).length);
      this.#parts.set(sign, most);
    }
    return most;
  }

  /** A term's full path: `Finance > Audit`; empty for an unknown id. */
  wayTo(id: string): string {
    const names: string[] = [];
    const seen = new Set<string>();
    for (
      let at = this.#byId.get(id);
      at && !seen.has(at.id);
      at = at.parentId === null ? undefined : this.#byId.get(at.parentId)
    ) {
      names.unshift(at.name);
      seen.add(at.id);
    }
    return names.join(waySign);
  }

  /** The term and its ancestors, itself first. */
  ancestry(id: string): string[] {
    const ids: string[] = [];
    for (
      let at = this.#byId.get(id);
      at && !ids.includes(at.id);
      at = at.parentId === null ? undefined : this.#byId.get(at.parentId)
    )
      ids.push(at.id);
    return ids;
  }

  /** Terms in the list's order, each after its parent; `depth` counts from 0. */
  inOrder(): { readonly term: Term; readonly depth: number }[] {
    const below = new Map<string | null, Term[]>();
    for (const term of this.terms) {
      const under = term.parentId !== null && this.#byId.has(term.parentId) ? term.parentId : null;
      below.set(under, [...(below.get(under) ?? []), term]);
    }
    const ordered: { term: Term; depth: number }[] = [];
    const walk = (parentId: string | null, depth: number) => {
      for (const term of (below.get(parentId) ?? []).sort(
        (a, b) => a.position - b.position || (a.id < b.id ? -1 : 1),
      )) {
        ordered.push({ term, depth });
        walk(term.id, depth + 1);
      }
    };
    walk(null, 0);
    return ordered;
  }
}

const waySign = ' > ';

/** The key by which terms' names are compared: the search key, with a uniform level separator. */
export const termKey = (words: string): string =>
  words
    .split('>')
    .map((step) => searchKey(step))
    .join('>');
