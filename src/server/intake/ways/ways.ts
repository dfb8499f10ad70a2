import path from 'node:path';
import { and, asc, eq, isNotNull, isNull, lt, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { isElsewhere, mostWaysIn, settingsFaults, signsIn, takesFrom, type WayInSettings } from '@/core/intake/wayIn';
import { acts, asks } from '../../acts/operation';
import { now } from '../../base/clock';
import { config } from '../../base/config';
import { locked } from '../../base/locked';
import { db, writableDb, type Tx } from '../../db/client';
import { arrival, library, storePaper, wayIn } from '../../db/schema';
import type { Actor } from '../../gate/actor';
import { oneMoreLook } from './model';

/** Refuses who is no keeper. */
export function requireKeeper({ keeper }: Actor): void {
  if (!keeper) refuse('not-allowed', 'Ways in are set up by keepers.');
}

/** The ways in of the library, with how each gets on. No password is told. */
export const waysIn = asks('intake.ways', async (actor) => {
  requireKeeper(actor);
  const rows = await db()
    .select({
      way: wayIn,
      // Wrapped in a select, because drizzle drops table names in the fields of a one-table select.
      taken: sql<number>`(select ${sql`(select count(*)::int from ${arrival} where ${arrival.wayInId} = ${wayIn.id})`})`,
    })
    .from(wayIn)
    .where(isNull(wayIn.removedAt))
    .orderBy(asc(wayIn.name), asc(wayIn.id));
  const [found] = await db().select({ answers: library.answersSenders }).from(library);
  const ways = rows.map(
    ({ way: { id, name, on, settings, looksWanted, looksMet, lookedAt, tookAt, fault, revision }, taken }) => ({
      ...{ id, name, on, settings, fault, revision, taken },
      lookNow: looksWanted > looksMet,
      lookedAt: lookedAt?.toISOString() ?? null,
      tookAt: tookAt?.toISOString() ?? null,
      folderAt:
        'folder' in settings && settings.kind !== 'mailbox'
          ? path.join(config().EMBRIN_ARRIVALS, settings.folder)
          : null,
    }),
  );
  return { ways, answersSenders: found?.answers ?? false };
});

/** Sets up a way in, or changes one. */
export const keepWayIn = acts(
  'intake.keepWay',
  [],
  async (tx, actor, { id, revision, name, on, settings, password }) => {
    requireKeeper(actor);
    const faults = settingsFaults(settings).map(({ field, says }) => ({ path: `settings.${field}`, says }));
    const [first] = faults;
    if (first) refuse('invalid', first.says, faults);
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext('ways in'))`);
    await requireApart(tx, id, settings);
    const entry = { act: 'wayIn.kept' as const, subjects: [], detail: { name } };
    const lockedPassword = password === '' ? null : locked(Buffer.from(password, 'utf8'), 'mailbox password');
    // It is looked at at once, so that whoever set it up sees whether it works.
    const set = { name, on, settings, fault: null };
    if (id === null) {
      if (signsIn(settings) && lockedPassword === null) refusePassword('Give the password.');
      await requireRoom(tx);
      const [made] = await tx
        .insert(wayIn)
        .values({ ...set, lockedPassword })
        .returning({ id: wayIn.id });
      if (!made) throw new Error('The way in was not made');
      return { entry, result: { id: made.id } };
    }
    const [before] = await tx.select().from(wayIn).where(eq(wayIn.id, id)).for('update');
    if (!before || before.removedAt !== null) refuse('not-found');
    if (before.revision !== revision) refuse('conflict', 'This was changed meanwhile. Load it again.');
    if (before.settings.kind !== settings.kind) refuse('invalid', 'A way in stays of its kind: make another one.');
    const moves = signsIn(settings) && isElsewhere(before.settings, settings);
    // Else whoever may change the server could have the password sent to one of theirs.
    if (moves && lockedPassword === null) refusePassword('For another server or user, give the password again.');
    const isOther = takesFrom(before.settings) !== takesFrom(settings);
    await tx
      .update(wayIn)
      .set({
        ...set,
        looksWanted: oneMoreLook,
        revision: revision + 1,
        ...(lockedPassword === null ? {} : { lockedPassword }),
        ...(isOther ? { reached: null } : {}),
      })
      .where(eq(wayIn.id, id));
    if (isOther) await tx.delete(storePaper).where(eq(storePaper.wayInId, id));
    return { entry, result: { id } };
  },
);

function refusePassword(says: string): never {
  refuse('invalid', says, [{ path: 'password', says }]);
}

async function requireRoom(tx: Tx): Promise<void> {
  if ((await tx.$count(wayIn, isNull(wayIn.removedAt))) >= mostWaysIn)
    refuse('invalid', `A library has at most ${mostWaysIn} ways in.`);
}

/** Two ways in do not take from one place. */
async function requireApart(tx: Tx, id: string | null, settings: WayInSettings): Promise<void> {
  const others = await tx.select().from(wayIn).where(isNull(wayIn.removedAt));
  const same = others.find((each) => each.id !== id && takesFrom(each.settings) === takesFrom(settings));
  if (!same) return;
  const says = `“${same.name}” takes from there already.`;
  refuse('invalid', says, [{ path: settings.kind === 'store' ? 'settings.address' : 'settings.folder', says }]);
}

/** Has a way in looked at now. */
export const lookNow = acts('intake.lookNow', [], async (tx, actor, { id }) => {
  requireKeeper(actor);
  const [found] = await tx
    .update(wayIn)
    .set({ looksWanted: oneMoreLook })
    .where(and(eq(wayIn.id, id), eq(wayIn.on, true), isNull(wayIn.removedAt)))
    .returning({ id: wayIn.id });
  if (!found) refuse('not-found', 'This way in is switched off, or gone.');
  return { entry: null, result: null };
});

/** Takes a way in away; it can be had back for a day. What came by it stays. */
export const removeWayIn = acts('intake.removeWay', [], async (tx, actor, { id }) => {
  requireKeeper(actor);
  const [gone] = await tx
    .update(wayIn)
    .set({ removedAt: now() })
    .where(and(eq(wayIn.id, id), isNull(wayIn.removedAt)))
    .returning({ name: wayIn.name });
  if (!gone) refuse('not-found');
  return { entry: { act: 'wayIn.removed', subjects: [], detail: { name: gone.name } }, result: null };
});

/** Brings a way in back that was removed, with its password, and as far as it had got. */
export const restoreWayIn = acts('intake.restoreWay', [], async (tx, actor, { id }) => {
  requireKeeper(actor);
  await tx.execute(sql`select pg_advisory_xact_lock(hashtext('ways in'))`);
  const [gone] = await tx
    .select()
    .from(wayIn)
    .where(and(eq(wayIn.id, id), isNotNull(wayIn.removedAt)))
    .for('update');
  if (!gone) refuse('not-found', 'This way in is there, or was removed more than a day ago.');
  await requireRoom(tx);
  await requireApart(tx, id, gone.settings);
  await tx.update(wayIn).set({ removedAt: null, looksWanted: oneMoreLook }).where(eq(wayIn.id, id));
  return { entry: { act: 'wayIn.restored', subjects: [], detail: { name: gone.name } }, result: null };
});

const keptMs = 86_400_000;

/** Forgets the ways in, and their passwords, that were removed a day ago. */
export async function forgetWaysIn(): Promise<void> {
  await writableDb()
    .delete(wayIn)
    .where(lt(wayIn.removedAt, new Date(now().getTime() - keptMs)));
}

/** Has senders told that their mail arrived, or no more. */
export const answerSenders = acts('intake.answerSenders', [], async (tx, actor, { on }) => {
  requireKeeper(actor);
  const [changed] = await tx
    .update(library)
    .set({ answersSenders: on })
    .where(eq(library.answersSenders, !on))
    .returning({ id: library.id });
  if (!changed) refuse('conflict', on ? 'Senders are told already.' : 'Senders are told nothing already.');
  const act = on ? ('intake.answers' as const) : ('intake.answersNot' as const);
  return { entry: { act, subjects: [], detail: {} }, result: null };
});
