import { and, arrayContains, eq, inArray, sql } from 'drizzle-orm';
import type { CapabilitySet } from '@/core/access/capability';
import { nobody, type AccessLibrary, type AccessPaper, type Sight } from '@/core/access/library';
import { type Grant, type Grantee } from '@/core/access/resolve';
import type { Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { accessGrant, document, filing, membership, person, place, scopeEntry } from '../db/schema';

/** Everyone who can have access, with their groups, in the form `core/access` takes. */
export async function grantees(reader: Reader): Promise<Grantee[]> {
  const people = await reader.select({ id: person.id }).from(person).where(eq(person.active, true));
  const members = await reader.select().from(membership);
  const groups = new Map<string, Set<string>>();
  for (const { personId, groupId } of members) {
    const mine = groups.get(personId) ?? new Set<string>();
    groups.set(personId, mine.add(groupId));
  }
  return people.map(({ id }) => ({ personId: id, groupIds: groups.get(id) ?? new Set<string>() }));
}

type GrantRow = Pick<typeof accessGrant.$inferSelect, 'personId' | 'groupId' | 'gives' | 'withholds'>;

/** A stored line of a sheet as core knows it. */
export function asGrant(row: GrantRow): Grant {
  const { gives, withholds } = row;
  if (row.personId !== null) return { subject: { kind: 'person', id: row.personId }, gives, withholds };
  if (row.groupId !== null) return { subject: { kind: 'group', id: row.groupId }, gives, withholds };
  return { subject: { kind: 'everyone' }, gives, withholds };
}

/** A part of the library in the form `core/access` takes, with the stored access of the places around it. */
export interface LibraryPart {
  readonly library: AccessLibrary;
  readonly known: ReadonlyMap<string, Sight>;
}

interface StoredPlace {
  readonly id: string;
  readonly parentId: string | null;
  readonly follows: boolean;
  readonly scopeId: string | null;
}

const placeFields = { id: place.id, parentId: place.parentId, follows: place.follows, scopeId: place.scopeId };

/** A place and everything below it, with the papers there that have access of their own. */
export async function partBelow(reader: Reader, rootId: string): Promise<LibraryPart> {
  const inside = arrayContains(place.lineage, [rootId]);
  const places = await reader
    .select(placeFields)
    .from(place)
    .where(inside)
    .orderBy(sql`array_length(${place.lineage}, 1)`, place.position, place.name);
  const below = reader.select({ id: place.id }).from(place).where(inside);
  const opened = reader.select({ id: filing.documentId }).from(filing).where(inArray(filing.placeId, below));
  return partOf(
    reader,
    places,
    await readPapers(
      reader,
      sql`(${inArray(document.homeId, below)} or ${inArray(document.id, opened)}) and (
      not ${document.follows} or ${document.scopeId} is not null or ${document.locked}
      or exists (select from ${accessGrant} where ${accessGrant.documentId} = ${document.id})
      or exists (select from ${filing} where ${filing.documentId} = ${document.id} and ${filing.kind} = 'opening'))`,
    ),
  );
}

/** Some papers, whether or not they have access of their own. */
export async function partOfPapers(reader: Reader, ids: readonly string[]): Promise<LibraryPart> {
  return partOf(reader, [], await readPapers(reader, idIn(document.id, ids)));
}

async function partOf(
  reader: Reader,
  places: readonly StoredPlace[],
  papers: readonly AccessPaper[],
): Promise<LibraryPart> {
  const grants = await grantsOf(
    reader,
    accessGrant.placeId,
    places.map((each) => each.id),
  );
  const listed = new Set(places.map((each) => each.id));
  const around = [
    ...places.flatMap((each) => each.parentId ?? []),
    ...papers.flatMap((each) => [each.homeId, ...each.openings]),
  ].filter((id) => !listed.has(id));
  return {
    library: {
      places: places.map(({ id, parentId, follows }) => ({
        id,
        parentId,
        step: { follows, grants: grants.get(id) ?? [] },
      })),
      papers,
    },
    known: await sightsAt(reader, around),
  };
}

async function readPapers(reader: Reader, which: ReturnType<typeof sql>): Promise<AccessPaper[]> {
  const rows = await reader
    .select({ id: document.id, homeId: document.homeId, follows: document.follows })
    .from(document)
    .where(which)
    .orderBy(document.id);
  const ids = rows.map((row) => row.id);
  const grants = await grantsOf(reader, accessGrant.documentId, ids);
  const opened = await reader
    .select({ documentId: filing.documentId, placeId: filing.placeId })
    .from(filing)
    .where(and(eq(filing.kind, 'opening'), idIn(filing.documentId, ids)));
  const openings = new Map<string, string[]>();
  for (const { documentId, placeId } of opened)
    openings.set(documentId, [...(openings.get(documentId) ?? []), placeId]);
  return rows.map(({ id, homeId, follows }) => ({
    id,
    homeId,
    step: { follows, grants: grants.get(id) ?? [] },
    openings: openings.get(id) ?? [],
  }));
}

async function grantsOf(
  reader: Reader,
  owner: typeof accessGrant.placeId | typeof accessGrant.documentId,
  ids: readonly string[],
): Promise<ReadonlyMap<string, Grant[]>> {
  const rows = await reader
    .select({
      owner,
      personId: accessGrant.personId,
      groupId: accessGrant.groupId,
      gives: accessGrant.gives,
      withholds: accessGrant.withholds,
    })
    .from(accessGrant)
    .where(idIn(owner, ids))
    .orderBy(accessGrant.id);
  const grants = new Map<string, Grant[]>();
  for (const row of rows)
    if (row.owner !== null) grants.set(row.owner, [...(grants.get(row.owner) ?? []), asGrant(row)]);
  return grants;
}

/** The stored access of some places. */
export async function sightsAt(reader: Reader, placeIds: readonly string[]): Promise<ReadonlyMap<string, Sight>> {
  const unique = [...new Set(placeIds)];
  if (unique.length === 0) return new Map();
  const rows = await reader.select({ id: place.id, scopeId: place.scopeId }).from(place).where(idIn(place.id, unique));
  const sights = await storedScopes(
    reader,
    rows.flatMap((row) => row.scopeId ?? []),
  );
  return new Map(rows.map(({ id, scopeId }) => [id, sights.get(scopeId ?? '')?.sight ?? nobody]));
}

/** The stored access in some scopes, by person; keepers have an entry only if something is granted to them. */
export async function storedScopes(reader: Reader, scopeIds: readonly string[]): Promise<ReadonlyMap<string, Stored>> {
  const found = new Map(
    scopeIds.map((id) => [id, { sight: new Map<string, CapabilitySet>(), byOpening: new Set<string>() }]),
  );
  const entries = await reader.select().from(scopeEntry).where(idIn(scopeEntry.scopeId, found.keys()));
  for (const { scopeId, personId, capabilities, byOpening } of entries) {
    found.get(scopeId)?.sight.set(personId, capabilities);
    if (byOpening) found.get(scopeId)?.byOpening.add(personId);
  }
  return found;
}

/** Capabilities by person in a scope, and the people who have them only through an opening. */
export interface Stored {
  readonly sight: Sight;
  readonly byOpening: ReadonlySet<string>;
}

/** Nobody. */
export const noOne: ReadonlySet<string> = new Set();
