import { eq, inArray, max } from 'drizzle-orm';
import { readDetails, type Details } from '@/core/filing/details';
import { nextReference, readPattern, readReference } from '@/core/filing/reference';
import { filingYearLabel, filingYearOf } from '@/core/filing/filingYear';
import type { ReadInputOf } from '@/core/contract';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { maxDepth, mayHold, type PlaceKind, type PlaceRow } from '@/core/places/model';
import { nameKey, searchKey } from '@/core/text/fold';
import { perform } from '../act';
import type { Actor } from '../access/actor';
import { placeFor } from '../access/held';
import { db, type Tx } from '../db/client';
import { filingYear, place } from '../db/schema';
import { libraryCalendar } from '../library/calendar';
import { peopleFinder } from '../filing/peopleFinder';
import { keepToPlan } from '../filing/plans';
import { planOfSeries } from '../filing/read';
import { recomputeGiven } from '../columns/given';
import { placeRow } from './rows';
import { now } from '../clock';

interface NewPlace {
  readonly kind: PlaceKind;
  readonly name: string;
  readonly reference?: string | null;
  readonly referencePattern?: string | null;
  readonly filingYear?: number | null;
  readonly meetingDay?: string | null;
  readonly details?: Details;
}

type Parent = Pick<typeof place.$inferSelect, 'id' | 'kind' | 'lineage' | 'filingYear' | 'scopeId'>;

/** Puts a new place last in another. It starts with its parent's scope. */
export async function insertPlace(tx: Tx, actor: Actor, parent: Parent, made: NewPlace): Promise<string> {
  if (!mayHold(parent.kind, made.kind)) refuse('invalid', `A ${made.kind} cannot stand in a ${parent.kind}.`);
  if (parent.lineage.length > maxDepth) {
    refuse('invalid', `Folders go ${maxDepth} steps deep at most. Nothing was made.`);
  }
  const [last] = await tx
    .select({ position: max(place.position) })
    .from(place)
    .where(eq(place.parentId, parent.id));
  const id = crypto.randomUUID();
  await tx.insert(place).values({
    id,
    parentId: parent.id,
    kind: made.kind,
    name: made.name,
    nameKey: nameKey(made.name),
    searchKey: searchKey(`${made.reference ?? ''} ${made.name}`),
    reference: made.reference ?? null,
    referencePattern: made.referencePattern ?? null,
    filingYear: made.filingYear ?? parent.filingYear,
    position: (last?.position ?? 0) + 1,
    lineage: [...parent.lineage, id],
    scopeId: parent.scopeId,
    meetingDay: made.meetingDay ?? null,
    details: made.details ?? {},
    createdAt: now(),
    createdBy: actor.personId,
  });
  await recomputeGiven(tx, id);
  return id;
}

/** The pattern as it is kept, read once to be sure it is one; null stays null. */
export function checkedPattern(raw: string | null): string | null {
  const pattern = raw?.trim() ?? '';
  if (pattern === '') return null;
  orRefuse(readPattern(pattern, 2000));
  return pattern;
}

export async function createSeries(actor: Actor, input: ReadInputOf<'series.create'>): Promise<PlaceRow> {
  return perform(actor, async (tx) => {
    if (!actor.keeper) refuse('not-allowed', 'Only a keeper makes series.');
    const [root] = await tx.select().from(place).where(eq(place.kind, 'library'));
    if (!root) throw new Error('The library has not been founded');
    const referencePattern = checkedPattern(input.referencePattern);
    const id = await insertPlace(tx, actor, root, { kind: 'series', name: input.name, referencePattern });
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
  return db().transaction(async (tx) => {
    const series = await placeFor(tx, actor, seriesId, 'see');
    return { reference: await nextIn(tx, seriesId, series.referencePattern) };
  });
}

/** Makes a dossier, its reference the one typed or the next free, with a place for each filing year that is open. */
export async function createDossier(actor: Actor, input: ReadInputOf<'dossier.create'>): Promise<PlaceRow> {
  return perform(actor, async (tx) => {
    const series = await placeFor(tx, actor, input.seriesId, 'manage');
    // Held until the end, so that two people at once get two numbers.
    await tx.select({ id: place.id }).from(place).where(eq(place.id, series.id)).for('update');
    const typed = input.reference?.trim() ?? '';
    const reference =
      typed === '' ? await nextIn(tx, series.id, series.referencePattern) : orRefuse(readReference(typed));
    const { fields } = await planOfSeries(tx, series.id);
    const details = orRefuse(readDetails(fields, input.details ?? {}, await peopleFinder(tx)));
    const id = await insertPlace(tx, actor, series, { kind: 'dossier', name: input.name, reference, details });
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
  const [dossier] = await tx
    .select()
    .from(place)
    .where(inArray(place.id, [dossierId]));
  if (!dossier) throw new Error('The dossier is not there');
  for (const { startYear } of years) {
    const name = filingYearLabel(startYear, calendar);
    await insertPlace(tx, actor, dossier, { kind: 'year', name, filingYear: startYear });
  }
}

/** Makes a folder in a place. */
export async function createFolder(actor: Actor, input: ReadInputOf<'folder.create'>): Promise<PlaceRow> {
  return perform(actor, async (tx) => {
    const parent = await placeFor(tx, actor, input.parentId, 'amend');
    const id = await insertPlace(tx, actor, parent, {
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
