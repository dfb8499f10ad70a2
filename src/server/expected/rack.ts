import { inArray } from 'drizzle-orm';
import type { RackDossier } from '@/core/expected/contract';
import { isColleague, type DetailField, type Details } from '@/core/dossiers/details';
import { filingYearLabel } from '@/core/calendar/filingYear';
import { rackRow, type RackMatter } from '@/core/expected/rack';
import { refuse } from '@/core/errors/refusal';
import { filingYearOfDay } from '@/core/calendar/period';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { person } from '../db/schema';
import { knownPlace } from '../places/open';
import { expectingOf } from './expecting';

/** The rack of a series that the caller may know of. */
export const openRack = asks('rack.open', async (actor, { seriesId }) => {
  const series = await knownPlace(actor, seriesId);
  if (series.kind !== 'series') refuse('invalid', 'A rack is of a series.');
  const { expected, fields, dossiers, calendar, today, held } = await expectingOf(actor, seriesId, null);
  const { yearStartMonth } = calendar;
  const years = [...new Set(dossiers.flatMap((dossier) => dossier.years))].sort((a, b) => a - b);
  const matter: RackMatter = {
    ...(held?.facts ?? { expected: [], met: new Map(), waived: new Map(), today }),
    years,
    yearStartMonth,
    holding: (occasion) => held?.holdings.get(occasion),
  };
  const currentYear = filingYearOfDay(today, yearStartMonth);
  return {
    state: held === null ? 'counting' : 'counted',
    years: years.map((startYear) => ({
      startYear,
      label: filingYearLabel(startYear, calendar),
      current: startYear === currentYear,
    })),
    expected: expected.map(({ id, name, timing }) => ({ id, name, timing })),
    fields,
    rows: dossiers.map((dossier): RackDossier => ({
      ...rackRow(dossier, matter),
      name: dossier.name,
      reference: dossier.reference,
      closed: dossier.closed,
      bareStep: dossier.bareStep,
      details: dossier.details,
      places: years.map((startYear) => dossier.yearPlaces.get(startYear) ?? null),
    })),
    names: await colleagueNames(
      fields,
      dossiers.map((dossier) => dossier.details),
    ),
  };
});

/** Names of the people in some dossiers' details, by id. */
export async function colleagueNames(
  fields: readonly DetailField[],
  all: readonly Details[],
): Promise<Readonly<Record<string, string>>> {
  const ids = new Set(
    fields.filter((field) => isColleague(field.kind)).flatMap(({ id }) => all.flatMap((details) => details[id] ?? [])),
  );
  if (ids.size === 0) return {};
  const people = await db()
    .select({ id: person.id, name: person.name })
    .from(person)
    .where(inArray(person.id, [...ids]));
  return Object.fromEntries(people.map(({ id, name }) => [id, name]));
}
