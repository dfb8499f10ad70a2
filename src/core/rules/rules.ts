import type { Value } from '../columns/model';

/** Papers of one type: those that have a term of a controlled list, or a narrower one, in a column. */
export interface OfType {
  readonly columnId: string;
  readonly termId: string;
}

/** What a place says of the papers in it and below it: of all of them, or of those of one type. */
export interface Rule<Says> {
  readonly id: string;
  readonly placeId: string;
  /** Null: of all papers. */
  readonly ofType: OfType | null;
  readonly says: Says;
}

/** The next broader term of each term that has one. */
export type Broader = ReadonlyMap<string, string>;

/** Whether a term is another, or a narrower one of it. */
export function isWithin(termId: string, of: string, broader: Broader): boolean {
  // Bounded by the number of terms, should a list ever be a ring.
  for (
    let [at, steps]: [string | undefined, number] = [termId, 0];
    at !== undefined;
    at = broader.get(at), steps += 1
  ) {
    if (at === of) return true;
    if (steps > broader.size) return false;
  }
  return false;
}

/** Whether a value is of a type. */
export const isOfType = (value: Value | undefined, { termId }: OfType, broader: Broader): boolean =>
  (Array.isArray(value) ? (value as readonly string[]) : [value]).some(
    (each) => typeof each === 'string' && isWithin(each, termId, broader),
  );

/**
 * The rules that may speak of papers in a place: those of the nearest place first, and of one place those of a type before
 * the one for all papers.
 * @param lineage from the library to the place itself
 */
export function rulesAt<R extends Rule<unknown>>(
  rules: ReadonlyMap<string, readonly R[]>,
  lineage: readonly string[],
): readonly R[] {
  return lineage
    .toReversed()
    .flatMap((id) => (rules.get(id) ?? []).toSorted((a, b) => Number(a.ofType === null) - Number(b.ofType === null)));
}
