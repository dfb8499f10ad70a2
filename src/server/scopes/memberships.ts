import { sql } from 'drizzle-orm';
import { groupsOn, holdsOn, type Term } from '@/core/people/belonging';
import { dayAt, isoDay } from '@/core/calendar/period';
import { recomputeAllScopes } from './scopes';
import { now } from '../base/clock';
import type { Reader, Tx } from '../db/client';
import { groupTerm, library, membership } from '../db/schema';
import { requireChanging, transaction } from '../db/transaction';

/** All terms of all groups, including past and future ones. */
export async function termsOf(reader: Reader): Promise<Term[]> {
  const rows = await reader.select().from(groupTerm);
  return rows.map(({ groupId, personId, memberGroupId, fromDay, untilDay }) => ({
    groupId,
    member: personId === null ? { kind: 'group', id: memberGroupId ?? '' } : { kind: 'person', id: personId },
    from: fromDay,
    until: untilDay,
  }));
}

/** The terms in force today. */
export async function currentTerms(reader: Reader): Promise<Term[]> {
  const day = await today(reader);
  return (await termsOf(reader)).filter((term) => holdsOn(term, day));
}

/** Today in the library's time zone. */
export async function today(reader: Reader): Promise<string> {
  const [settings] = await reader.select({ timeZone: library.timeZone }).from(library);
  return isoDay(dayAt(now().getTime(), settings?.timeZone ?? 'UTC'));
}

/** Recomputes who belongs to which group today, and with that all access. Called in the transaction of every change to groups. */
export async function recomputeMemberships(tx: Tx): Promise<void> {
  requireChanging(tx, 'people');
  const day = await today(tx);
  const groups = groupsOn(await termsOf(tx), day);
  const pairs = [...groups].flatMap(([personId, ids]) => [...ids].map((groupId) => ({ personId, groupId })));
  const people = sql`${sql.param(pairs.map((pair) => pair.personId))}::uuid[]`;
  const ids = sql`${sql.param(pairs.map((pair) => pair.groupId))}::uuid[]`;
  await tx.execute(sql`
    delete from ${membership} where not exists (
      select from unnest(${people}, ${ids}) as held (person_id, group_id)
      where held.person_id = ${membership.personId} and held.group_id = ${membership.groupId})`);
  await tx.execute(sql`
    insert into membership (person_id, group_id) select * from unnest(${people}, ${ids}) on conflict do nothing`);
  await tx.update(library).set({ membershipDay: day });
  await recomputeAllScopes(tx);
}

/**
 * Brings memberships up to date once a day, since terms of office begin and end: the first request after midnight in the
 * library's time zone does it before it is answered.
 */
export async function keepMembershipsCurrent(settings: {
  readonly timeZone: string;
  /** The day for which memberships were last computed. */
  readonly membershipDay: string | null;
}): Promise<void> {
  const day = isoDay(dayAt(now().getTime(), settings.timeZone));
  if (settings.membershipDay === day) return;
  await transaction(['people', 'access'], async (tx) => {
    // Requests at the same moment wait for the first, and then find it done.
    const [held] = await tx.select({ day: library.membershipDay }).from(library);
    if (held?.day !== day) await recomputeMemberships(tx);
  });
}
