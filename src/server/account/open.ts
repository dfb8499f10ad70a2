import { and, desc, eq, gt, lt, sql } from 'drizzle-orm';
import type { DoorLine, SessionRow } from '@/core/people/account';
import { refuse } from '@/core/errors/refusal';
import { actsInSteps, asks } from '../acts/operation';
import { auth } from '../auth/auth';
import { perform } from '../acts/act';
import type { Actor } from '../gate/actor';
import { browserInWords } from '../auth/browser';
import { noteAtDoor, tellOfChange } from '../auth/door';
import { now } from '../base/clock';
import { db, writableDb } from '../db/client';
import { doorEvent, person, session, twoFactor } from '../db/schema';
import { requireKeeper } from '../gate/keeper';
import { requireOwnSession } from '../auth/own';
import { tokensOf } from '../auth/tokens';

/** The caller's own account: second step, sessions, tokens, recent sign-ins. */
export const openAccount = asks('account.open', async (actor) => {
  requireOwnSession(actor);
  const [who] = await db()
    .select({ email: person.email, twoStep: person.twoFactorEnabled })
    .from(person)
    .where(eq(person.id, actor.personId));
  if (!who) refuse('not-found');
  const codes = who.twoStep ? await auth().api.viewBackupCodes({ body: { userId: actor.personId } }) : null;
  return {
    twoStep: who.twoStep,
    codesLeft: codes?.backupCodes.length ?? 0,
    sessions: await sessionsOf(actor),
    tokens: await tokensOf(actor.personId),
    door: await doorLines(sql`${doorEvent.email} = ${who.email}`, 20),
  };
});

async function sessionsOf(actor: Actor): Promise<SessionRow[]> {
  const rows = await db()
    .select({
      id: session.id,
      startedAt: session.createdAt,
      usedAt: session.updatedAt,
      address: session.ipAddress,
      agent: session.userAgent,
    })
    .from(session)
    .where(and(eq(session.userId, actor.personId), gt(session.expiresAt, now())))
    .orderBy(desc(session.updatedAt));
  return rows.map((row) => ({
    id: row.id,
    current: row.id === actor.sessionId,
    startedAt: row.startedAt.toISOString(),
    usedAt: row.usedAt.toISOString(),
    address: row.address ?? '',
    browser: browserInWords(row.agent ?? ''),
  }));
}

async function doorLines(which: ReturnType<typeof sql>, limit: number): Promise<DoorLine[]> {
  const rows = await db()
    .select({
      id: doorEvent.id,
      at: doorEvent.at,
      name: person.name,
      email: doorEvent.email,
      event: doorEvent.event,
      address: doorEvent.address,
      agent: doorEvent.agent,
    })
    .from(doorEvent)
    .leftJoin(person, eq(person.id, doorEvent.personId))
    .where(which)
    .orderBy(desc(doorEvent.id))
    .limit(limit);
  return rows.map((row) => ({
    id: row.id,
    at: row.at.toISOString(),
    who: row.name ?? (row.email || 'no address'),
    event: row.event,
    address: row.address,
    browser: browserInWords(row.agent),
  }));
}

/** The sign-in journal of all accounts, newest first; for keepers. */
export const listDoor = asks('door.list', async (actor, { before }) => {
  requireKeeper(actor);
  return doorLines(before === null ? sql`true` : lt(doorEvent.id, before), 60);
});

/** Ends one of the caller's sessions. */
export const endSession = actsInSteps('session.end', async (actor, { sessionId }) => {
  requireOwnSession(actor);
  const [gone] = await writableDb()
    .delete(session)
    .where(and(eq(session.id, sessionId), eq(session.userId, actor.personId)))
    .returning();
  if (!gone) refuse('not-found');
  await noteAtDoor('sessionEnded', actor.personId, { address: gone.ipAddress ?? '', agent: gone.userAgent ?? '' });
  return null;
});

/** Removes the second step from an account whose owner has lost telephone and recovery codes, and ends its sessions. */
export const dropSecondStep = actsInSteps('person.dropSecondStep', async (actor, { personId }) => {
  requireKeeper(actor);
  const told = { name: '', email: '' };
  await perform(actor, async (tx) => {
    const [who] = await tx
      .update(person)
      .set({ twoFactorEnabled: false })
      .where(and(eq(person.id, personId), eq(person.twoFactorEnabled, true)))
      .returning();
    if (!who) refuse('not-found');
    await tx.delete(twoFactor).where(eq(twoFactor.userId, personId));
    await tx.delete(session).where(eq(session.userId, personId));
    Object.assign(told, { name: who.name, email: who.email });
    return {
      entry: { act: 'person.secondStepDropped', subjects: [personId], detail: { name: who.name } },
      result: null,
    };
  });
  await tellOfChange(told, 'twoStepOff');
  return null;
});
