import { and, count, desc, eq, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { refuse } from '@/core/errors/refusal';
import type { RunPage, RunRow } from '@/core/retention/contract';
import { itemStates, type ItemState } from '@/core/retention/run';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { disposalRun, disposalRunItem, person, place } from '../db/schema';
import { requireKeeper } from '../gate/keeper';
import { heldAmong, holdsInWords, type StandingHold } from '../holds/held';
import { fullName } from '../known/places';

const approver = alias(person, 'approver');

const runColumns = {
  id: disposalRun.id,
  state: disposalRun.state,
  note: disposalRun.note,
  preparedById: disposalRun.preparedBy,
  preparedBy: person.name,
  preparedAt: disposalRun.preparedAt,
  approvedBy: approver.name,
  approvedAt: disposalRun.approvedAt,
  certificateId: disposalRun.certificateId,
  revision: disposalRun.revision,
  placeName: fullName,
};

const selectRuns = () =>
  db()
    .select(runColumns)
    .from(disposalRun)
    .innerJoin(person, eq(person.id, disposalRun.preparedBy))
    .leftJoin(approver, eq(approver.id, disposalRun.approvedBy))
    .innerJoin(place, eq(place.id, disposalRun.placeId));

async function countsOf(ids: readonly string[]): Promise<ReadonlyMap<string, RunRow['counts']>> {
  const rows = await db()
    .select({ runId: disposalRunItem.runId, state: disposalRunItem.state, papers: count() })
    .from(disposalRunItem)
    .where(idIn(disposalRunItem.runId, ids))
    .groupBy(disposalRunItem.runId, disposalRunItem.state);
  const counts = new Map<string, Partial<Record<ItemState, number>>>();
  for (const { runId, state, papers } of rows) counts.set(runId, { ...counts.get(runId), [state]: papers });
  return counts;
}

const asRow = (
  { preparedById: _preparedById, placeName: _placeName, ...row }: Awaited<ReturnType<typeof selectRuns>>[number],
  counts: ReadonlyMap<string, RunRow['counts']>,
): RunRow => ({
  ...row,
  preparedAt: row.preparedAt.toISOString(),
  approvedAt: row.approvedAt?.toISOString() ?? null,
  counts: counts.get(row.id) ?? {},
});

/** All disposals by the schedule, newest first. */
export const listRuns = asks('runs.list', async (actor): Promise<readonly RunRow[]> => {
  requireKeeper(actor);
  const rows = await selectRuns().orderBy(desc(disposalRun.preparedAt)).limit(500);
  const counts = await countsOf(rows.map(({ id }) => id));
  return rows.map((row) => asRow(row, counts));
});

/** A run with its papers, those under a hold as they stand now. */
export const openRun = asks('run.open', async (actor, { runId, states, most }): Promise<RunPage> => {
  requireKeeper(actor);
  const [run] = await selectRuns().where(eq(disposalRun.id, runId));
  if (!run) refuse('not-found');
  const wanted = itemStates.filter((state) => states.length === 0 || states.includes(state));
  const which = and(
    eq(disposalRunItem.runId, runId),
    sql`${disposalRunItem.state} = any(${sql.param([...wanted])}::text[])`,
  );
  const [counts, groups, items, [total]] = await Promise.all([
    countsOf([runId]),
    db()
      .select({
        className: disposalRunItem.className,
        authority: disposalRunItem.authority,
        dossierName: disposalRunItem.dossierName,
        papers: count(),
        sizeBytes: sql<number>`coalesce(sum(${disposalRunItem.sizeBytes}), 0)::float8`,
      })
      .from(disposalRunItem)
      .where(which)
      .groupBy(disposalRunItem.className, disposalRunItem.authority, disposalRunItem.dossierName)
      .orderBy(disposalRunItem.className, disposalRunItem.dossierName),
    db()
      .select({
        documentId: disposalRunItem.documentId,
        title: disposalRunItem.title,
        placeName: disposalRunItem.placeName,
        className: disposalRunItem.className,
        keptUntil: disposalRunItem.keptUntil,
        state: disposalRunItem.state,
        reason: disposalRunItem.reason,
      })
      .from(disposalRunItem)
      .where(which)
      .orderBy(disposalRunItem.className, disposalRunItem.placeName, disposalRunItem.title)
      .limit(most),
    db().select({ papers: count() }).from(disposalRunItem).where(which),
  ]);
  const waiting = items.filter(({ state }) => state === 'listed' || state === 'disposed');
  const held = await heldAmong(
    db(),
    waiting.map(({ documentId }) => documentId),
  );
  return {
    ...asRow(run, counts),
    placeName: run.placeName,
    groups,
    items: items.map((item) => ({ ...item, reason: heldReason(held.get(item.documentId)) ?? item.reason })),
    total: total?.papers ?? 0,
    isMine: run.preparedById === actor.personId,
  };
});

/** Why a paper stays that is under holds; null for one that is under none. */
export const heldReason = (holds: readonly StandingHold[] | undefined): string | null =>
  holds === undefined ? null : `under the hold ${holdsInWords(holds)}`;
