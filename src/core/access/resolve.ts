import { closed, noCapabilities, bitOf, type CapabilitySet } from './capability';

/** To whom a grant speaks. */
export type Subject =
  | { readonly kind: 'person'; readonly id: string }
  | { readonly kind: 'group'; readonly id: string }
  | { readonly kind: 'everyone' };

/** One line of a place's sheet: what it gives to a subject there, and what it withholds. */
export interface Grant {
  readonly subject: Subject;
  readonly gives: CapabilitySet;
  readonly withholds: CapabilitySet;
}

/** One step on the way from the library down to a place. */
export interface Step {
  /** False: stands alone, starting from nothing. */
  readonly follows: boolean;
  readonly grants: readonly Grant[];
}

/** Who an actor is, for grants: themselves and the groups they belong to. */
export interface Standing {
  readonly personId: string;
  readonly groupIds: ReadonlySet<string>;
}

const speaksTo = (subject: Subject, actor: Standing): boolean => {
  switch (subject.kind) {
    case 'person':
      return subject.id === actor.personId;
    case 'group':
      return actor.groupIds.has(subject.id);
    case 'everyone':
      return true;
  }
};

/**
 * What an actor may do at one step, given what they may do above it:
 * (start ∪ all that is granted here to the actor or any of their groups) − all that is withheld here from
 * them. Withholding `see` withholds all; a set without `see` is empty. Keepers are not asked here: they manage all.
 */
export function resolveStep(above: CapabilitySet, step: Step, actor: Standing): CapabilitySet {
  const mine = step.grants.filter((grant) => speaksTo(grant.subject, actor));
  const given = mine.reduce((set, grant) => set | closed(grant.gives), step.follows ? above : noCapabilities);
  const withheld = mine.reduce((set, grant) => set | grant.withholds, noCapabilities);
  const left = given & ~withheld;
  return left & bitOf('see') ? left : noCapabilities;
}

/** What an actor may do at the end of a path, from the library down. */
export function resolve(path: readonly Step[], actor: Standing): CapabilitySet {
  return path.reduce((above, step) => resolveStep(above, step, actor), noCapabilities);
}
