import { eq } from 'drizzle-orm';
import { filingYearOf } from '@/core/calendar/filingYear';
import { planDossiers } from '@/core/dossiers/dossierRows';
import { readPattern } from '@/core/dossiers/reference';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { acts, asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { now } from '../base/clock';
import { db, type Reader } from '../db/client';
import { place } from '../db/schema';
import { libraryCalendar } from '../calendar/libraryCalendar';
import { makePlaces } from '../places/make';
import type { NewPlace } from '../tree/insert';
import { peopleFinder } from './peopleFinder';
import { keepToPlan } from '../plans/plans';
import { planOfSeries } from '../plans/read';
import { openYears, yearPlaces } from '../plans/yearPlaces';

async function linesFor(reader: Reader, actor: Actor, { seriesId, text }: { seriesId: string; text: string }) {
  const series = await placeFor(reader, actor, seriesId, 'manage');
  if (series.kind !== 'series') refuse('invalid', 'Dossiers stand in a series.');
  const rule = await libraryCalendar(reader);
  const there = await reader
    .select({ nameKey: place.nameKey, reference: place.reference })
    .from(place)
    .where(eq(place.parentId, series.id));
  const pattern =
    series.referencePattern === null ? null : orRefuse(readPattern(series.referencePattern, filingYearOf(now(), rule)));
  const lines = planDossiers(text, {
    nameKeys: new Set(there.map((row) => row.nameKey)),
    references: there.flatMap((row) => row.reference ?? []),
    pattern,
    fields: (await planOfSeries(reader, series.id)).fields,
    findPerson: await peopleFinder(reader),
  });
  return { series, rule, lines };
}

/** What a pasted list of dossiers would create, line by line. */
export const checkDossiers = asks('dossiers.check', async (actor, input) => {
  return (await linesFor(db(), actor, input)).lines;
});

/** Makes the dossiers of a pasted list, with years and planned folders, in one act: all of them, or only the valid lines. */
export const makeDossiers = acts('dossiers.make', ['tree', 'access', 'given'], async (tx, actor, input) => {
  const { series, lines } = await linesFor(tx, actor, input);
  const good = lines.filter((line) => line.wrong === null);
  if (!input.onlyGood && good.length < lines.length)
    refuse('invalid', `${counted(lines.length - good.length, 'line')} cannot be made as they stand. Nothing was made.`);
  if (good.length === 0) refuse('invalid', 'No line makes a dossier. Nothing was made.');
  const made = good.map((line) => ({ ...line, id: crypto.randomUUID() }));
  const dossiers = made.map(({ id, name, reference, details }): NewPlace => ({
    id,
    parentId: series.id,
    kind: 'dossier',
    name,
    reference,
    details,
    meetingDay: null,
    plannedKey: null,
  }));
  const ids = made.map((each) => each.id);
  const { byYear } = await planOfSeries(tx, series.id);
  const startYears = byYear ? await openYears(tx) : [];
  const years = await yearPlaces(
    tx,
    ids.map((dossierId) => ({ dossierId, startYears })),
  );
  await makePlaces(tx, actor, [...dossiers, ...years]);
  const folders = await keepToPlan(tx, actor, series.id, ids);
  const detail = { name: series.name, count: counted(made.length, 'dossier'), folders };
  return {
    entry: { act: 'dossiers.created', subjects: [series.id], detail },
    result: { made: made.length, folders },
  };
});
