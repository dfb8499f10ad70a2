import { eq } from 'drizzle-orm';
import { filingYearOf } from '@/core/calendar/filingYear';
import { readDetails } from '@/core/dossiers/details';
import { nextReference, readPattern, readReference } from '@/core/dossiers/reference';
import { orRefuse } from '@/core/errors/refusal';
import { acts, asks } from '../acts/operation';
import { libraryCalendar } from '../calendar/libraryCalendar';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { place } from '../db/schema';
import { snapshot } from '../db/transaction';
import { placeFor } from '../gate/held';
import { placeRow } from '../known/places';
import { makePlace, makePlaces } from '../places/make';
import { keepToPlan } from '../plans/plans';
import { openYears, yearPlaces } from '../plans/yearPlaces';
import { planOfSeries } from '../plans/read';
import { peopleFinder } from './peopleFinder';

/** The next free reference by a series' pattern; null if it has no pattern. */
async function nextIn(tx: Tx, seriesId: string, pattern: string | null): Promise<string | null> {
  if (pattern === null) return null;
  const read = orRefuse(readPattern(pattern, filingYearOf(now(), await libraryCalendar(tx))));
  const taken = await tx.select({ reference: place.reference }).from(place).where(eq(place.parentId, seriesId));
  return nextReference(
    read,
    taken.flatMap((row) => row.reference ?? []),
  );
}

/** The next free reference of a series. */
export const proposeReference = asks('place.nextReference', async (actor, { seriesId }) => {
  return snapshot(async (tx) => {
    const series = await placeFor(tx, actor, seriesId, 'see');
    return { reference: await nextIn(tx, seriesId, series.referencePattern) };
  });
});

/** Makes a dossier with the typed or the next free reference, its years where it is filed by year, and its planned folders. */
export const createDossier = acts('dossier.create', ['tree', 'access', 'given'], async (tx, actor, input) => {
  const series = await placeFor(tx, actor, input.seriesId, 'manage');
  const typed = input.reference?.trim() ?? '';
  const reference =
    typed === '' ? await nextIn(tx, series.id, series.referencePattern) : orRefuse(readReference(typed));
  const { fields, byYear } = await planOfSeries(tx, series.id);
  const details = orRefuse(readDetails(fields, input.details ?? {}, await peopleFinder(tx)));
  const id = await makePlace(tx, actor, {
    parentId: series.id,
    kind: 'dossier',
    name: input.name,
    reference,
    details,
  });
  if (byYear) await makePlaces(tx, actor, await yearPlaces(tx, [{ dossierId: id, startYears: await openYears(tx) }]));
  await keepToPlan(tx, actor, series.id, [id]);
  return {
    entry: { act: 'dossier.created', subjects: [id, series.id], detail: { name: input.name, reference } },
    result: await placeRow(tx, actor, id),
  };
});
