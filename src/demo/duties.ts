import { and, arrayContains, eq, isNull, max, sql } from 'drizzle-orm';
import type { ClassFields } from '@/core/retention/contract';
import type { Actor } from '@/server/gate/actor';
import { atMoment } from '@/server/base/clock';
import { db } from '@/server/db/client';
import { document, place, version } from '@/server/db/schema';
import { createDossier } from '@/server/dossiers/create';
import { placeHold } from '@/server/holds/holds';
import { endRuns } from '@/server/retention/certificate';
import { giveClass, putClass } from '@/server/retention/classes';
import { approveRun, destroyRun, prepareRun } from '@/server/retention/run';
import { openRun } from '@/server/retention/runs';
import { doReview } from '@/server/reviews/paper';
import { setReviewRule } from '@/server/reviews/rules';
import type { DemoColumns } from './describe';
import { keeper, secondKeeper } from './people';
import { someone, type People, type Places } from './named';

/** The retention classes of the demo, with where they count. */
export const demoClasses: readonly (Omit<ClassFields, 'columnId'> & {
  readonly given: readonly { readonly place: string; readonly type: string | null }[];
})[] = [
  {
    name: 'Minutes',
    authority: 'Harbour Revision Order, article 9: the record of the board’s decisions is kept',
    start: 'filed',
    months: null,
    end: 'keep',
    given: [{ place: 'Board & committees', type: 'Minutes' }],
  },
  {
    name: 'Accounting records',
    authority: 'Financial regulations of the Trust, section 4',
    start: 'yearEnd',
    months: 72,
    end: 'destroy',
    given: [{ place: 'Suppliers', type: null }],
  },
  {
    name: 'Routine letters',
    authority: 'Retention of records policy, table 2',
    start: 'filed',
    months: 24,
    end: 'destroy',
    given: [{ place: 'Berth tenants', type: 'Letter' }],
  },
  {
    name: 'Leases',
    authority: 'Retention of records policy, table 3: twelve years, as for deeds',
    start: 'closed',
    months: 144,
    end: 'look',
    given: [{ place: 'Berth tenants', type: 'Contract' }],
  },
  {
    name: 'Works',
    authority: 'Retention of records policy, table 5',
    start: 'filed',
    months: 180,
    end: 'handOver',
    given: [{ place: 'Works', type: null }],
  },
];

/** Reviews that somebody notes long ago enough: these policies were looked at in the summer of 2025, the rest never. */
const reviewed = ['Health and safety policy', 'Procurement policy', 'Data protection policy'];
const reviewedOn = new Date('2025-06-16T10:00:00Z');
const lastRunOn = new Date('2026-07-20T10:00:00Z');

/** What papers are owed: how often they are reviewed and how long they are kept, a hold, a disposal done and one that waits. */
export async function layDuties(
  people: People,
  places: Places,
  columns: DemoColumns,
  term: (name: string) => string,
  now: Date,
): Promise<void> {
  const maren = someone(people, keeper.name);
  const isolde = someone(people, secondKeeper);
  const ofType = (type: string | null) =>
    type === null ? null : { columnId: someone(columns, 'Paper type'), termId: term(type) };
  const governing = someone(places, 'Governing papers');
  const rule = (type: string, everyMonths: number, responsible: string) =>
    setReviewRule(maren, {
      placeId: governing,
      ruleId: null,
      ofType: ofType(type),
      cycle: {
        rhythm: { everyMonths },
        firstOn: null,
        warnDays: 60,
        responsibleId: someone(people, responsible).personId,
      },
      revision: 0,
    });
  await rule('Policy', 24, keeper.name);
  await rule('Certificate', 12, 'Petra Lindqvist-Hale');
  await atMoment(reviewedOn, () => reviewSome(maren, governing));

  const classIds = new Map<string, string>();
  for (const { given, ...fields } of demoClasses) {
    const { id } = await putClass(maren, { classId: null, fields: { ...fields, columnId: null }, revision: 0 });
    classIds.set(fields.name, id);
    for (const { place: name, type } of given)
      await giveClass(maren, { classId: id, placeId: someone(places, name), ofType: ofType(type) });
  }
  const records = await createDossier(maren, {
    seriesId: governing,
    name: 'Records and disposals',
    reference: 'REC',
  });
  await placeHold(maren, {
    name: 'Pontoon claim',
    reason: 'The contractor disputes the final account: nothing of the job is destroyed until it is settled.',
    on: { placeIds: [someone(places, 'Works/Pontoon repair')], documentIds: [], views: [] },
  });
  const run = (names: readonly string[], note: string) =>
    prepareRun(maren, { classIds: names.map((name) => someone(classIds, name)), placeId: records.id, note });
  // The summer's disposal is done, as its certificate says; the autumn's waits, with one tenant's letters under a hold.
  await atMoment(lastRunOn, async () => {
    const { runId } = await run(['Routine letters'], 'Yearly disposal, July 2026');
    const { revision } = await openRun(isolde, { runId, states: [], most: 1 });
    const { disposed } = await approveRun(isolde, { runId, revision });
    await destroyRun(isolde, { runId, papers: disposed });
    await endRuns();
  });
  await atMoment(now, async () => {
    const [letter] = await db()
      .select({ home: place.lineage })
      .from(document)
      .innerJoin(place, eq(place.id, document.homeId))
      .where(
        and(
          arrayContains(place.lineage, [someone(places, 'Berth tenants')]),
          sql`${document.shownValues} ->> ${someone(columns, 'Paper type')} = ${term('Letter')}`,
          isNull(document.disposedAt),
        ),
      )
      .orderBy(document.filedAt)
      .limit(1);
    const dossierId = letter?.home[2];
    if (dossierId)
      await placeHold(maren, {
        name: 'Ombudsman inquiry',
        reason: 'A complaint of this tenant is with the ombudsman.',
        on: { placeIds: [dossierId], documentIds: [], views: [] },
      });
    await run(['Routine letters'], 'Autumn disposal');
  });
}

async function reviewSome(maren: Actor, seriesId: string): Promise<void> {
  const papers = await db()
    .select({ id: document.id, title: document.title })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(arrayContains(place.lineage, [seriesId]));
  for (const { id, title } of papers)
    if (reviewed.includes(title))
      await doReview(maren, {
        documentId: id,
        // The papers were filed anew at most once; whoever reviewed looked at what was there.
        versionNumber: await versionOf(id),
        outcome: 'kept',
        note: 'Read through with the officers; still right.',
        replacedById: null,
      });
}

async function versionOf(documentId: string): Promise<number> {
  const [last] = await db()
    .select({ number: max(version.number) })
    .from(version)
    .where(eq(version.documentId, documentId));
  return last?.number ?? 1;
}
