import { and, arrayContains, asc, eq, inArray, ne, sql } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import type { AccessSheet, SheetLine, SubjectChoice } from '@/core/access/contract';
import { listOf, noCapabilities, setOf } from '@/core/access/capability';
import { resolveStep, type Grant } from '@/core/access/resolve';
import { refuse } from '@/core/errors/refusal';
import { searchKey } from '@/core/text/fold';
import { perform } from '../act';
import { db, type Reader, type Tx } from '../db/client';
import { escapeLike } from '../db/like';
import { accessGrant, document, membership, person, personGroup, place } from '../db/schema';
import type { Actor } from './actor';
import { capabilitiesIn, placeFor } from './held';
import { asGrant, namesIn, namesOfPeople, recomputeScopes, standings, storedSet } from './scopes';

type GivenGrants = ReadInputOf<'access.set'>['grants'];

/** A place whose access the actor may see and change: needs `manage`. The library itself is the keepers' alone. */
async function managed(reader: Reader, actor: Actor, placeId: string) {
  return placeFor(reader, actor, placeId, 'manage');
}

/** Who may open a place: what is granted here, what comes from above, and the people that makes. */
export async function accessSheet(actor: Actor, { placeId }: { placeId: string }): Promise<AccessSheet> {
  const found = await managed(db(), actor, placeId);
  const above = await db()
    .select({
      id: place.id,
      name: place.name,
      kind: place.kind,
      follows: place.follows,
      depth: sql<number>`array_length(lineage, 1)`,
    })
    .from(place)
    .where(inArray(place.id, found.lineage))
    .orderBy(asc(sql`array_length(lineage, 1)`));
  const grants = await db()
    .select({ grant: accessGrant, personName: person.name, groupName: personGroup.name })
    .from(accessGrant)
    .leftJoin(person, eq(person.id, accessGrant.personId))
    .leftJoin(personGroup, eq(personGroup.id, accessGrant.groupId))
    .where(inArray(accessGrant.placeId, found.lineage));
  const sizes = await db()
    .select({ groupId: membership.groupId, members: sql<number>`count(*)::int` })
    .from(membership)
    .groupBy(membership.groupId);
  const lines = above.flatMap((step): SheetLine[] =>
    grants
      .filter(({ grant }) => grant.placeId === step.id)
      .map(({ grant, personName, groupName }) => ({
        subject: asGrant(grant).subject,
        name: personName ?? groupName ?? 'Everyone signed in',
        memberCount: sizes.find((each) => each.groupId === grant.groupId)?.members ?? null,
        capabilities: listOf(grant.gives),
        fromName: step.id === found.id ? null : step.name,
      })),
  );
  const keepers = await db()
    .select({ name: person.name })
    .from(person)
    .where(and(eq(person.keeper, true), eq(person.active, true)))
    .orderBy(person.name);
  const [papers] = await db()
    .select({ count: sql<number>`count(*)::int` })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(arrayContains(place.lineage, [found.id]), sql`${document.disposedAt} is null`));
  const parent = above.find((step) => step.id === found.parentId);
  return {
    placeName: found.name,
    parentName: parent && parent.kind !== 'library' ? parent.name : null,
    revision: found.accessRevision,
    lines,
    keepers: keepers.map((row) => row.name),
    openTo: await namesIn(db(), found.scopeId),
    paperCount: papers?.count ?? 0,
  };
}

/** People and groups whose name or address holds some words, as someone to give access to. */
export async function subjectChoices(actor: Actor, input: ReadInputOf<'access.choices'>): Promise<SubjectChoice[]> {
  await managed(db(), actor, input.placeId);
  const like = `%${escapeLike(searchKey(input.words))}%`;
  const people = await db()
    .select({ id: person.id, name: person.name, email: person.email })
    .from(person)
    .where(and(eq(person.active, true), eq(person.keeper, false), sql`${person.searchKey} like ${like}`))
    .orderBy(person.name)
    .limit(12);
  const groups = await db()
    .select({ id: personGroup.id, name: personGroup.name, members: sql<number>`count(${membership.personId})::int` })
    .from(personGroup)
    .leftJoin(membership, eq(membership.groupId, personGroup.id))
    .where(sql`${personGroup.nameKey} like ${`%${escapeLike(input.words.trim().toLowerCase())}%`}`)
    .groupBy(personGroup.id)
    .orderBy(personGroup.name)
    .limit(12);
  const everyone: SubjectChoice = {
    subject: { kind: 'everyone' },
    name: 'Everyone signed in',
    about: 'all who have an account',
  };
  return [
    ...groups.map((row): SubjectChoice => ({
      subject: { kind: 'group', id: row.id },
      name: row.name,
      about: `group of ${row.members}`,
    })),
    ...people.map((row): SubjectChoice => ({
      subject: { kind: 'person', id: row.id },
      name: row.name,
      about: row.email,
    })),
    ...(searchKey('everyone signed in').includes(searchKey(input.words)) ? [everyone] : []),
  ];
}

const asGiven = (given: GivenGrants): Grant[] =>
  given
    .map(({ subject, capabilities }) => ({ subject, gives: setOf(capabilities), withholds: noCapabilities }))
    .filter((grant) => grant.gives !== noCapabilities);

/** Who would gain and lose sight of a place, were its own grants these. */
export async function forecastAccess(actor: Actor, input: ReadInputOf<'access.forecast'>) {
  return db().transaction(async (tx) => {
    const found = await managed(tx, actor, input.placeId);
    const before = await storedSet(tx, found.scopeId);
    const after = await seeingAfter(tx, found, asGiven(input.grants));
    return {
      gaining: await namesOfPeople(
        tx,
        [...after].filter((id) => !before.has(id)),
      ),
      losing: await namesOfPeople(
        tx,
        [...before.keys()].filter((id) => !after.has(id)),
      ),
    };
  });
}

async function seeingAfter(
  tx: Tx,
  found: { id: string; parentId: string | null },
  grants: Grant[],
): Promise<Set<string>> {
  const [own] = await tx.select({ follows: place.follows }).from(place).where(eq(place.id, found.id));
  const [parent] =
    found.parentId === null
      ? []
      : await tx.select({ scopeId: place.scopeId }).from(place).where(eq(place.id, found.parentId));
  const above = await storedSet(tx, parent?.scopeId ?? null);
  const step = { follows: own?.follows ?? true, grants };
  const people = await standings(tx);
  return new Set(
    people
      .filter((who) => resolveStep(above.get(who.personId) ?? noCapabilities, step, who) !== noCapabilities)
      .map((who) => who.personId),
  );
}

/** Makes a place's own grants these and no others, under the revision of its sheet that the person saw. */
export async function setAccess(actor: Actor, input: ReadInputOf<'access.set'>): Promise<null> {
  return perform(actor, async (tx) => {
    const found = await managed(tx, actor, input.placeId);
    const changed = await tx
      .update(place)
      .set({ accessRevision: input.revision + 1 })
      .where(and(eq(place.id, found.id), eq(place.accessRevision, input.revision), ne(place.kind, 'library')))
      .returning({ id: place.id });
    if (changed.length === 0) refuse('conflict');
    const grants = asGiven(input.grants);
    const keys = grants.map(({ subject }) => (subject.kind === 'everyone' ? subject.kind : subject.id));
    if (new Set(keys).size < keys.length) refuse('invalid', 'Someone stands twice on the sheet.');
    await knownSubjects(tx, grants);
    await tx.delete(accessGrant).where(eq(accessGrant.placeId, found.id));
    if (grants.length > 0) {
      await tx.insert(accessGrant).values(
        grants.map(({ subject, gives }) => ({
          placeId: found.id,
          personId: subject.kind === 'person' ? subject.id : null,
          groupId: subject.kind === 'group' ? subject.id : null,
          everyone: subject.kind === 'everyone',
          gives,
        })),
      );
    }
    await recomputeScopes(tx, found.id);
    await keepsOwnWayIn(tx, actor, found.id);
    const detail = {
      name: found.name,
      grants: grants
        .map(({ subject, gives }) => `${subject.kind === 'everyone' ? 'everyone' : subject.id}=${gives}`)
        .sort()
        .join(' '),
    };
    return { entry: { act: 'access.changed', subjects: [found.id], detail }, result: null };
  });
}

async function knownSubjects(tx: Tx, grants: readonly Grant[]): Promise<void> {
  const people = grants.flatMap(({ subject }) => (subject.kind === 'person' ? [subject.id] : []));
  const groups = grants.flatMap(({ subject }) => (subject.kind === 'group' ? [subject.id] : []));
  const foundPeople =
    people.length === 0 ? [] : await tx.select({ id: person.id }).from(person).where(inArray(person.id, people));
  const foundGroups =
    groups.length === 0
      ? []
      : await tx.select({ id: personGroup.id }).from(personGroup).where(inArray(personGroup.id, groups));
  if (foundPeople.length < people.length || foundGroups.length < groups.length)
    refuse('not-found', 'Someone on the sheet is no longer here. Nothing was saved.');
}

/** A manager who would shut themselves out is told so; a keeper always gets in. */
async function keepsOwnWayIn(tx: Tx, actor: Actor, placeId: string): Promise<void> {
  const [after] = await tx.select({ scopeId: place.scopeId }).from(place).where(eq(place.id, placeId));
  const held = await capabilitiesIn(tx, actor, after?.scopeId ?? null);
  if ((held & setOf(['manage'])) !== setOf(['manage'])) {
    refuse(
      'not-allowed',
      'You would lose your own way in here. Nothing was saved; leave yourself or your group as manager.',
    );
  }
}
