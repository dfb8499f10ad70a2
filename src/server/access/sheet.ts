import { and, arrayContains, eq, inArray, ne, sql } from 'drizzle-orm';
import addressparser from 'nodemailer/lib/addressparser';
import { allCapabilities, listOf } from '@/core/access/capability';
import type { SheetLine, SheetPerson, SubjectChoice } from '@/core/access/contract';
import { openingLets, subjectKey, type Grant } from '@/core/access/resolve';
import { emailSchema } from '@/core/people/contract';
import { searchKey } from '@/core/text/fold';
import { asks } from '../acts/operation';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { idIn } from '../db/idIn';
import { document, filing, membership, person, personGroup, place, scopeEntry } from '../db/schema';
import { standsIn } from '../known/standing';
import { fullName } from '../known/places';
import type { Actor } from '../gate/actor';
import { managed, stepsOn, type Managed } from './managed';
import { waysInto } from '../scopes/scopes';
import { paperAllows, placeIsKnown } from '../gate/visible';

/** The access of a place or paper: its own sheet, what it inherits, and the people who result. */
export const accessSheet = asks('access.sheet', async (actor, { on }) => {
  const found = await managed(db(), actor, on);
  const path = await stepsOn(db(), found.lineage);
  const above = on.kind === 'place' ? path.slice(0, -1) : path;
  const from = above.map((each) => each.step.follows).lastIndexOf(false);
  const speaking = above.slice(Math.max(from, 0));
  const parent = above.at(-1);
  const names = await subjectsOf([...speaking.map((each) => each.step), found.step].flatMap((step) => step.grants));
  const line = (grant: Grant, fromName: string | null): SheetLine => ({
    subject: grant.subject,
    ...(names.get(subjectKey(grant.subject)) ?? everyone),
    gives: listOf(grant.gives),
    withholds: listOf(grant.withholds),
    fromName,
  });
  return {
    name: found.name,
    parentName: parent && parent.kind !== 'library' ? parent.name : null,
    follows: found.step.follows,
    revision: found.revision,
    lines: [
      ...speaking.flatMap((each) => each.step.grants.map((grant) => line(grant, each.name))),
      ...found.step.grants.map((grant) => line(grant, null)),
    ],
    openings: on.kind === 'paper' ? await openingNames(actor, on.id) : [],
    people: await peopleWhoSee(found),
    ...(await extent(actor, found)),
  };
});

const everyone = { name: 'Everyone signed in', memberCount: null, outside: false };

/** Names of the subjects of some grants, by subject key. */
async function subjectsOf(grants: readonly Grant[]) {
  const people = grants.flatMap(({ subject }) => (subject.kind === 'person' ? [subject.id] : []));
  const groups = grants.flatMap(({ subject }) => (subject.kind === 'group' ? [subject.id] : []));
  const persons = await db()
    .select({ id: person.id, name: person.name, outside: person.outside })
    .from(person)
    .where(idIn(person.id, people));
  const sized = await db()
    .select({
      id: personGroup.id,
      name: personGroup.name,
      memberCount: sql<number>`count(${membership.personId})::int`,
    })
    .from(personGroup)
    .leftJoin(membership, eq(membership.groupId, personGroup.id))
    .where(idIn(personGroup.id, groups))
    .groupBy(personGroup.id);
  return new Map<string, Pick<SheetLine, 'name' | 'memberCount' | 'outside'>>([
    ...persons.map(({ id, ...row }) => [id, { ...row, memberCount: null }] as const),
    ...sized.map(({ id, ...row }) => [id, { ...row, outside: false }] as const),
  ]);
}

async function openingNames(actor: Actor, documentId: string): Promise<(string | null)[]> {
  const rows = await db()
    .select({ name: fullName, known: sql<boolean>`${placeIsKnown(actor)}` })
    .from(filing)
    .innerJoin(place, eq(place.id, filing.placeId))
    .where(and(eq(filing.documentId, documentId), eq(filing.kind, 'opening')))
    .orderBy(filing.madeAt);
  return rows.map(({ name, known }) => (known ? name : null));
}

async function peopleWhoSee({ on }: Managed): Promise<SheetPerson[]> {
  const [found] =
    on.kind === 'place' ? await db().select({ scopeId: place.scopeId }).from(place).where(eq(place.id, on.id)) : [];
  const { home, openings } =
    on.kind === 'paper' ? await waysInto(db(), on.id) : { home: found?.scopeId ?? null, openings: [] };
  const rows = await db()
    .select({
      id: person.id,
      name: person.name,
      keeper: person.keeper,
      outside: person.outside,
      set: sql<number>`coalesce(bit_or(case when ${scopeEntry.scopeId} = ${home}::uuid then ${scopeEntry.capabilities}
        else ${scopeEntry.capabilities} & ${openingLets}::smallint end), 0)::int`,
    })
    .from(person)
    .leftJoin(
      scopeEntry,
      and(
        eq(scopeEntry.personId, person.id),
        idIn(scopeEntry.scopeId, [...openings, ...(home === null ? [] : [home])]),
      ),
    )
    .where(and(eq(person.active, true), sql`(${person.keeper} or ${scopeEntry.scopeId} is not null)`))
    .groupBy(person.id)
    .orderBy(person.name);
  return rows.map((row) => (row.keeper ? { ...row, set: allCapabilities } : row));
}

/** How many places and papers a sheet concerns, as far as the caller may see them. */
async function extent(actor: Actor, { on }: Managed) {
  if (on.kind === 'paper') return { paperCount: 1, placesBelow: 0, aloneBelow: 0 };
  const inside = arrayContains(place.lineage, [on.id]);
  const [papers] = await db()
    .select({ count: sql<number>`count(*)::int` })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(standsIn(actor, inside), paperAllows(actor, 'see')));
  const [places] = await db()
    .select({
      below: sql<number>`count(*)::int`,
      alone: sql<number>`count(*) filter (where not ${place.follows})::int`,
    })
    .from(place)
    .where(and(inside, ne(place.id, on.id), placeIsKnown(actor)));
  return { paperCount: papers?.count ?? 0, placesBelow: places?.below ?? 0, aloneBelow: places?.alone ?? 0 };
}

/** People and groups whose name or address contains some words, as candidates for access. */
export const subjectChoices = asks('access.choices', async (actor, input) => {
  await managed(db(), actor, input.on);
  const like = `%${escapeLike(searchKey(input.words))}%`;
  const people = await db()
    .select({ id: person.id, name: person.name, email: person.email, outside: person.outside })
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
  return [
    ...groups.map((row): SubjectChoice => ({
      subject: { kind: 'group', id: row.id },
      name: row.name,
      outside: false,
      about: `group of ${row.members}`,
    })),
    ...people.map(personChoice),
    ...(searchKey(everyone.name).includes(searchKey(input.words))
      ? [
          {
            subject: { kind: 'everyone' } as const,
            name: everyone.name,
            outside: false,
            about: 'all who have an account',
          },
        ]
      : []),
  ];
});

const personChoice = (row: { id: string; name: string; email: string; outside: boolean }): SubjectChoice => ({
  subject: { kind: 'person', id: row.id },
  name: row.name,
  outside: row.outside,
  about: row.outside ? `${row.email} · outside the organisation` : row.email,
});

/**
 * Sorts a pasted list of addresses (RFC 5322, or one a line) into people with an account, unknown addresses, and text
 * that is no address. Each appears once, in the order pasted.
 */
export const sortAddresses = asks('access.addresses', async (actor, input) => {
  await managed(db(), actor, input.on);
  const listed = input.text
    .split(/[\r\n;]+/u)
    .flatMap((line) => addressparser(line, { flatten: true }))
    .filter((each) => each.address !== '' || each.name !== '');
  const read = listed.map(({ name, address }) => ({ name, address: emailSchema.safeParse(address || name) }));
  const wrong = read.flatMap((each, at) =>
    each.address.success ? [] : [listed[at]?.address || listed[at]?.name || ''],
  );
  const names = new Map<string, string>();
  for (const { name, address } of read)
    if (address.success && !names.has(address.data)) names.set(address.data, name === address.data ? '' : name);
  const people =
    names.size === 0
      ? []
      : await db()
          .select({ id: person.id, name: person.name, email: person.email, outside: person.outside })
          .from(person)
          .where(and(inArray(person.email, [...names.keys()]), eq(person.active, true)));
  const byAddress = new Map(people.map((row) => [row.email, row]));
  return {
    known: [...names.keys()].flatMap((address) => {
      const found = byAddress.get(address);
      return found ? [personChoice(found)] : [];
    }),
    unknown: [...names].filter(([address]) => !byAddress.has(address)).map(([address, name]) => ({ name, address })),
    wrong: [...new Set(wrong)],
  };
});
