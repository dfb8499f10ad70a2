import { bitOf, noCapabilities, type CapabilitySet } from '../access/capability';
import { nobody, type AccessLibrary, type Resolved, type Sight } from '../access/library';

/**
 * What holds a place or a paper still, whoever asks. A lock stops amending it; a closed place stops adding and amending.
 * Both reach all below, also what stands alone: they are no matter of who, and giving access does not undo them.
 */
export interface Standstill {
  readonly locked: boolean;
  /** Of places alone. */
  readonly closed: boolean;
}

export const moving: Standstill = { locked: false, closed: false };

/** What a standstill stops. Seeing, taking copies and managing go on: managing is how it ends. */
export function stoppedBy({ locked, closed }: Standstill): CapabilitySet {
  return (locked ? bitOf('amend') : noCapabilities) | (closed ? bitOf('add') | bitOf('amend') : noCapabilities);
}

/** Standstills by the ids of places and papers; those that are not listed are moving. */
export type Standstills = ReadonlyMap<string, Standstill>;

/**
 * What everyone may do at this moment: what they have, less what is held still there or above.
 *
 * @param own of the places and papers of the library, each its own.
 * @param above what is stopped at the places around, that the library's own stand in, all above them included.
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

/** Takes what is stopped out of a sight; places that shared one share the outcome. */
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
