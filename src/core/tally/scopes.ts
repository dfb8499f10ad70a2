import { type Asker } from '../views/question';
import { type Tally } from './tally';

/** The scopes that give access to a paper; empty for one in a place without a scope. */
export function scopesInto(tally: Tally, row: number): string[] {
  const home = tally.places[tally.homes[row] ?? -1]?.scopeId ?? null;
  const apart = tally.apart.get(row);
  if (apart?.scopeId) return [apart.scopeId];
  const opened = (apart?.filings ?? []).flatMap(({ placeId, opening }) =>
    opening ? (tally.places[tally.placeCodes.get(placeId) ?? -1]?.scopeId ?? []) : [],
  );
  return home === null ? opened : [home, ...opened];
}

/** The scope that decides who manages a paper: its own or its home's. */
export const scopeOver = (tally: Tally, row: number): string | null =>
  tally.apart.get(row)?.scopeId ?? tally.places[tally.homes[row] ?? -1]?.scopeId ?? null;

/** Whether the caller is told who else may see the papers of a scope. */
export const tellsReaders = ({ keeper, managed }: Asker, over: string | null): boolean =>
  keeper || (over !== null && managed.has(over));

/** 1 for each place that the caller may see, by place code. */
export function seenBy(
  { keeper, scopes }: Asker,
  { places, placeScopes: { codes, dictionary }, isThere }: Tally,
): Uint8Array {
  const opens = Uint8Array.from(dictionary.values, (id) => Number(keeper || (id !== null && scopes.has(String(id)))));
  const seen = new Uint8Array(places.length);
  for (let code = 0; code < seen.length; code += 1)
    seen[code] = (isThere[code] as number) & (opens[codes[code] as number] as number);
  return seen;
}

/** What a function makes, made when it is first asked for. */
export function lazily<T>(make: () => T): () => T {
  let made: { readonly it: T } | null = null;
  return () => (made ??= { it: make() }).it;
}
