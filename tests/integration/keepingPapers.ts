/** A library with two keepers, papers of types, and a place for certificates: for tests of how long papers are kept. */
import { eq } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import type { ClassFields } from '@/core/retention/contract';
import { fileBuffer } from '@/demo/file';
import { atMoment } from '@/server/base/clock';
import { defineColumn } from '@/server/columns/define';
import { createList, listOf } from '@/server/columns/lists';
import { setValues } from '@/server/columns/setValues';
import { db, writableDb } from '@/server/db/client';
import { document, library, person } from '@/server/db/schema';
import type { Actor } from '@/server/gate/actor';
import { createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { giveClass, putClass } from '@/server/retention/classes';
import { type furnished, newcomer, sharedLibrary } from '../library';

export let keeper: Actor;
export let other: Actor;
export let reader: Actor;
export let home: Awaited<ReturnType<typeof furnished>>;
export let office: string;
export let column: string;
export let ends: string;
export let terms: { invoice: string; lease: string };

/** Founds the library of a test file. */
export async function beginKeeping(): Promise<void> {
  ({ keeper, reader, home } = await sharedLibrary());
  const second = await newcomer(keeper, 'Kit Second');
  await writableDb().update(person).set({ keeper: true }).where(eq(person.id, second.personId));
  other = { ...second, keeper: true };
  const { id: listId } = await createList(keeper, { name: 'Types', terms: ['Invoice', 'Lease'] });
  const [invoice = '', lease = ''] = (await listOf(keeper, listId)).terms.map(({ id }) => id);
  terms = { invoice, lease };
  const define = (name: string, type: 'choice' | 'date') =>
    defineColumn(keeper, {
      ...plainFields,
      placeId: home.series.id,
      name,
      type,
      listId: type === 'choice' ? listId : null,
    });
  column = (await define('Type', 'choice')).id;
  ends = (await define('Lease ends', 'date')).id;
  const records = await createSeries(keeper, { name: 'Records', referencePattern: null });
  office = (await createDossier(keeper, { seriesId: records.id, name: 'Certificates', reference: null })).id;
  await writableDb()
    .update(library)
    .set({ trayDays: 30, trayDaysSince: new Date(0) });
}

let counter = 0;
export const paperOn = (day: string, type: string | null = null, placeId = home.year.id): Promise<string> =>
  atMoment(new Date(`${day}T10:00:00Z`), async () => {
    const id = await fileBuffer(keeper, placeId, `paper ${(counter += 1)}.txt`, Buffer.from(`words of ${counter}`));
    if (type !== null) await setValues(keeper, { documentIds: [id], values: { [column]: type } });
    return id;
  });
export const at = <T>(day: string, work: () => Promise<T>): Promise<T> => atMoment(new Date(`${day}T10:00:00Z`), work);
export const plain: ClassFields = {
  name: 'Invoices',
  authority: 'Tax law',
  start: 'filed',
  columnId: null,
  months: 72,
  end: 'destroy',
};
export const made = async (fields: Partial<ClassFields>): Promise<string> =>
  (await putClass(keeper, { classId: null, fields: { ...plain, ...fields }, revision: 0 })).id;
export const give = (classId: string, placeId: string, termId: string | null = null) =>
  giveClass(keeper, { classId, placeId, ofType: termId === null ? null : { columnId: column, termId } });
export const isThere = async (id: string): Promise<boolean> =>
  (await db().select({ id: document.id }).from(document).where(eq(document.id, id))).length === 1;
export const plainOn = { placeIds: [], documentIds: [], views: [] };
