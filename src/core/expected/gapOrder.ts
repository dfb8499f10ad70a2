import { naturalCompare } from '../text/natural';
import type { GapRow } from './contract';

/** Groupings of a list of missing papers. */
export const gapGroupings = ['dossier', 'due', 'officer'] as const;
export type GapGrouping = (typeof gapGroupings)[number];

/** Gaps under one heading. */
export interface GapGroup {
  readonly name: string;
  readonly gaps: readonly GapRow[];
}

/**
 * Groups missing papers: by dossier or responsible person in order of names, those without one last; or by the month they
 * were due, earliest first. Within a group the longest overdue come first.
 * @param monthName formats the month of an ISO 8601 day
 */
export function gatherGaps(
  gaps: readonly GapRow[],
  by: GapGrouping,
  monthName: (day: string) => string,
): readonly GapGroup[] {
  const nobody = 'Nobody is responsible';
  const keyOf: Record<GapGrouping, (gap: GapRow) => { readonly sorts: string; readonly name: string }> = {
    dossier: (gap) => ({ sorts: `${gap.series} ${gap.dossier}`, name: `${gap.series} / ${gap.dossier}` }),
    due: (gap) => ({ sorts: gap.due.slice(0, 7), name: `Due in ${monthName(gap.due)}` }),
    officer: (gap) => ({ sorts: gap.officer ?? '', name: gap.officer ?? nobody }),
  };
  const groups = new Map<string, { readonly sorts: string; readonly gaps: GapRow[] }>();
  for (const gap of [...gaps].sort((a, b) => (a.due < b.due ? -1 : Number(a.due > b.due)))) {
    const { sorts, name } = keyOf[by](gap);
    const group = groups.get(name) ?? { sorts, gaps: [] };
    group.gaps.push(gap);
    groups.set(name, group);
  }
  return [...groups]
    .sort(([nameA, a], [nameB, b]) =>
      by === 'officer' && (nameA === nobody) !== (nameB === nobody)
        ? Number(nameA === nobody) - Number(nameB === nobody)
        : naturalCompare(a.sorts, b.sorts),
    )
    .map(([name, { gaps: own }]) => ({ name, gaps: own }));
}
