import type { ViewPlace } from '../views/question';

/** 1 for each place that satisfies a predicate, else 0. A plain loop: `Uint8Array.from` is several times slower. */
export function marked(places: readonly ViewPlace[], isSo: (place: ViewPlace) => boolean): Uint8Array {
  const marks = new Uint8Array(places.length);
  for (let code = 0; code < places.length; code += 1) if (isSo(places[code] as ViewPlace)) marks[code] = 1;
  return marks;
}
