import { bitOf, noCapabilities, type CapabilitySet } from './capability';
import type { AccessLibrary, AccessPaper, Resolved } from './library';
import { addsNothing } from './resolve';
import { readySetOf } from './words';

/** Someone whose access a matrix shows in a column of its own. */
export interface MatrixSubject {
  readonly id: string;
  readonly name: string;
  readonly kind: 'person' | 'group';
  readonly outside: boolean;
}

/** What is remarkable in what a place itself says. */
export const remarks = ['alone', 'withholds', 'everyone', 'outside', 'manager'] as const;
export type Remark = (typeof remarks)[number];

export const remarkWords: Record<Remark, string> = {
  alone: 'stands alone',
  withholds: 'withholds',
  everyone: 'open to everyone signed in',
  outside: 'open to someone outside',
  manager: 'names a manager',
};

/** A place in a matrix: what each subject may do in it, in the order of the subjects. */
export interface MatrixRow {
  readonly id: string;
  readonly depth: number;
  readonly sets: readonly CapabilitySet[];
  /** Whether it says anything itself, so that someone may have other access here than above. */
  readonly says: boolean;
  readonly remarks: readonly Remark[];
  /** Papers in it with sheets of their own, or that a cross-filing opens; of those that are listed. */
  readonly papersApart: number;
}

/** Who may do what in all places of a part of the library, top down; each place stands beneath the one it is in. */
export function matrixOf(
  library: AccessLibrary,
  resolved: Resolved,
  subjects: readonly MatrixSubject[],
  /** People who do not belong to the organisation, with a column or without. */
  outside: ReadonlySet<string>,
): MatrixRow[] {
  const depths = new Map<string, number>();
  const apart = new Map<string, number>();
  // Listed for another reason (a lock), a paper has no access of its own.
  for (const { homeId } of library.papers.filter(hasOwnSay)) apart.set(homeId, (apart.get(homeId) ?? 0) + 1);
  return library.places.map(({ id, parentId, step }) => {
    const depth = parentId === null ? 0 : (depths.get(parentId) ?? -1) + 1;
    depths.set(id, depth);
    const sight = resolved.places.get(id);
    const gives = step.grants.filter((grant) => grant.gives !== noCapabilities);
    const found: Record<Remark, boolean> = {
      alone: !step.follows,
      withholds: step.grants.some((grant) => grant.withholds !== noCapabilities),
      everyone: gives.some(({ subject }) => subject.kind === 'everyone'),
      outside: gives.some(({ subject }) => subject.kind === 'person' && outside.has(subject.id)),
      manager: gives.some((grant) => (grant.gives & bitOf('manage')) !== 0),
    };
    return {
      id,
      depth,
      sets: subjects.map((each) => sight?.get(each.id) ?? noCapabilities),
      says: !step.follows || step.grants.length > 0,
      remarks: remarks.filter((each) => found[each]),
      papersApart: apart.get(id) ?? 0,
    };
  });
}

const hasOwnSay = ({ step, openings }: AccessPaper): boolean => !addsNothing(step) || openings.length > 0;

export const matrixViews = ['differences', 'alone', 'unusual', 'all'] as const;
export type MatrixView = (typeof matrixViews)[number];

/** Which rows a view keeps, of those that `also` holds of; those on the way to them stay, so that it is plain where each stands. */
export function rowsFor(
  rows: readonly MatrixRow[],
  view: MatrixView,
  also: (row: MatrixRow) => boolean = () => true,
): MatrixRow[] {
  const wanted = (row: MatrixRow): boolean => {
    switch (view) {
      case 'all':
        return true;
      case 'differences':
        return row.says || row.papersApart > 0;
      case 'alone':
        return row.remarks.includes('alone');
      case 'unusual':
        return row.remarks.length > 0;
    }
  };
  const kept = new Set<MatrixRow>();
  const way: MatrixRow[] = [];
  for (const row of rows) {
    while (way.length > 0 && (way.at(-1)?.depth ?? -1) >= row.depth) way.pop();
    way.push(row);
    if (wanted(row) && also(row)) for (const step of way) kept.add(step);
  }
  return [...kept];
}

/** A set in a cell: the ready set's word where it is one, else what it can do in short. */
export function setInShort(set: CapabilitySet): string {
  if (set === noCapabilities) return '';
  const ready = readySetOf(set);
  if (ready !== null) return ready;
  const also = (bit: CapabilitySet, word: string) => ((set & bit) === 0 ? [] : [word]);
  return [
    'sees',
    ...also(bitOf('take'), 'copies'),
    ...also(bitOf('add'), 'adds'),
    ...also(bitOf('amend'), 'amends'),
    ...also(bitOf('manage'), 'manages'),
  ].join(', ');
}
