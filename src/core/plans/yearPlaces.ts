import type { PlanDifference, RealFolder } from './planDifference';

/** The place of a filing year in a dossier. */
export interface RealYear {
  readonly id: string;
  readonly startYear: number;
  readonly name: string;
  /** Whether anything is said of it or filed in it directly; folders apart. */
  readonly holds: boolean;
  /** Whether it is closed, locked, or hidden from the caller, and so is left alone. */
  readonly still: boolean;
}

/** A filing year that is not closed. */
export interface OpenYear {
  readonly startYear: number;
  readonly label: string;
}

/** What makes the years of a dossier agree with whether its series is filed by year. */
export interface YearDifference {
  /** Filing years for which a place is lacking. */
  readonly add: readonly OpenYear[];
  readonly remove: readonly RealYear[];
  /** Years that would go, but hold something. */
  readonly leave: readonly RealYear[];
}

/**
 * The years that a dossier lacks, where its series is filed by year; else those it has and need not have. Nothing that holds
 * anything goes. `folders`: what the plan does to the folders in them.
 */
export function yearDifference(
  byYear: boolean,
  open: readonly OpenYear[],
  years: readonly RealYear[],
  real: readonly RealFolder[],
  folders: Pick<PlanDifference, 'remove' | 'move'>,
): YearDifference {
  if (byYear) {
    const has = new Set(years.map((year) => year.startYear));
    return { add: open.filter(({ startYear }) => !has.has(startYear)), remove: [], leave: [] };
  }
  const going = new Set([...folders.remove, ...folders.move].map((folder) => folder.id));
  const used = new Set(real.flatMap((folder) => (going.has(folder.id) ? [] : (folder.startYear ?? []))));
  const free = years.filter((year) => !year.still);
  const isUsed = (year: RealYear): boolean => year.holds || used.has(year.startYear);
  return { add: [], remove: free.filter((year) => !isUsed(year)), leave: free.filter(isUsed) };
}
