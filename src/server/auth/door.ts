import { and, desc, eq, gt, inArray, sql } from 'drizzle-orm';
import { doorWords, type DoorEvent } from '@/core/people/account';
import { emailSchema } from '@/core/people/contract';
import { pauseOfAccount, pauseOfAddress, pauseRule } from '@/core/people/pause';
import { now } from '../base/clock';
import { config } from '../base/config';
import { addressHeader } from '../http/address';
import { trySendMail } from '../mail/outbox';
import { db, type Reader, type Tx, writableDb } from '../db/client';
import { doorEvent, person } from '../db/schema';
import { apart } from '../db/transaction';

/** Where a request comes from: the network address, as determined by the web process (`http/address.ts`), and the browser. */
export interface Caller {
  readonly address: string;
  readonly agent: string;
}

/** The address and program of a caller, for the sign-in journal. */
export const callerOf = (headers: Headers): Caller => ({
  address: (headers.get(addressHeader) ?? '').slice(0, 64),
  agent: (headers.get('user-agent') ?? '').slice(0, 300),
});

/** Adds a line to the sign-in journal for a known person. */
export async function noteAtDoor(event: DoorEvent, personId: string, caller: Caller): Promise<void> {
  const [who] = await db()
    .select({ name: person.name, email: person.email })
    .from(person)
    .where(eq(person.id, personId));
  if (!who) return;
  await writableDb()
    .insert(doorEvent)
    .values({ at: now(), event, personId, email: who.email, ...caller });
  if (toldByMail.has(event)) await tellOfChange(who, event);
}

/** Events reported to the account's owner by mail: changes to how one signs in, which someone else may have made. */
const toldByMail: ReadonlySet<DoorEvent> = new Set([
  'passwordChanged',
  'passwordRenewed',
  'twoStepOn',
  'twoStepOff',
  'codesMade',
]);

/** Tells an account's owner by mail that a way to sign in has changed. The change stands even if the message cannot be sent. */
export async function tellOfChange(who: { name: string; email: string }, event: DoorEvent): Promise<void> {
  await trySendMail({
    to: { name: who.name, address: who.email },
    subject: `Your account: ${doorWords[event].toLowerCase()}`,
    text: `${doorWords[event]}, on ${now().toUTCString()}.\n\nIf it was not you, ask for a new password at ${config().EMBRIN_URL}/new-password and tell a keeper.\n`,
  });
}

/**
 * Records a sign-in attempt, counted as wrong until it succeeds, so that concurrent attempts all count. Null if the
 * account or the network address is paused; unknown accounts are treated alike.
 */
export async function beginTry(rawEmail: unknown, caller: Caller): Promise<number | null> {
  // Stores only valid addresses: someone may have typed a password into the wrong field.
  const email = emailSchema.safeParse(rawEmail).data ?? '';
  return apart(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`door ${email}`}, 0))`);
    const nowMs = now().getTime();
    const pauses = [
      pauseOfAccount(await wrongTriesOf(tx, email), nowMs),
      pauseOfAddress(await wrongTriesFrom(tx, caller.address, nowMs), nowMs),
    ];
    const paused = pauses.some((each) => each.paused);
    const [who] = await tx.select({ id: person.id }).from(person).where(eq(person.email, email));
    const [row] = await tx
      .insert(doorEvent)
      .values({ at: now(), event: paused ? 'paused' : 'wrongPassword', email, personId: who?.id ?? null, ...caller })
      .returning({ id: doorEvent.id });
    return paused || !row ? null : row.id;
  });
}

/** Records that an attempt succeeded, or passed its first step. */
export async function endTry(tryId: number, event: 'signedIn' | 'halfIn' | 'provenAgain'): Promise<void> {
  await writableDb().update(doorEvent).set({ event }).where(eq(doorEvent.id, tryId));
}

/** Removes a sign-in attempt that was counted but not checked. */
export async function dropTry(tryId: number): Promise<void> {
  await writableDb().delete(doorEvent).where(eq(doorEvent.id, tryId));
}

/** A wrong password, or a wrong code after the right password. */
const wrongEvents = ['wrongPassword', 'wrongCode'] as const;
/** Events that prove the owner's presence and reset the count of wrong attempts. */
const provenEvents = ['signedIn', 'provenAgain', 'passwordRenewed', 'passwordChanged'] as const;

/** Times of the newest hundred wrong attempts at an account since its last successful sign-in, oldest first. */
async function wrongTriesOf(tx: Tx, email: string): Promise<number[]> {
  const [proven] = await tx
    .select({ id: doorEvent.id })
    .from(doorEvent)
    .where(and(eq(doorEvent.email, email), inArray(doorEvent.event, [...provenEvents])))
    .orderBy(desc(doorEvent.id))
    .limit(1);
  const rows = await tx
    .select({ at: doorEvent.at })
    .from(doorEvent)
    .where(
      and(
        eq(doorEvent.email, email),
        inArray(doorEvent.event, [...wrongEvents]),
        proven ? gt(doorEvent.id, proven.id) : sql`true`,
      ),
    )
    .orderBy(desc(doorEvent.id))
    .limit(pauseRule.wrongTriesInAll);
  return rows.map((row) => row.at.getTime()).reverse();
}

async function wrongTriesFrom(reader: Reader, address: string, nowMs: number): Promise<number[]> {
  const rows = await reader
    .select({ at: doorEvent.at })
    .from(doorEvent)
    .where(
      and(
        eq(doorEvent.address, address),
        inArray(doorEvent.event, [...wrongEvents]),
        gt(doorEvent.at, new Date(nowMs - pauseRule.withinMs)),
      ),
    )
    .orderBy(desc(doorEvent.id))
    .limit(pauseRule.wrongTriesFromOneAddress);
  return rows.map((row) => row.at.getTime()).reverse();
}
