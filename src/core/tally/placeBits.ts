import type { Matcher } from './matcher';
import type { Scan } from './scan';
import type { Tally } from './tally';

const known = new WeakMap<Tally, { readonly version: number; readonly codes: readonly (readonly number[])[] }>();

/** By code: the words of each place's name and reference. Another array once any place has changed. */
export function placeWords(tally: Tally): readonly (readonly number[])[] {
  const there = known.get(tally);
  if (there?.version === tally.placesVersion) return there.codes;
  // The library's own name is true of everything.
  const codes = tally.places.map(({ kind, name, reference }) =>
    kind === 'library' ? [] : tally.lexicon.codesInAll([name, reference ?? '']),
  );
  known.set(tally, { version: tally.placesVersion, codes });
  return codes;
}

/**
 * Reads the words of all places, so that the lexicon knows them, and returns what then writes, for each row, what of the
 * question stands in the names of the places in which the row lies first for the asker.
 */
export function placeBits(scan: Scan): (matcher: Matcher, into: Int32Array) => void {
  const { tally, rows } = scan;
  const words = placeWords(tally);
  return (matcher, into) => {
    const own = new Int32Array(words.length);
    let any = 0;
    for (let code = 0; code < own.length; code += 1) {
      own[code] = matcher.bitsIn(words[code] as readonly number[]);
      any |= own[code] as number;
    }
    if (any === 0) return;
    const below = Int32Array.from(tally.places, ({ lineage }) =>
      lineage.reduce((sum, id) => sum | (own[tally.placeCodes.get(id) ?? -1] ?? 0), 0),
    );
    const { homes, isApart } = tally;
    for (let at = 0; at < rows.length; at += 1) {
      const row = rows[at] as number;
      into[row] = below[isApart[row] === 1 ? scan.standsAt(row) : (homes[row] as number)] as number;
    }
  };
}
