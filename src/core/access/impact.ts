import { noCapabilities, type CapabilitySet } from './capability';
import { nobody, type Resolved, type Sight } from './library';

/** What a change does to one person: where each of the two sets is not the same. */
export interface Shift {
  readonly before: CapabilitySet;
  readonly after: CapabilitySet;
}

/** For one person, all places and listed papers at which a change makes a difference to them. */
export interface PersonImpact {
  readonly personId: string;
  readonly places: ReadonlyMap<string, Shift>;
  readonly papers: ReadonlyMap<string, Shift>;
}

/**
 * What a change does, as the difference of before and after: everyone to whom it makes a difference, and where. A place
 * speaks for the papers in it that are not listed. What is only on one side starts from, or ends in, nothing.
 */
export function difference(before: Resolved, after: Resolved): PersonImpact[] {
  const places = shifts(before.places, after.places);
  const papers = shifts(before.papers, after.papers);
  return [...new Set([...places.keys(), ...papers.keys()])].map((personId) => ({
    personId,
    places: places.get(personId) ?? new Map<string, Shift>(),
    papers: papers.get(personId) ?? new Map<string, Shift>(),
  }));
}

function shifts(
  before: ReadonlyMap<string, Sight>,
  after: ReadonlyMap<string, Sight>,
): Map<string, Map<string, Shift>> {
  const found = new Map<string, Map<string, Shift>>();
  // Places that share a sight before and after need to be compared once.
  const compared = new Map<Sight, Map<Sight, readonly (readonly [string, Shift])[]>>();
  for (const id of new Set([...before.keys(), ...after.keys()])) {
    const from = before.get(id) ?? nobody;
    const to = after.get(id) ?? nobody;
    const known = compared.get(from) ?? new Map<Sight, readonly (readonly [string, Shift])[]>();
    compared.set(from, known);
    const differing = known.get(to) ?? differingIn(from, to);
    known.set(to, differing);
    for (const [personId, shift] of differing) {
      const mine = found.get(personId) ?? new Map<string, Shift>();
      found.set(personId, mine.set(id, shift));
    }
  }
  return found;
}

function differingIn(from: Sight, to: Sight): readonly (readonly [string, Shift])[] {
  if (from === to) return [];
  return [...new Set([...from.keys(), ...to.keys()])].flatMap((personId) => {
    const shift = { before: from.get(personId) ?? noCapabilities, after: to.get(personId) ?? noCapabilities };
    return shift.before === shift.after ? [] : [[personId, shift] as const];
  });
}
