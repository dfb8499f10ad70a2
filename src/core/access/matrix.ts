import { bitOf, noCapabilities, type CapabilitySet } from './capability';
import type { AccessLibrary, AccessPaper, Resolved } from './library';
import { addsNothing } from './resolve';
import { readySetOf } from './words';

/** A person or group with a column in the matrix. */
export interface MatrixSubject {
  readonly id: string;
  readonly name: string;
  readonly kind: 'person' | 'group';
  readonly outside: boolean;
}

/** Remarkable features of a place's own sheet. */
export const remarks = ['alone', 'withholds', 'everyone', 'outside', 'manager'] as const;
export type Remark = (typeof remarks)[number];

/** Each remark in words. */
export const remarkWords: Record<Remark, string> = {
  alone: 'stands alone',
  withholds: 'withholds',
  everyone: 'open to everyone signed in',
  outside: 'open to someone outside',
  manager: 'names a manager',
};

/** A row of the matrix: what each subject may do in a place, in the order of the subjects. */
export interface MatrixRow {
  readonly id: string;
  readonly depth: number;
  readonly sets: readonly CapabilitySet[];
  /** Whether it has a sheet of its own, so that access may differ from the place above. */
  readonly says: boolean;
  readonly remarks: readonly Remark[];
  /** Listed papers in it with sheets or openings of their own. */
  readonly papersApart: number;
}

/** Access in all places of a part of the library, in depth-first order. */
export function matrixOf(
  library: AccessLibrary,
  resolved: Resolved,
  subjects: readonly MatrixSubject[],
  /** People outside the organisation, whether or not they have a column. */
  outside: ReadonlySet<string>,
): MatrixRow[] {
  const depths = new Map<string, number>();
  const apart = new Map<string, number>();
  // Papers can also be listed because of a lock; those have no access of their own.
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

/** Which rows the table of access shows. */
export const matrixViews = ['differences', 'alone', 'unusual', 'all'] as const;
export type MatrixView = (typeof matrixViews)[number];

/** The rows a view keeps, among those that satisfy `also`, and the rows above them, which show where each one is. */
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

/** A set in a cell: the name of a predefined set, or else abbreviations. */
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
