import { and, desc, eq, gt, inArray, sql } from 'drizzle-orm';
import { doorWords, type DoorEvent } from '@/core/people/account';
import { emailSchema } from '@/core/people/contract';
import { pauseOfAccount, pauseOfAddress, pauseRule } from '@/core/people/pause';
import { now } from '../base/clock';
import { config } from '../base/config';
import { addressHeader } from '../http/address';
import { trySendMail } from '../mail/outbox';
import { db, type Reader, type Tx } from '../db/client';
import { doorEvent, person } from '../db/schema';
import { apart } from '../db/transaction';

/** From where a request comes: the network address as the web process found it (`http/address.ts`), and the browser. */
export interface Caller {
  readonly address: string;
  readonly agent: string;
}

export const callerOf = (headers: Headers): Caller => ({
  address: (headers.get(addressHeader) ?? '').slice(0, 64),
  agent: (headers.get('user-agent') ?? '').slice(0, 300),
});

/** Writes a line of the sign-in journal for someone who is known. */
export async function noteAtDoor(event: DoorEvent, personId: string, caller: Caller): Promise<void> {
  const [who] = await db()
    .select({ name: person.name, email: person.email })
    .from(person)
    .where(eq(person.id, personId));
  if (!who) return;
  await db()
    .insert(doorEvent)
    .values({ at: now(), event, personId, email: who.email, ...caller });
  if (toldByMail.has(event)) await tellOfChange(who, event);
}

/** What its person is told by mail: a change to how the account is entered that may not have been theirs. */
const toldByMail: ReadonlySet<DoorEvent> = new Set([
  'passwordChanged',
  'passwordRenewed',
  'twoStepOn',
  'twoStepOff',
  'codesMade',
]);

/** Tells an account's own address that how it is entered has changed. The change stands, also where the message cannot be sent. */
export async function tellOfChange(who: { name: string; email: string }, event: DoorEvent): Promise<void> {
  await trySendMail({
    to: { name: who.name, address: who.email },
    subject: `Your account: ${doorWords[event].toLowerCase()}`,
    text: `${doorWords[event]}, on ${now().toUTCString()}.\n\nIf it was not you, ask for a new password at ${config().EMBRIN_URL}/new-password and tell a keeper.\n`,
  });
}

/**
 * Begins a try at signing in: counted as wrong until it turns out right, so that many at once count as many. Null where the
 * account or the network address is paused; the same for accounts that there are not.
 */
export async function beginTry(rawEmail: unknown, caller: Caller): Promise<number | null> {
  // What was typed may be a password in the wrong field: only an address is kept.
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

/** Says how a try turned out that was not wrong after all. */
export async function endTry(tryId: number, event: 'signedIn' | 'halfIn'): Promise<void> {
  await db().update(doorEvent).set({ event }).where(eq(doorEvent.id, tryId));
}

/** Takes a try back that was never looked at. */
export async function dropTry(tryId: number): Promise<void> {
  await db().delete(doorEvent).where(eq(doorEvent.id, tryId));
}

/** A wrong password, or a wrong code after a right one. */
const wrongEvents = ['wrongPassword', 'wrongCode'] as const;
/** What shows that whoever comes is the person: the count of wrong tries begins anew. */
const provenEvents = ['signedIn', 'passwordRenewed', 'passwordChanged'] as const;

/** Moments of wrong tries at an account since it was last entered, oldest first: the newest hundred. */
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
