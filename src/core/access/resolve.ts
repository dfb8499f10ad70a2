import { bitOf, closed, noCapabilities, setOf, type CapabilitySet } from './capability';

/** The subject of a grant. */
export type Subject =
  | { readonly kind: 'person'; readonly id: string }
  | { readonly kind: 'group'; readonly id: string }
  | { readonly kind: 'everyone' };

/** A line of an access sheet: what it gives to a subject, and what it withholds. */
export interface Grant {
  readonly subject: Subject;
  readonly gives: CapabilitySet;
  readonly withholds: CapabilitySet;
}

/** The access sheet of a place or paper. */
export interface Step {
  /** False: does not inherit; starts from nothing. */
  readonly follows: boolean;
  readonly grants: readonly Grant[];
}

/** A person with all groups they belong to, directly or through nested groups. */
export interface Grantee {
  readonly personId: string;
  readonly groupIds: ReadonlySet<string>;
}

/** A subject's key. No person or group has the id `everyone`. */
export const subjectKey = (subject: Subject): string => (subject.kind === 'everyone' ? subject.kind : subject.id);

/** Whether a line of a sheet applies to someone: by name, by one of their groups, or to everyone. */
export function speaksTo(subject: Subject, actor: Grantee): boolean {
  switch (subject.kind) {
    case 'person':
      return subject.id === actor.personId;
    case 'group':
      return actor.groupIds.has(subject.id);
    case 'everyone':
      return true;
  }
}

/** Whether a step changes nothing of what it inherits. */
export const addsNothing = (step: Step): boolean => step.follows && step.grants.length === 0;

/** A set less what is withheld; without `see` nothing is left. */
export function without(set: CapabilitySet, withheld: CapabilitySet): CapabilitySet {
  const left = set & ~withheld;
  return left & bitOf('see') ? left : noCapabilities;
}

/**
 * A person's access at one step, given their access above it:
 * (start ∪ all that is granted here to the actor or any of their groups) − all that is withheld here from
 * them. Withholding `see` withholds all; a set without `see` is empty. Does not apply to keepers, who may do everything.
 */
export function resolveStep(above: CapabilitySet, step: Step, actor: Grantee): CapabilitySet {
  return spoken(step.follows ? above : noCapabilities, step, actor);
}

/** The result of a step from its starting set. */
function spoken(start: CapabilitySet, step: Step, actor: Grantee): CapabilitySet {
  const mine = step.grants.filter((grant) => speaksTo(grant.subject, actor));
  const given = mine.reduce((set, grant) => set | closed(grant.gives), start);
  const withheld = mine.reduce((set, grant) => set | grant.withholds, noCapabilities);
  return without(given, withheld);
}

/** The most that an opening can give. */
export const openingLets: CapabilitySet = setOf(['see', 'take']);

/**
 * A person's access to a paper, given their access at its home and at the places of its openings. Openings give at most
 * `see` and `take`, even if the paper does not inherit, since each was made on purpose. What the paper's own sheet
 * withholds is withheld in every case.
 */
export function resolvePaper(
  home: CapabilitySet,
  openings: readonly CapabilitySet[],
  step: Step,
  actor: Grantee,
): CapabilitySet {
  const start = openings.reduce((set, each) => set | (each & openingLets), step.follows ? home : noCapabilities);
  return spoken(start, step, actor);
}

/** A person's access at the end of a path from the library down. */
export function resolve(path: readonly Step[], actor: Grantee): CapabilitySet {
  return path.reduce((above, step) => resolveStep(above, step, actor), noCapabilities);
}
