import { eq, sql, type SQL } from 'drizzle-orm';
import { filingYearLabel } from '@/core/calendar/filingYear';
import { libraryCalendar } from '../calendar/libraryCalendar';
import type { Reader } from '../db/client';
import { filingPlan, filingYear, place } from '../db/schema';
import type { NewPlace } from '../tree/insert';

/** The places to make for some filing years, by first calendar year, of a dossier. */
export interface MissingYears {
  readonly dossierId: string;
  readonly startYears: readonly number[];
}

/** The filing years that are not closed, by first calendar year, in order. */
export async function openYears(reader: Reader): Promise<number[]> {
  const rows = await reader
    .select({ startYear: filingYear.startYear })
    .from(filingYear)
    .where(eq(filingYear.closed, false))
    .orderBy(filingYear.startYear);
  return rows.map((row) => row.startYear);
}

/** The dossiers, as a condition on `place`, whose series is filed by year. */
export const isFiledByYear: SQL = sql`not exists (
  select from ${filingPlan} where ${filingPlan.seriesId} = ${place.parentId} and not ${filingPlan.byYear})`;

/** Places of years, as they are to be made. */
export async function yearPlaces(reader: Reader, missing: readonly MissingYears[]): Promise<NewPlace[]> {
  if (missing.every((each) => each.startYears.length === 0)) return [];
  const calendar = await libraryCalendar(reader);
  return missing.flatMap(({ dossierId, startYears }) =>
    startYears.map((startYear) => ({
      id: crypto.randomUUID(),
      parentId: dossierId,
      kind: 'year' as const,
      name: filingYearLabel(startYear, calendar),
      filingYear: startYear,
      meetingDay: null,
      plannedKey: null,
    })),
  );
}
