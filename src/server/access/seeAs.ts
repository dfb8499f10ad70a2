import { and, eq } from 'drizzle-orm';
import { has, type Capability, type CapabilitySet } from '@/core/access/capability';
import { byOpeningOnly, resolveLibrary, type Sight } from '@/core/access/library';
import { openingLets } from '@/core/access/resolve';
import { refuse } from '@/core/errors/refusal';
import { groupsOn, type Term } from '@/core/people/belonging';
import { perform } from '../acts/act';
import { db, type Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { document, person, personGroup, place, scope, scopeEntry, seeAs } from '../db/schema';
import { termsOf, today } from '../scopes/memberships';
import type { Actor, SeenBy } from '../gate/actor';
import { partBelow } from '../scopes/parts';

/** As whom the library is seen. */
export type SeenAs = { readonly kind: 'person' | 'group'; readonly id: string };

/** Starts impersonating a person, or a member of a group. For keepers, and for managers within what they manage. */
export async function startSeeingAs(actor: Actor, sessionId: string, as: SeenAs): Promise<null> {
  return perform(actor, async (tx) => {
    if (!actor.keeper && (await scopesOf(tx, actor.personId, 'manage')).size === 0)
      refuse('not-allowed', 'Only those who manage something see the library as others do.');
    const name = await nameOf(tx, as, 'active');
    if (as.id === actor.personId) refuse('invalid', 'That is how you see it now.');
    const row = { personId: as.kind === 'person' ? as.id : null, groupId: as.kind === 'group' ? as.id : null };
    await tx
      .insert(seeAs)
      .values({ sessionId, ...row })
      .onConflictDoUpdate({ target: seeAs.sessionId, set: row });
    return { entry: { act: 'seeAs.started', subjects: [as.id], detail: { name } }, result: null };
  });
}

/** Stops impersonating. */
export async function stopSeeingAs(actor: Actor, sessionId: string): Promise<null> {
  return perform(actor, async (tx) => {
    const [gone] = await tx.delete(seeAs).where(eq(seeAs.sessionId, sessionId)).returning();
    if (!gone) return { entry: null, result: null };
    const as: SeenAs =
      gone.personId === null ? { kind: 'group', id: gone.groupId ?? '' } : { kind: 'person', id: gone.personId };
    return {
      entry: { act: 'seeAs.ended', subjects: [as.id], detail: { name: await nameOf(tx, as, 'any') } },
      result: null,
    };
  });
}

async function nameOf(reader: Reader, { kind, id }: SeenAs, which: 'active' | 'any'): Promise<string> {
  const [found] =
    kind === 'person'
      ? await reader
          .select({ name: person.name })
          .from(person)
          .where(and(eq(person.id, id), which === 'active' ? eq(person.active, true) : undefined))
      : await reader.select({ name: personGroup.name }).from(personGroup).where(eq(personGroup.id, id));
  return found?.name ?? refuse('not-found');
}

/** The person whom a session impersonates, as a caller; null if none, or if their account is gone. */
export async function seenAs(looker: Actor, sessionId: string): Promise<Actor | null> {
  const [row] = await db().select().from(seeAs).where(eq(seeAs.sessionId, sessionId));
  if (!row) return null;
  const [who] =
    row.personId === null
      ? await db()
          .select({ name: personGroup.name })
          .from(personGroup)
          .where(eq(personGroup.id, row.groupId ?? ''))
      : await db()
          .select({ name: person.name, email: person.email, keeper: person.keeper })
          .from(person)
          .where(and(eq(person.id, row.personId), eq(person.active, true)));
  if (!who) return null;
  const theirs =
    row.personId === null
      ? await scopesOfGroup(row.groupId ?? '')
      : 'keeper' in who && who.keeper
        ? { scopes: await allScopes(), byOpening: new Set<string>() }
        : { scopes: await scopesOf(db(), row.personId, 'see'), byOpening: await openedTo(db(), row.personId) };
  // A manager who impersonates sees at most what they manage.
  const managed = looker.keeper ? null : await scopesOf(db(), looker.personId, 'manage');
  const scopes = new Map(
    [...theirs.scopes].filter(([id]) => managed?.has(id) ?? true).map(([id, set]) => [id, set & openingLets] as const),
  );
  return {
    personId: row.personId ?? row.groupId ?? '',
    name: who.name,
    email: 'email' in who && typeof who.email === 'string' ? who.email : '',
    keeper: false,
    seenBy: { personId: looker.personId, name: looker.name, scopes, byOpening: theirs.byOpening },
  };
}

/**
 * Everything a person manages now, limited to `lets`, for showing it to someone else; null if their account is gone.
 */
export async function sightOfManaged(
  personId: string,
  lets: CapabilitySet,
): Promise<ReadonlyMap<string, CapabilitySet> | null> {
  const [who] = await db()
    .select({ keeper: person.keeper })
    .from(person)
    .where(and(eq(person.id, personId), eq(person.active, true)));
  if (!who) return null;
  const scopes = who.keeper ? await allScopes() : await scopesOf(db(), personId, 'manage');
  return new Map([...scopes].map(([id, set]) => [id, set & lets]));
}

async function scopesOf(reader: Reader, personId: string, capability: Capability): Promise<Map<string, CapabilitySet>> {
  const rows = await reader
    .select({ id: scopeEntry.scopeId, set: scopeEntry.capabilities })
    .from(scopeEntry)
    .where(eq(scopeEntry.personId, personId));
  return new Map(rows.filter(({ set }) => has(set, capability)).map(({ id, set }) => [id, set]));
}

/** Scopes in which someone sees only through a cross-filing. */
async function openedTo(reader: Reader, personId: string): Promise<Set<string>> {
  const rows = await reader
    .select({ id: scopeEntry.scopeId })
    .from(scopeEntry)
    .where(and(eq(scopeEntry.personId, personId), scopeEntry.byOpening));
  return new Set(rows.map(({ id }) => id));
}

async function allScopes(): Promise<Map<string, CapabilitySet>> {
  const rows = await db().select({ id: scope.id }).from(scope);
  return new Map(rows.map(({ id }) => [id, openingLets]));
}

/** Access by scope of a person who is a member of one group and of nothing else. */
async function scopesOfGroup(groupId: string): Promise<Pick<SeenBy, 'scopes' | 'byOpening'>> {
  const member: Term = { groupId, member: { kind: 'person', id: groupId }, from: null, until: null };
  const groupIds = groupsOn([...(await termsOf(db())), member], await today(db())).get(groupId);
  const [root] = await db().select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  if (!root) return { scopes: new Map(), byOpening: new Set() };
  const { library } = await partBelow(db(), root.id);
  const alone = [{ personId: groupId, groupIds: groupIds ?? new Set<string>() }];
  const resolved = resolveLibrary(library, alone);
  const opened = byOpeningOnly(library, resolved, alone);
  const places = await db().select({ id: place.id, scopeId: place.scopeId }).from(place);
  const papers = await db()
    .select({ id: document.id, scopeId: document.scopeId })
    .from(document)
    .where(idIn(document.id, library.papers.length === 0 ? [root.id] : library.papers.map((each) => each.id)));
  const scopes = new Map<string, CapabilitySet>();
  const take = (scopeId: string | null, sight: Sight | undefined) => {
    const set = sight?.get(groupId);
    if (scopeId !== null && set !== undefined) scopes.set(scopeId, set);
  };
  for (const { id, scopeId } of places) take(scopeId, resolved.places.get(id));
  for (const { id, scopeId } of papers) take(scopeId, resolved.papers.get(id));
  const byOpening = new Set(
    papers.flatMap(({ id, scopeId }) => (scopeId !== null && opened.get(id)?.has(groupId) ? [scopeId] : [])),
  );
  return { scopes, byOpening };
}
