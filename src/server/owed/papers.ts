import { eq, sql } from 'drizzle-orm';
import { dayAt, dayNumber, isoDay, type DayNumber } from '@/core/calendar/period';
import type { Values } from '@/core/columns/model';
import type { PaperOwed } from '@/core/documents/model';
import type { Owing } from '@/core/owed/owing';
import { keepingFor, type FoundKeeping } from '@/core/retention/keepingFor';
import { keepingCalendar, standingOf } from '@/core/retention/keeping';
import { cycleFor, type FoundCycle } from '@/core/reviews/cycleFor';
import { nextReview, type NextReview } from '@/core/reviews/cycle';
import { now } from '../base/clock';
import { libraryCalendar } from '../calendar/libraryCalendar';
import type { Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { document, person, place } from '../db/schema';
import { owingOf } from './read';

/** What one paper is owed, worked out. */
export interface Owes {
  readonly cycle: FoundCycle | null;
  /** Null where no review is to come. */
  readonly review: NextReview | null;
  readonly keeping: FoundKeeping | null;
}

/** What some papers are owed, by id, with today. Callers have passed the gate. Papers that owe nothing are missing. */
export async function owedOf(
  reader: Reader,
  ids: readonly string[],
): Promise<{ readonly today: DayNumber; readonly owes: ReadonlyMap<string, Owes> }> {
  // One after the other: within an act both run on one connection.
  const owing = await owingOf(reader, ids);
  const calendar = await libraryCalendar(reader);
  const today = dayAt(now().getTime(), calendar.timeZone);
  if (ids.length === 0 || isEmpty(owing)) return { today, owes: new Map() };
  const rows = await reader
    .select({
      id: document.id,
      lineage: place.lineage,
      values: document.shownValues,
      filedAt: document.filedAt,
      filingYear: place.filingYear,
      closedAt: sql<string | null>`(
        select case when dossier.closed then (select max(entry.at) from journal as entry
          where entry.act = 'place.closed' and entry.subjects @> array[dossier.id]) end
        from place as dossier where dossier.id = ${place.lineage}[3] and dossier.kind = 'dossier')`,
    })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(idIn(document.id, ids));
  const counted = keepingCalendar(calendar.yearStartMonth);
  const owes = new Map<string, Owes>();
  for (const row of rows) {
    const day = (at: Date | string) => dayAt(new Date(at).getTime(), calendar.timeZone);
    const filed = day(row.filedAt);
    const cycle = cycleFor(row, owing.cycles, owing.broader);
    const review = cycle === null ? null : nextReview(cycle.cycle, filed, owing.cycles.last.get(row.id) ?? null);
    const facts = {
      filed,
      filingYear: row.filingYear,
      closed: row.closedAt === null ? null : day(row.closedAt),
      dayIn: (columnId: string) => dayIn(row.values, columnId),
    };
    const keeping = keepingFor(row, facts, { ...owing, calendar: counted });
    if (cycle !== null || keeping !== null) owes.set(row.id, { cycle, review, keeping });
  }
  return { today, owes };
}

const isEmpty = ({ cycles, schedule }: Owing): boolean =>
  cycles.rules.size === 0 && cycles.own.size === 0 && schedule.size === 0;

function dayIn(values: Values, columnId: string): DayNumber | null {
  const value = values[columnId];
  return typeof value === 'string' ? dayNumber(value) : null;
}

/** Papers that owe nothing. */
export const owesNothing: PaperOwed = { review: null, keeping: null };

/** What some papers are owed as lists show it, by id. */
export async function owedForLists(reader: Reader, ids: readonly string[]): Promise<(id: string) => PaperOwed> {
  const { today, owes } = await owedOf(reader, ids);
  if (owes.size === 0) return () => owesNothing;
  const names = await namesOfReviewers(reader, [...owes.values()]);
  return (id) => {
    const found = owes.get(id);
    if (!found) return owesNothing;
    const { cycle, review, keeping } = found;
    return {
      review:
        cycle === null || review === null
          ? null
          : {
              due: isoDay(review.due),
              since: isoDay(review.since),
              warnDays: cycle.cycle.warnDays,
              responsible: names.get(cycle.cycle.responsibleId ?? '') ?? '',
            },
      keeping:
        keeping === null
          ? null
          : {
              className: keeping.kept.by.name,
              until: keeping.kept.until === null ? null : isoDay(keeping.kept.until),
              standing: standingOf(keeping.kept, today),
              end: keeping.end,
            },
    };
  };
}

async function namesOfReviewers(reader: Reader, owes: readonly Owes[]): Promise<ReadonlyMap<string, string>> {
  const ids = new Set(owes.flatMap(({ cycle }) => cycle?.cycle.responsibleId ?? []));
  if (ids.size === 0) return new Map();
  const rows = await reader.select({ id: person.id, name: person.name }).from(person).where(idIn(person.id, ids));
  return new Map(rows.map(({ id, name }) => [id, name]));
}
