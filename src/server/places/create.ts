import { eq } from 'drizzle-orm';
import { readDetails } from '@/core/filing/details';
import { nextReference, readPattern, readReference } from '@/core/filing/reference';
import { filingYearLabel, filingYearOf } from '@/core/filing/filingYear';
import type { ReadInputOf } from '@/core/contract';
import { orRefuse, refuse } from '@/core/errors/refusal';
import type { PlaceRow } from '@/core/places/model';
import { perform } from '../act';
import type { Actor } from '../access/actor';
import { placeFor } from '../access/held';
import type { Tx } from '../db/client';
import { snapshot } from '../db/transaction';
import { filingYear, place } from '../db/schema';
import { libraryCalendar } from '../library/calendar';
import { peopleFinder } from '../filing/peopleFinder';
import { keepToPlan } from '../filing/plans';
import { planOfSeries } from '../filing/read';
import { makePlace, makePlaces } from './make';
import { placeRow } from './rows';
import { now } from '../clock';

/** The pattern as it is kept, read once to be sure it is one; null stays null. */
export function checkedPattern(raw: string | null): string | null {
  const pattern = raw?.trim() ?? '';
  if (pattern === '') return null;
  orRefuse(readPattern(pattern, 2000));
  return pattern;
}

export async function createSeries(actor: Actor, input: ReadInputOf<'series.create'>): Promise<PlaceRow> {
  return perform(actor, ['tree'], async (tx) => {
    if (!actor.keeper) refuse('not-allowed', 'Only a keeper makes series.');
    const [root] = await tx.select().from(place).where(eq(place.kind, 'library'));
    if (!root) throw new Error('The library has not been founded');
    const referencePattern = checkedPattern(input.referencePattern);
    const id = await makePlace(tx, actor, { parentId: root.id, kind: 'series', name: input.name, referencePattern });
    return {
      entry: { act: 'series.created', subjects: [id], detail: { name: input.name } },
      result: await placeRow(tx, actor, id),
    };
  });
}

/** The references in use in a series, and the one its pattern gives next; null where it has no pattern. */
async function nextIn(tx: Tx, seriesId: string, pattern: string | null): Promise<string | null> {
  if (pattern === null) return null;
  const read = orRefuse(readPattern(pattern, filingYearOf(now(), await libraryCalendar(tx))));
  const taken = await tx.select({ reference: place.reference }).from(place).where(eq(place.parentId, seriesId));
  return nextReference(
    read,
    taken.flatMap((row) => row.reference ?? []),
  );
}

export async function proposeReference(actor: Actor, { seriesId }: { seriesId: string }) {
  return snapshot(async (tx) => {
    const series = await placeFor(tx, actor, seriesId, 'see');
    return { reference: await nextIn(tx, seriesId, series.referencePattern) };
  });
}

/** Makes a dossier, its reference the one typed or the next free, with a place for each filing year that is open. */
export async function createDossier(actor: Actor, input: ReadInputOf<'dossier.create'>): Promise<PlaceRow> {
  return perform(actor, ['tree', 'access', 'given'], async (tx) => {
    const series = await placeFor(tx, actor, input.seriesId, 'manage');
    const typed = input.reference?.trim() ?? '';
    const reference =
      typed === '' ? await nextIn(tx, series.id, series.referencePattern) : orRefuse(readReference(typed));
    const { fields } = await planOfSeries(tx, series.id);
    const details = orRefuse(readDetails(fields, input.details ?? {}, await peopleFinder(tx)));
    const id = await makePlace(tx, actor, {
      parentId: series.id,
      kind: 'dossier',
      name: input.name,
      reference,
      details,
    });
    await addYears(tx, actor, id);
    await keepToPlan(tx, actor, series.id, [id]);
    return {
      entry: { act: 'dossier.created', subjects: [id, series.id], detail: { name: input.name, reference } },
      result: await placeRow(tx, actor, id),
    };
  });
}

async function addYears(tx: Tx, actor: Actor, dossierId: string): Promise<void> {
  const years = await tx.select().from(filingYear).where(eq(filingYear.closed, false)).orderBy(filingYear.startYear);
  const calendar = await libraryCalendar(tx);
  await makePlaces(
    tx,
    actor,
    years.map(({ startYear }) => ({
      id: crypto.randomUUID(),
      parentId: dossierId,
      kind: 'year' as const,
      name: filingYearLabel(startYear, calendar),
      filingYear: startYear,
    })),
  );
}

/** Makes a folder in a place. */
export async function createFolder(actor: Actor, input: ReadInputOf<'folder.create'>): Promise<PlaceRow> {
  return perform(actor, async (tx) => {
    const parent = await placeFor(tx, actor, input.parentId, 'amend');
    const id = await makePlace(tx, actor, {
      parentId: parent.id,
      kind: 'folder',
      name: input.name,
      meetingDay: input.meetingDay ?? null,
    });
    return {
      entry: { act: 'folder.created', subjects: [id, parent.id], detail: { name: input.name } },
      result: await placeRow(tx, actor, id),
    };
  });
}
