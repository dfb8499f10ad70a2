import { sql, type SQL } from 'drizzle-orm';
import { filingYearOfDay, type DayNumber } from '@/core/calendar/period';
import type { Reader } from '../db/client';
import { meeting, place } from '../db/schema';
import type { Calendar } from '../calendar/libraryCalendar';

/** A meeting as plans and expected papers use it. */
export interface MeetingDay {
  readonly id: string;
  readonly day: DayNumber;
  readonly title: string;
  /** The filing year of its day. The day is a calendar date, independent of time zones. */
  readonly startYear: number;
}

/**
 * The meetings of some dossiers, in order, by dossier. `which` is a condition on `place`. Read as one text per dossier,
 * because many thousand rows are slow; titles contain no line breaks.
 */
export async function meetingDays(reader: Reader, which: SQL, calendar: Calendar): Promise<Map<string, MeetingDay[]>> {
  const inOrder = sql`(select string_agg(${meeting.id}::text || (${meeting.day} - date '1970-01-01')::text || ' ' || ${meeting.title},
    E'\\n' order by ${meeting.day}, ${meeting.id}) from ${meeting} where ${meeting.dossierId} = ${place.id})`;
  const rows = await reader
    .select({
      dossierId: place.id,
      // Wrapped in a select, because drizzle drops table names in the fields of a one-table select.
      all: sql<string | null>`(select ${inOrder})`,
    })
    .from(place)
    .where(which);
  return new Map(
    rows.flatMap(({ dossierId, all }) =>
      all === null ? [] : [[dossierId, all.split('\n').map((line) => read(line, calendar.yearStartMonth))]],
    ),
  );
}

const uuidLength = 36;
function read(line: string, yearStartMonth: number): MeetingDay {
  const at = line.indexOf(' ', uuidLength);
  const day = Number(line.slice(uuidLength, at));
  return {
    id: line.slice(0, uuidLength),
    day,
    title: line.slice(at + 1),
    startYear: filingYearOfDay(day, yearStartMonth),
  };
}
