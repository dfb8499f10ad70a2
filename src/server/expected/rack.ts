import type { RackDossier } from '@/core/expected/contract';
import { isColleague, type DetailField, type Details } from '@/core/dossiers/details';
import { filingYearLabel } from '@/core/calendar/filingYear';
import { rackRow, type RackMatter } from '@/core/expected/rack';
import { refuse } from '@/core/errors/refusal';
import { columnOf, columnsOfPlan, type RackColumn } from '@/core/expected/rackColumns';
import { filingYearOfDay, type DayNumber } from '@/core/calendar/period';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { person } from '../db/schema';
import { knownPlace } from '../places/open';
import type { Calendar } from '../calendar/libraryCalendar';
import { expectingOf, type KnownDossier } from './expecting';

/** The rack of a series that the caller may know of. */
export const openRack = asks('rack.open', async (actor, { seriesId }) => {
  const series = await knownPlace(actor, seriesId);
  if (series.kind !== 'series') refuse('invalid', 'A rack is of a series.');
  const { byYear, folders, expected, fields, dossiers, calendar, today, held } = await expectingOf(
    actor,
    seriesId,
    null,
  );
  const columns = byYear ? yearColumns(dossiers, today, calendar) : columnsOfPlan({ folders, expected });
  const stands = new Map(expected.map((each) => [each.id, byYear ? null : columnOf(each, columns, folders)]));
  const matter: RackMatter = {
    ...(held?.facts ?? { expected: [], met: new Map(), waived: new Map(), today }),
    columns,
    columnOf: ({ id }) => stands.get(id) ?? null,
    yearStartMonth: calendar.yearStartMonth,
    holding: (cell) => held?.holdings.get(cell),
  };
  return {
    state: held === null ? 'counting' : 'counted',
    byYear,
    columns,
    expected: expected.map(({ id, name, timing }) => ({ id, name, timing, column: stands.get(id) ?? null })),
    fields,
    rows: dossiers.map((dossier): RackDossier => ({
      ...rackRow(dossier, matter),
      name: dossier.name,
      reference: dossier.reference,
      closed: dossier.closed,
      bareStep: dossier.bareStep,
      details: dossier.details,
      places: columns.map(({ kind, key }) =>
        kind === 'paper' || kind === 'whole'
          ? { id: dossier.id, closed: dossier.closed }
          : (dossier.parts.get(key) ?? null),
      ),
    })),
    names: await colleagueNames(
      fields,
      dossiers.map((dossier) => dossier.details),
    ),
  };
});

/** The filing years of some dossiers as columns. */
function yearColumns(dossiers: readonly KnownDossier[], today: DayNumber, calendar: Calendar): RackColumn[] {
  const years = [...new Set(dossiers.flatMap((dossier) => dossier.years))].sort((a, b) => a - b);
  const currentYear = filingYearOfDay(today, calendar.yearStartMonth);
  return years.map((startYear) => ({
    kind: 'year',
    key: String(startYear),
    label: filingYearLabel(startYear, calendar),
    current: startYear === currentYear,
  }));
}

/** Names of the people in some dossiers' details, by id. */
export async function colleagueNames(
  fields: readonly DetailField[],
  all: readonly Details[],
): Promise<Readonly<Record<string, string>>> {
  const ids = new Set(
    fields.filter((field) => isColleague(field.kind)).flatMap(({ id }) => all.flatMap((details) => details[id] ?? [])),
  );
  if (ids.size === 0) return {};
  const people = await db().select({ id: person.id, name: person.name }).from(person).where(idIn(person.id, ids));
  return Object.fromEntries(people.map(({ id, name }) => [id, name]));
}
