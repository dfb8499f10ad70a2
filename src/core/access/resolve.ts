import { bitOf, closed, noCapabilities, setOf, type CapabilitySet } from './capability';

/** To whom a grant speaks. */
export type Subject =
  | { readonly kind: 'person'; readonly id: string }
  | { readonly kind: 'group'; readonly id: string }
  | { readonly kind: 'everyone' };

/** One line of an access sheet: what it gives to a subject there, and what it withholds. */
export interface Grant {
  readonly subject: Subject;
  readonly gives: CapabilitySet;
  readonly withholds: CapabilitySet;
}

/** What a place or a paper itself says of access. */
export interface Step {
  /** False: stands alone, starting from nothing. */
  readonly follows: boolean;
  readonly grants: readonly Grant[];
}

/** Who an actor is, for grants: themselves and all groups they belong to, also by way of other groups. */
export interface Standing {
  readonly personId: string;
  readonly groupIds: ReadonlySet<string>;
}

/** A subject as a key: no person and no group has the id `everyone`. */
export const subjectKey = (subject: Subject): string => (subject.kind === 'everyone' ? subject.kind : subject.id);

export function speaksTo(subject: Subject, actor: Standing): boolean {
  switch (subject.kind) {
    case 'person':
      return subject.id === actor.personId;
    case 'group':
      return actor.groupIds.has(subject.id);
    case 'everyone':
      return true;
  }
}

/** Whether a step leaves what comes from above as it is. */
export const addsNothing = (step: Step): boolean => step.follows && step.grants.length === 0;

/** A set after something was withheld: without `see` nothing is left. */
export function without(set: CapabilitySet, withheld: CapabilitySet): CapabilitySet {
  const left = set & ~withheld;
  return left & bitOf('see') ? left : noCapabilities;
}

/**
 * What an actor may do at one step, given what they may do above it:
 * (start ∪ all that is granted here to the actor or any of their groups) − all that is withheld here from
 * them. Withholding `see` withholds all; a set without `see` is empty. Keepers are not asked here: they manage all.
 */
export function resolveStep(above: CapabilitySet, step: Step, actor: Standing): CapabilitySet {
  return spoken(step.follows ? above : noCapabilities, step, actor);
}

/** What a step makes of what it starts from. */
function spoken(start: CapabilitySet, step: Step, actor: Standing): CapabilitySet {
  const mine = step.grants.filter((grant) => speaksTo(grant.subject, actor));
  const given = mine.reduce((set, grant) => set | closed(grant.gives), start);
  const withheld = mine.reduce((set, grant) => set | grant.withholds, noCapabilities);
  return without(given, withheld);
}

/** What a cross-filing can let in for at the most. */
export const openingLets: CapabilitySet = setOf(['see', 'take']);

/**
 * What an actor may do with a paper, given what they may do at its home and at the places that let their readers in.
 * Those bring `see` and `take` at the most, also where the paper stands alone: each was opened on purpose. What the
 * paper itself withholds holds against every way in.
 */
export function resolvePaper(
  home: CapabilitySet,
  openings: readonly CapabilitySet[],
  step: Step,
  actor: Standing,
): CapabilitySet {
  const start = openings.reduce((set, each) => set | (each & openingLets), step.follows ? home : noCapabilities);
  return spoken(start, step, actor);
}

/** What an actor may do at the end of a path, from the library down. */
export function resolve(path: readonly Step[], actor: Standing): CapabilitySet {
  return path.reduce((above, step) => resolveStep(above, step, actor), noCapabilities);
}
