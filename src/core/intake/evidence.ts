import type { Candidate, Evidence } from './model';

/** How much each kind of evidence says. A sender counts more the more often it was so, up to twice as much. */
const weights: Readonly<Record<Evidence['kind'], number>> = {
  address: 8,
  detail: 6,
  reference: 5,
  sender: 4,
  name: 3,
};
const often = 8;

const weightOf = (evidence: Evidence): number =>
  evidence.kind === 'sender' ? weights.sender * (1 + Math.min(evidence.times, often) / often) : weights[evidence.kind];

/** How much all that speaks for a dossier says. */
export const saying = ({ evidence }: Candidate): number => evidence.reduce((sum, each) => sum + weightOf(each), 0);

/** So many dossiers are offered at most. */
const mostOffered = 3;

/** Dossiers by what speaks for them, the likeliest first; those of which as much speaks in the order of their ids. */
export const ranked = (candidates: readonly Candidate[]): Candidate[] =>
  candidates
    .filter(({ evidence }) => evidence.length > 0)
    .toSorted((one, other) => saying(other) - saying(one) || (one.dossierId < other.dossierId ? -1 : 1))
    .slice(0, mostOffered);

/** Whether nothing else comes near the first. */
export function standsOut(candidates: readonly Candidate[]): boolean {
  const [first, second] = candidates;
  return first !== undefined && (second === undefined || saying(first) >= 1.5 * saying(second));
}

/** "It was sent to s-017, the address of this dossier." */
export function evidenceInWords(evidence: Evidence): string {
  switch (evidence.kind) {
    case 'address':
      return `It was sent to “${evidence.about}”, the address of this dossier.`;
    case 'detail':
      return `${evidence.about} stands in the details of this dossier.`;
    case 'sender':
      return evidence.times === 1
        ? `One arrival from ${evidence.about} was filed here.`
        : `${evidence.times} arrivals from ${evidence.about} were filed here.`;
    case 'reference':
      return `It names the reference ${evidence.about}.`;
    case 'name':
      return `It names “${evidence.about}”.`;
  }
}
