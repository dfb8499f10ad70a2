import { bitOf, noCapabilities, type CapabilitySet } from '../access/capability';
import { nobody, type AccessLibrary, type Resolved, type Sight } from '../access/library';

/**
 * Locks and closing, which apply to everyone. A lock stops changes; a closed place stops adding and changes. Both apply
 * to everything below, even where access is not inherited, and giving access does not lift them.
 */
export interface Standstill {
  readonly locked: boolean;
  /** For places only. */
  readonly closed: boolean;
}

/** Neither locked nor closed. */
export const moving: Standstill = { locked: false, closed: false };

/** The capabilities that a lock or closing stops. Seeing, taking copies and managing remain; managing is needed to lift it. */
export function stoppedBy({ locked, closed }: Standstill): CapabilitySet {
  return (locked ? bitOf('amend') : noCapabilities) | (closed ? bitOf('add') | bitOf('amend') : noCapabilities);
}

/** Locks and closing by id of places and papers; those not listed have none. */
export type Standstills = ReadonlyMap<string, Standstill>;

/**
 * What everyone may do now: their access, less what is stopped there or above.
 *
 * @param own the locks and closing of the library's own places and papers
 * @param above what is stopped at the surrounding places, including everything above them
 */
export function atStandstill(
  { places, papers }: AccessLibrary,
  resolved: Resolved,
  own: Standstills,
  above: ReadonlyMap<string, CapabilitySet>,
): Resolved {
  const stopped = new Map<string, CapabilitySet>(above);
  const stops = (id: string, under: string | null): CapabilitySet => {
    const set = stoppedBy(own.get(id) ?? moving) | (under === null ? noCapabilities : (stopped.get(under) ?? 0));
    stopped.set(id, set);
    return set;
  };
  const less = lessener();
  return {
    places: new Map(
      places.map(({ id, parentId }) => [id, less(resolved.places.get(id) ?? nobody, stops(id, parentId))]),
    ),
    papers: new Map(papers.map(({ id, homeId }) => [id, less(resolved.papers.get(id) ?? nobody, stops(id, homeId))])),
  };
}

/** Removes stopped capabilities from access; places that share access share the result. */
function lessener(): (sight: Sight, stopped: CapabilitySet) => Sight {
  const made = new Map<Sight, Map<CapabilitySet, Sight>>();
  return (sight, stopped) => {
    if (stopped === noCapabilities) return sight;
    const known = made.get(sight) ?? new Map<CapabilitySet, Sight>();
    made.set(sight, known);
    const less = known.get(stopped) ?? new Map([...sight].map(([who, set]) => [who, set & ~stopped]));
    known.set(stopped, less);
    return less;
  };
}
