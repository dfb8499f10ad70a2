import { and, asc, eq, not, sql } from 'drizzle-orm';
import { isoDay, type DayNumber } from '@/core/calendar/period';
import { writeDay } from '@/core/calendar/typedDay';
import { refuse } from '@/core/errors/refusal';
import { mostInRun } from '@/core/retention/contract';
import { standingOf } from '@/core/retention/keeping';
import type { ItemState } from '@/core/retention/run';
import { mayHoldPapers } from '@/core/tree/placeKind';
import { acts, actsInSteps } from '../acts/operation';
import { perform } from '../acts/act';
import { now } from '../base/clock';
import { db, type Reader, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { disposalRun, disposalRunItem, document, place, version } from '../db/schema';
import { destroy, destroyed } from '../disposal/destroy';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { requireKeeper } from '../gate/keeper';
import { paperIsLocked } from '../gate/visible';
import { heldAmong } from '../holds/held';
import { fullName } from '../known/places';
import { owedOf, type Owes } from '../owed/papers';
import { papersOfSlice } from '../views/open';
import { heldReason } from './runs';

/**
 * Lists what is due for destruction by some classes: found by the tally, and each paper worked out again from what is stored.
 * Papers in another run that is not ended are left to that.
 */
export const prepareRun = actsInSteps('run.prepare', async (actor, { classIds, placeId, note }) => {
  requireKeeper(actor);
  const [root] = await db().select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  if (!root) refuse('not-found');
  const { ids } = await papersOfSlice(
    actor,
    {
      placeId: root.id,
      below: true,
      filter: '',
      conditions: [
        { of: 'keptUntil', span: { is: 'before-today' } },
        { of: 'keptEnd', anyOf: ['destroy'] },
        { of: 'keptClass', anyOf: classIds },
      ],
      sorts: [{ of: 'keptUntil', direction: 'up' }],
    },
    mostInRun,
  );
  // One after the other: a paper is in one run at a time.
  return perform(actor, ['content'], async (tx) => {
    const home = await placeFor(tx, actor, placeId, 'add');
    if (!mayHoldPapers(home.kind)) refuse('invalid', 'The certificate is filed in a series or below it.');
    const [run] = await tx
      .insert(disposalRun)
      .values({ state: 'prepared', note, preparedBy: actor.personId, preparedAt: now(), placeId })
      .returning({ id: disposalRun.id });
    if (!run) throw new Error('The run was not kept');
    const items = await dueAmong(tx, ids);
    if (items.length === 0) refuse('invalid', 'Nothing is due for destruction by these classes.');
    const held = await heldAmong(
      tx,
      items.map(({ id }) => id),
    );
    await insertItems(
      tx,
      items.map(({ id, keptUntil, ...item }) => ({
        ...item,
        runId: run.id,
        documentId: id,
        keptUntil: isoDay(keptUntil),
        sha256s: [],
        state: held.has(id) ? ('held' as const) : ('listed' as const),
        reason: heldReason(held.get(id)) ?? '',
      })),
    );
    return {
      entry: { act: 'run.prepared', subjects: items.map(({ id }) => id), detail: { count: items } },
      result: { runId: run.id, papers: items.length },
    };
  });
});

const atATime = 2000;

async function insertItems(tx: Tx, items: readonly (typeof disposalRunItem.$inferInsert)[]): Promise<void> {
  for (let from = 0; from < items.length; from += atATime)
    await tx.insert(disposalRunItem).values(items.slice(from, from + atATime));
}

/** Why a paper is not destroyed by the schedule now; null where it is due for that. */
function notDue(owes: Owes | undefined, today: DayNumber): string | null {
  const keeping = owes?.keeping;
  if (!keeping) return 'no class speaks of it any more';
  if (keeping.end !== 'destroy') return `“${keeping.kept.by.name}” does not have it destroyed`;
  if (standingOf(keeping.kept, today) !== 'over')
    return keeping.kept.until === null
      ? `“${keeping.kept.by.name}” has no end for it`
      : `kept until ${writeDay(isoDay(keeping.kept.until))}`;
  return null;
}

/** Those among some papers that are due for destruction and in no other run. Locks their rows. */
async function dueAmong(tx: Tx, ids: readonly string[]) {
  const rows = await tx
    .select({
      id: document.id,
      title: document.title,
      sizeBytes: document.sizeBytes,
      placeName: fullName,
      dossierName: sql<string>`coalesce((select dossier.name from place as dossier where dossier.id = ${place.lineage}[3]), '')`,
    })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        idIn(document.id, ids),
        sql`${document.disposedAt} is null`,
        // What was held when a run was approved is free for the next.
        sql`not exists (select from ${disposalRunItem} join ${disposalRun} on ${disposalRun.id} = ${disposalRunItem.runId}
          where ${disposalRunItem.documentId} = ${document.id} and (${disposalRunItem.state} = 'disposed'
            or ${disposalRunItem.state} in ('listed', 'held') and ${disposalRun.state} = 'prepared'))`,
      ),
    )
    .orderBy(document.id)
    .for('update', { of: document });
  const { today, owes } = await owedOf(
    tx,
    rows.map(({ id }) => id),
  );
  return rows.flatMap((row) => {
    const found = owes.get(row.id);
    if (notDue(found, today) !== null || !found?.keeping) return [];
    const { by, until } = found.keeping.kept;
    return [{ ...row, className: by.name, authority: by.authority, keptUntil: until ?? today }];
  });
}

/** The run, locked, in a state; refuses one that has gone on. */
async function runIn(tx: Tx, runId: string, state: 'prepared' | 'approved', revision: number | null) {
  const [run] = await tx.select().from(disposalRun).where(eq(disposalRun.id, runId)).for('update');
  if (!run) refuse('not-found');
  if (run.state !== state || (revision !== null && run.revision !== revision)) refuse('conflict');
  return run;
}

/** Leaves papers out of a run that waits for approval, with a reason, or puts them in again. */
export const leaveOut = acts('run.leaveOut', [], async (tx, actor, { runId, documentIds, out, reason }) => {
  requireKeeper(actor);
  await runIn(tx, runId, 'prepared', null);
  if (out && reason === '')
    refuse('invalid', 'Say why they are left out.', [{ path: 'reason', says: 'Say why they are left out.' }]);
  const changed = await tx
    .update(disposalRunItem)
    .set(out ? { state: 'leftOut', reason } : { state: 'listed', reason: '' })
    .where(
      and(
        eq(disposalRunItem.runId, runId),
        idIn(disposalRunItem.documentId, documentIds),
        eq(disposalRunItem.state, out ? 'listed' : 'leftOut'),
      ),
    )
    .returning({ id: disposalRunItem.documentId, title: disposalRunItem.title });
  if (changed.length === 0) return { entry: null, result: null };
  // Whoever approves has seen the list as it is.
  await tx
    .update(disposalRun)
    .set({ revision: sql`${disposalRun.revision} + 1` })
    .where(eq(disposalRun.id, runId));
  const subjects = changed.map(({ id }) => id);
  return out
    ? { entry: { act: 'run.leftOut', subjects, detail: { count: changed, reason } }, result: null }
    : { entry: { act: 'run.putIn', subjects, detail: { count: changed } }, result: null };
});

/** Abandons a run that waits for approval: nothing happens to its papers. */
export const abandonRun = acts('run.abandon', [], async (tx, actor, { runId, revision }) => {
  requireKeeper(actor);
  await runIn(tx, runId, 'prepared', revision);
  await tx
    .update(disposalRun)
    .set({ state: 'abandoned', endedAt: now(), revision: revision + 1 })
    .where(eq(disposalRun.id, runId));
  return { entry: { act: 'run.abandoned', subjects: [], detail: {} }, result: null };
});

/**
 * Approves a run: another keeper than the one who prepared it. Every paper that is listed for destruction is worked out once
 * more; what is still due, free of holds and locks goes into the disposal tray, also from closed places. All else stays, with
 * the reason; so does what was listed as held, though its hold be lifted since: nobody agreed to that.
 */
export const approveRun = acts('run.approve', [], async (tx, actor, { runId, revision }) => {
  requireKeeper(actor);
  const run = await runIn(tx, runId, 'prepared', revision);
  if (run.preparedBy === actor.personId)
    refuse('not-allowed', 'Another keeper than the one who prepared it approves a disposal. Nothing was disposed of.');
  const items = await tx
    .select({ id: disposalRunItem.documentId, title: disposalRunItem.title })
    .from(disposalRunItem)
    .where(and(eq(disposalRunItem.runId, runId), eq(disposalRunItem.state, 'listed')))
    .orderBy(asc(disposalRunItem.documentId));
  const kept = await whyKept(
    tx,
    items.map(({ id }) => id),
  );
  const going = items.filter(({ id }) => !kept.has(id));
  const goingIds = going.map(({ id }) => id);
  await tx.update(document).set({ disposedAt: now(), disposedBy: actor.personId }).where(idIn(document.id, goingIds));
  await tx.execute(sql`
    update ${disposalRunItem} set state = 'disposed', reason = '', sha256s = array(
      select made.sha256 from ${version} as made where made.document_id = ${disposalRunItem.documentId} order by made.number)
    where ${disposalRunItem.runId} = ${runId} and ${idIn(disposalRunItem.documentId, goingIds)}`);
  for (const [id, { state, reason }] of kept)
    await tx
      .update(disposalRunItem)
      .set({ state, reason })
      .where(and(eq(disposalRunItem.runId, runId), eq(disposalRunItem.documentId, id)));
  await tx
    .update(disposalRun)
    .set({ state: 'approved', approvedBy: actor.personId, approvedAt: now(), revision: revision + 1 })
    .where(eq(disposalRun.id, runId));
  return {
    entry: { act: 'run.approved', subjects: goingIds, detail: { count: going } },
    result: { disposed: going.length, kept: kept.size },
  };
});

/** Why papers stay, of those that do. Locks the rows of all of them. */
async function whyKept(
  tx: Tx,
  ids: readonly string[],
): Promise<ReadonlyMap<string, { state: ItemState; reason: string }>> {
  const rows = await tx
    .select({
      id: document.id,
      // A closed place is no reason: papers are kept from the closing of their dossier on.
      isLocked: sql<boolean>`${paperIsLocked}`,
    })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(idIn(document.id, ids), sql`${document.disposedAt} is null`))
    .orderBy(document.id)
    .for('update', { of: document });
  const there = new Map(rows.map((row) => [row.id, row]));
  const { today, owes } = await owedOf(tx, [...there.keys()]);
  const held = await heldAmong(tx, [...there.keys()]);
  const kept = new Map<string, { state: ItemState; reason: string }>();
  for (const id of ids) {
    const row = there.get(id);
    const hold = heldReason(held.get(id));
    const reason =
      row === undefined ? 'no longer in its place' : (notDue(owes.get(id), today) ?? (row.isLocked ? 'locked' : null));
    if (hold !== null) kept.set(id, { state: 'held', reason: hold });
    else if (reason !== null) kept.set(id, { state: 'refused', reason });
  }
  return kept;
}

/** So many papers are destroyed in one transaction. */
const destroyedAtOnce = 200;

/**
 * Destroys what waits in the disposal tray by a run, before its days are over. A hold or lock that was put on since wins.
 * @param papers how many the caller was told that it is, and typed
 */
export const destroyRun = actsInSteps('run.destroy', async (actor, { runId, papers }) => {
  requireKeeper(actor);
  const waiting = await waitingIn(db(), runId);
  if (waiting.length !== papers)
    refuse('conflict', 'It is no longer that many papers. Nothing was destroyed. Load the page again.');
  let gone = 0;
  for (let from = 0; from < waiting.length; from += destroyedAtOnce) {
    gone += await destroySome(actor, runId, waiting.slice(from, from + destroyedAtOnce));
  }
  return { destroyed: gone, kept: waiting.length - gone };
});

const waitingIn = async (reader: Reader, runId: string): Promise<string[]> =>
  (
    await reader
      .select({ id: disposalRunItem.documentId })
      .from(disposalRunItem)
      .innerJoin(disposalRun, eq(disposalRun.id, disposalRunItem.runId))
      .where(and(eq(disposalRun.id, runId), eq(disposalRun.state, 'approved'), eq(disposalRunItem.state, 'disposed')))
      .orderBy(disposalRunItem.documentId)
  ).map(({ id }) => id);

const destroySome = (actor: Actor, runId: string, ids: readonly string[]) =>
  perform(actor, ['content'], async (tx) => {
    await runIn(tx, runId, 'approved', null);
    const still = new Set(await waitingIn(tx, runId));
    const held = await heldAmong(tx, ids);
    const going = await tx
      .select({ id: document.id, title: document.title, homeId: document.homeId })
      .from(document)
      .innerJoin(place, eq(place.id, document.homeId))
      .where(
        and(
          idIn(
            document.id,
            ids.filter((id) => still.has(id) && !held.has(id)),
          ),
          sql`${document.disposedAt} is not null`,
          not(paperIsLocked),
        ),
      )
      .orderBy(document.id)
      .for('update', { of: document });
    const result = going.length;
    if (going.length === 0) return { entry: null, result };
    await destroy(tx, going, actor.personId);
    return { entry: destroyed('papers.destroyed', going), result };
  });
