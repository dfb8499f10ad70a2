import { acts, actsInSteps, asks } from '../acts/operation';
import { requireKeeper } from '../gate/keeper';
import { randomBytes } from 'node:crypto';
import { and, count, eq, gt, isNull, sql } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import { refuse } from '@/core/errors/refusal';
import { holdsOn, wouldLoop } from '@/core/people/belonging';
import type { TermRow } from '@/core/people/model';
import { searchKey, nameKey } from '@/core/text/fold';
import { perform } from '../acts/act';
import { recomputeAllScopes } from '../scopes/scopes';
import { requireUnguessable } from '../passwords/guessable';
import { hashPassword } from '../passwords/password';
import { config } from '../base/config';
import { db, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { account, groupTerm, invitation, library, membership, person, personGroup, session } from '../db/schema';
import { sendMail } from '../mail/outbox';
import { now } from '../base/clock';
import { sha256Hex } from '../base/sha256';
import { recomputeMemberships, termsOf, today } from '../scopes/memberships';

const invitationDays = 7;

/** All people, groups and open invitations; for keepers. */
export const listPeople = asks('people.list', async (actor) => {
  requireKeeper(actor);
  const [rows, groups, members, terms, day, open] = await Promise.all([
    db()
      .select({
        id: person.id,
        name: person.name,
        email: person.email,
        keeper: person.keeper,
        active: person.active,
        outside: person.outside,
        twoStep: person.twoFactorEnabled,
      })
      .from(person)
      .orderBy(person.name),
    db().select().from(personGroup).orderBy(personGroup.name),
    db()
      .select({ groupId: membership.groupId, id: person.id })
      .from(membership)
      .innerJoin(person, and(eq(person.id, membership.personId), eq(person.active, true))),
    db()
      .select({ term: groupTerm, personName: person.name, groupName: personGroup.name })
      .from(groupTerm)
      .leftJoin(person, eq(person.id, groupTerm.personId))
      .leftJoin(personGroup, eq(personGroup.id, groupTerm.memberGroupId))
      .orderBy(sql`${person.name} nulls last`, personGroup.name, groupTerm.fromDay),
    today(db()),
    db()
      .select({ id: invitation.id, name: invitation.name, email: invitation.email, expiresAt: invitation.expiresAt })
      .from(invitation)
      .where(and(isNull(invitation.usedAt), gt(invitation.expiresAt, now())))
      .orderBy(invitation.expiresAt),
  ]);
  const groupNames = new Map(groups.map((group) => [group.id, group.name]));
  return {
    people: rows.map((row) => ({
      ...row,
      groups: members.filter((each) => each.id === row.id).flatMap((each) => groupNames.get(each.groupId) ?? []),
    })),
    groups: groups.map(({ id, name, revision }) => ({
      id,
      name,
      revision,
      memberCount: members.filter((each) => each.groupId === id).length,
      terms: terms
        .filter(({ term }) => term.groupId === id)
        .map(({ term, personName, groupName }): TermRow => ({
          member:
            term.personId === null
              ? { kind: 'group', id: term.memberGroupId ?? '' }
              : { kind: 'person', id: term.personId },
          name: personName ?? groupName ?? '',
          role: term.role,
          from: term.fromDay,
          until: term.untilDay,
          current: holdsOn({ from: term.fromDay, until: term.untilDay }, day),
        })),
    })),
    invitations: open.map((row) => ({ ...row, expiresAt: row.expiresAt.toISOString() })),
  };
});

/** Invites someone with a single-use link, shown to the keeper and sent by mail. Only its hash is stored. */
export const invite = actsInSteps('person.invite', async (actor, input) => {
  requireKeeper(actor);
  const token = randomBytes(32).toString('base64url');
  const expiresAt = new Date(now().getTime() + invitationDays * 86_400_000);
  const link = `${config().EMBRIN_URL}/invitation/${token}`;
  const libraryName = await perform(actor, async (tx) => {
    const [known] = await tx.select({ id: person.id }).from(person).where(eq(person.email, input.email));
    if (known) refuse('address-taken');
    // A newer invitation replaces an older one to the same address.
    await tx.delete(invitation).where(and(eq(invitation.email, input.email), isNull(invitation.usedAt)));
    await tx.insert(invitation).values({ ...input, tokenHash: sha256Hex(token), invitedBy: actor.personId, expiresAt });
    const [settings] = await tx.select({ name: library.name }).from(library);
    return {
      entry: { act: 'person.invited', subjects: [], detail: { email: input.email, keeper: input.keeper } },
      result: settings?.name ?? '',
    };
  });
  await sendMail({
    to: { name: input.name, address: input.email },
    subject: `${actor.name} invites you to the library of ${libraryName}`,
    text: `${actor.name} has opened the library of ${libraryName} to you.\n\nYour way in, for one use until ${expiresAt.toUTCString()}:\n${link}\n`,
  });
  return { link, expiresAt: expiresAt.toISOString() };
});

/** The invitation of a link, if it is still open. */
export async function openInvitation(token: string) {
  const [found] = await db()
    .select({ id: invitation.id, name: invitation.name, email: invitation.email, keeper: invitation.keeper })
    .from(invitation)
    .where(and(eq(invitation.tokenHash, sha256Hex(token)), isNull(invitation.usedAt), gt(invitation.expiresAt, now())));
  return found ?? refuse('gone');
}

/** Checks and hashes a new person's password. Called before the act, since hashing is slow. */
export async function newPasswordHash(made: { name: string; email: string; password: string }): Promise<string> {
  requireUnguessable('password', made.password, [made.name, made.email]);
  return hashPassword(made.password);
}

/** Adds a person with a password; part of joining, founding and the demo. */
export async function addPerson(
  tx: Tx,
  made: { name: string; email: string; keeper: boolean; passwordHash: string },
): Promise<string> {
  const { passwordHash, ...who } = made;
  const [row] = await tx
    .insert(person)
    .values({ ...who, emailVerified: true, searchKey: searchKey(`${who.name} ${who.email}`) })
    .returning({ id: person.id });
  if (!row) throw new Error('The person was not made');
  await tx
    .insert(account)
    .values({ accountId: row.id, providerId: 'credential', userId: row.id, password: passwordHash });
  return row.id;
}

/** Accepts an invitation and uses up its link, in one transaction. */
export async function join(input: { token: string; name: string; password: string }): Promise<{ email: string }> {
  const open = await openInvitation(input.token);
  const used = { personId: '', keeper: false };
  const passwordHash = await newPasswordHash({ ...open, ...input });
  return perform(used, ['people', 'access'], async (tx) => {
    const taken = await tx
      .update(invitation)
      .set({ usedAt: now() })
      .where(and(eq(invitation.id, open.id), isNull(invitation.usedAt)))
      .returning({ id: invitation.id });
    if (taken.length === 0) refuse('gone');
    used.personId = await addPerson(tx, {
      name: input.name,
      email: open.email,
      keeper: open.keeper,
      passwordHash,
    });
    await recomputeAllScopes(tx);
    return {
      entry: { act: 'person.joined', subjects: [used.personId], detail: { name: input.name } },
      result: { email: open.email },
    };
  });
}

async function leavesKeeper(tx: Tx): Promise<void> {
  const [left] = await tx
    .select({ keepers: count() })
    .from(person)
    .where(and(eq(person.keeper, true), eq(person.active, true)));
  if ((left?.keepers ?? 0) === 0) refuse('last-keeper');
}

/** Switches an account off, which ends its sessions at once, or on. */
export const setActive = acts('person.setActive', ['people', 'access'], async (tx, actor, input) => {
  requireKeeper(actor);

  const [who] = await tx.update(person).set({ active: input.active }).where(eq(person.id, input.personId)).returning();
  if (!who) refuse('not-found');
  if (!input.active) await tx.delete(session).where(eq(session.userId, who.id));
  await leavesKeeper(tx);
  await recomputeAllScopes(tx);
  const act = input.active ? 'person.switchedOn' : 'person.switchedOff';
  return { entry: { act, subjects: [who.id], detail: { name: who.name } }, result: null };
});

/** Makes a person a keeper, or no longer one. */
export const setKeeper = acts('person.setKeeper', ['people'], async (tx, actor, input) => {
  requireKeeper(actor);

  const [who] = await tx.update(person).set({ keeper: input.keeper }).where(eq(person.id, input.personId)).returning();
  if (!who) refuse('not-found');
  await leavesKeeper(tx);
  const act = input.keeper ? 'person.keeperSet' : 'person.keeperUnset';
  return { entry: { act, subjects: [who.id], detail: { name: who.name } }, result: null };
});

/** Marks whether someone belongs to the organisation. Gives no access; it is shown wherever access is. */
export const setOutside = acts('person.setOutside', [], async (tx, actor, input) => {
  requireKeeper(actor);

  const [who] = await tx
    .update(person)
    .set({ outside: input.outside })
    .where(eq(person.id, input.personId))
    .returning();
  if (!who) refuse('not-found');
  const act = input.outside ? 'person.outsideSet' : 'person.outsideUnset';
  return { entry: { act, subjects: [who.id], detail: { name: who.name } }, result: null };
});

/** Makes a group. */
export const createGroup = acts('group.create', [], async (tx, actor, input) => {
  requireKeeper(actor);

  const [made] = await tx
    .insert(personGroup)
    .values({ name: input.name, nameKey: nameKey(input.name) })
    .returning({ id: personGroup.id });
  if (!made) throw new Error('The group was not made');
  return { entry: { act: 'group.created', subjects: [made.id], detail: { name: input.name } }, result: made };
});

/** Changes a group's name and terms, if it still has the revision the keeper saw. */
export const changeGroup = acts('group.change', ['people', 'access'], async (tx, actor, input) => {
  requireKeeper(actor);

  const changed = await tx
    .update(personGroup)
    .set({ name: input.name, nameKey: nameKey(input.name), revision: input.revision + 1 })
    .where(and(eq(personGroup.id, input.groupId), eq(personGroup.revision, input.revision)))
    .returning({ id: personGroup.id });
  if (changed.length === 0) refuse('conflict');
  await knownMembers(tx, input);
  await tx.delete(groupTerm).where(eq(groupTerm.groupId, input.groupId));
  if (input.terms.length > 0)
    await tx.insert(groupTerm).values(
      input.terms.map(({ member, role, from, until }) => ({
        groupId: input.groupId,
        personId: member.kind === 'person' ? member.id : null,
        memberGroupId: member.kind === 'group' ? member.id : null,
        role,
        fromDay: from,
        untilDay: until,
      })),
    );
  await recomputeMemberships(tx);
  const members = [...new Set(input.terms.map(({ member }) => member.id))];
  const detail = { name: input.name, members: members.length };
  return { entry: { act: 'group.changed', subjects: [input.groupId, ...members], detail }, result: null };
});

/** Refuses unknown members, and nesting that would make a group contain itself. */
async function knownMembers(tx: Tx, { groupId, terms }: ReadInputOf<'group.change'>): Promise<void> {
  const idsOf = (kind: 'person' | 'group') => [
    ...new Set(terms.flatMap(({ member }) => (member.kind === kind ? [member.id] : []))),
  ];
  const people = idsOf('person');
  const groups = idsOf('group');
  const found = await tx.select({ id: person.id }).from(person).where(idIn(person.id, people));
  const foundGroups = await tx.select({ id: personGroup.id }).from(personGroup).where(idIn(personGroup.id, groups));
  if (found.length < people.length || foundGroups.length < groups.length) refuse('not-found');
  const others = (await termsOf(tx)).filter((term) => term.groupId !== groupId);
  if (groups.some((inner) => wouldLoop(others, groupId, inner)))
    refuse('into-itself', 'A group cannot be in itself, nor in a group that is in it. Nothing was saved.');
}

/** Removes a group; what it was allowed goes with it. */
export const removeGroup = acts('group.remove', ['people', 'access'], async (tx, actor, { groupId }) => {
  requireKeeper(actor);

  const [gone] = await tx.delete(personGroup).where(eq(personGroup.id, groupId)).returning();
  if (!gone) refuse('not-found');
  await recomputeMemberships(tx);
  return { entry: { act: 'group.removed', subjects: [groupId], detail: { name: gone.name } }, result: null };
});
