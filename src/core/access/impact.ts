import { noCapabilities, type CapabilitySet } from './capability';
import { nobody, type Resolved, type Sight } from './library';

/** A person's access before and after a change. */
export interface Shift {
  readonly before: CapabilitySet;
  readonly after: CapabilitySet;
}

/** All places and listed papers at which a change affects one person. */
export interface PersonImpact {
  readonly personId: string;
  readonly places: ReadonlyMap<string, Shift>;
  readonly papers: ReadonlyMap<string, Shift>;
}

/**
 * The difference between before and after a change: everyone it affects, and where. A place stands for the papers in it
 * that are not listed. Something present on one side only has no access on the other.
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
  // Compares places that share their access objects only once.
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
