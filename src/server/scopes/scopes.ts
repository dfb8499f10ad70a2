import { and, arrayContains, eq, inArray, isNotNull, or, sql } from 'drizzle-orm';
import type { CapabilitySet } from '@/core/access/capability';
import {
  byOpeningOnly,
  nobody,
  resolveLibrary,
  type AccessLibrary,
  type AccessPaper,
  type Sight,
} from '@/core/access/library';
import { addsNothing, type Grant, type Grantee } from '@/core/access/resolve';
import type { Reader, Tx } from '../db/client';
import { accessGrant, document, filing, membership, person, place, scope, scopeEntry } from '../db/schema';
import { requireChanging } from '../db/transaction';

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
  return partOf(reader, [], await readPapers(reader, inArray(document.id, [...ids])));
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
    .where(and(eq(filing.kind, 'opening'), sql`${filing.documentId} = any(${sql.param(ids)}::uuid[])`));
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
    .where(sql`${owner} = any(${sql.param(ids)}::uuid[])`)
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
  const rows = await reader
    .select({ id: place.id, scopeId: place.scopeId })
    .from(place)
    .where(inArray(place.id, unique));
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
  const entries = await reader
    .select()
    .from(scopeEntry)
    .where(sql`${scopeEntry.scopeId} = any(${sql.param([...found.keys()])}::uuid[])`);
  for (const { scopeId, personId, capabilities, byOpening } of entries) {
    found.get(scopeId)?.sight.set(personId, capabilities);
    if (byOpening) found.get(scopeId)?.byOpening.add(personId);
  }
  return found;
}

/**
 * Recomputes and stores the access of a place and everything below it, from its sheets, by `core/access`. It is stored in
 * scopes: a place or paper with grants of its own, or that does not inherit, owns one; every other place shares its
 * parent's; every other paper has its home's, and those of the places whose readers an opening admits.
 *
 * Called in the transaction of every change to grants, memberships or the tree.
 */
export async function recomputeScopes(tx: Tx, rootId: string): Promise<void> {
  requireChanging(tx, 'access');
  const { library, known } = await partBelow(tx, rootId);
  await keep(tx, library, known);
}

/**
 * The same for single papers, after a change to their sheets, homes or openings. The caller has locked their rows, which
 * is enough: nothing else depends on them.
 */
export async function recomputePapers(tx: Tx, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  const { library, known } = await partOfPapers(tx, ids);
  await keep(tx, library, known);
}

async function keep(tx: Tx, library: AccessLibrary, known: ReadonlyMap<string, Sight>): Promise<void> {
  const people = await grantees(tx);
  const resolved = resolveLibrary(library, people, known);
  const opened = byOpeningOnly(library, resolved, people, known);
  const placeIds = library.places.map((each) => each.id);
  const paperIds = library.papers.map((each) => each.id);
  const parents = library.places.flatMap((each) => each.parentId ?? []);
  const scopeOf = new Map(
    (
      await tx
        .select({ id: place.id, scopeId: place.scopeId })
        .from(place)
        .where(sql`${place.id} = any(${sql.param([...placeIds, ...parents])}::uuid[])`)
    ).map((row) => [row.id, row.scopeId]),
  );
  const before = new Map(scopeOf);
  const owned = await tx
    .select()
    .from(scope)
    .where(
      or(
        sql`${scope.placeId} = any(${sql.param(placeIds)}::uuid[])`,
        sql`${scope.documentId} = any(${sql.param(paperIds)}::uuid[])`,
      ),
    );
  const scopeOwnedBy = new Map(owned.map((row) => [row.placeId ?? row.documentId ?? '', row.id]));
  const made: (typeof scope.$inferInsert & { id: string })[] = [];
  const sights = new Map<string, Stored>();
  const own = (owner: { placeId: string } | { documentId: string }, id: string, sight: Sight): string => {
    let scopeId = scopeOwnedBy.get(id);
    if (scopeId === undefined) {
      scopeId = crypto.randomUUID();
      made.push({ id: scopeId, ...owner });
    }
    sights.set(scopeId, { sight, byOpening: opened.get(id) ?? noOne });
    return scopeId;
  };
  for (const { id, parentId, step } of library.places) {
    const shares = addsNothing(step) && parentId !== null;
    scopeOf.set(id, shares ? (scopeOf.get(parentId) ?? null) : own({ placeId: id }, id, sightAt(resolved.places, id)));
  }
  const paperScopes = library.papers.flatMap(({ id, step }) =>
    addsNothing(step) ? [] : [{ id, scopeId: own({ documentId: id }, id, sightAt(resolved.papers, id)) }],
  );
  if (made.length > 0) await tx.insert(scope).values(made);
  await storeSights(tx, sights);
  await pointTo(
    tx,
    'place',
    placeIds.flatMap((id) => {
      const scopeId = scopeOf.get(id) ?? null;
      return scopeId === before.get(id) ? [] : [{ id, scopeId }];
    }),
  );
  const standing = new Set(paperScopes.map((each) => each.id));
  await pointTo(tx, 'document', [
    ...paperScopes,
    ...paperIds.filter((id) => !standing.has(id)).map((id) => ({ id, scopeId: null })),
  ]);
  const left = owned.map((row) => row.id).filter((id) => !sights.has(id));
  if (left.length > 0) await tx.delete(scope).where(inArray(scope.id, left));
}

function sightAt(sights: ReadonlyMap<string, Sight>, id: string): Sight {
  const sight = sights.get(id);
  if (!sight) throw new Error(`The access of ${id} was not worked out`);
  return sight;
}

/** Sets the scope of places or papers where it differs. */
async function pointTo(
  tx: Tx,
  table: 'place' | 'document',
  rows: readonly { readonly id: string; readonly scopeId: string | null }[],
): Promise<void> {
  if (rows.length === 0) return;
  await tx.execute(sql`
    update ${sql.raw(table)} as pointing set scope_id = given.scope_id
    from unnest(${sql.param(rows.map((row) => row.id))}::uuid[], ${sql.param(rows.map((row) => row.scopeId))}::uuid[])
      as given (id, scope_id)
    where pointing.id = given.id and pointing.scope_id is distinct from given.scope_id`);
}

/** Capabilities by person in a scope, and the people who have them only through an opening. */
export interface Stored {
  readonly sight: Sight;
  readonly byOpening: ReadonlySet<string>;
}
const noOne: ReadonlySet<string> = new Set();

/** Stores computed access of scopes, writing only the rows that differ. */
async function storeSights(tx: Tx, sights: ReadonlyMap<string, Stored>): Promise<void> {
  const stored = await storedScopes(tx, [...sights.keys()]);
  const gone: [string, string][] = [];
  const put: [string, string, CapabilitySet, boolean][] = [];
  for (const [scopeId, { sight, byOpening }] of sights) {
    const before = stored.get(scopeId);
    for (const personId of before?.sight.keys() ?? []) if (!sight.has(personId)) gone.push([scopeId, personId]);
    for (const [personId, set] of sight)
      if (before?.sight.get(personId) !== set || before.byOpening.has(personId) !== byOpening.has(personId))
        put.push([scopeId, personId, set, byOpening.has(personId)]);
  }
  if (gone.length > 0)
    await tx.execute(sql`
      delete from ${scopeEntry} using unnest(${sql.param(gone.map(([id]) => id))}::uuid[],
        ${sql.param(gone.map(([, id]) => id))}::uuid[]) as gone (scope_id, person_id)
      where ${scopeEntry.scopeId} = gone.scope_id and ${scopeEntry.personId} = gone.person_id`);
  if (put.length > 0)
    await tx.execute(sql`
      insert into scope_entry (scope_id, person_id, capabilities, by_opening)
      select * from unnest(${sql.param(put.map(([id]) => id))}::uuid[], ${sql.param(put.map(([, id]) => id))}::uuid[],
        ${sql.param(put.map(([, , set]) => set))}::smallint[], ${sql.param(put.map(([, , , only]) => only))}::boolean[])
      on conflict (person_id, scope_id) do update
        set capabilities = excluded.capabilities, by_opening = excluded.by_opening`);
}

/** The scopes that give access to a paper: its own, or its home's and those of its openings. */
export interface Ways {
  readonly home: string | null;
  /** Openings give at most seeing and taking copies. */
  readonly openings: readonly string[];
}

/** Every way by which people come to a paper: its home, and each cross-filing. */
export async function waysInto(reader: Reader, documentId: string): Promise<Ways> {
  const [found] = await reader
    .select({ own: document.scopeId, home: place.scopeId })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(eq(document.id, documentId));
  if (found?.own) return { home: found.own, openings: [] };
  const opened = await reader
    .selectDistinct({ scopeId: place.scopeId })
    .from(filing)
    .innerJoin(place, eq(place.id, filing.placeId))
    .where(and(eq(filing.documentId, documentId), eq(filing.kind, 'opening'), isNotNull(place.scopeId)));
  return { home: found?.home ?? null, openings: opened.flatMap((row) => row.scopeId ?? []) };
}

/** Names of the people who may see in some scopes, keepers included, in natural order. */
export async function namesIn(reader: Reader, scopeIds: readonly (string | null)[]): Promise<string[]> {
  const rows = await reader
    .select({ name: person.name })
    .from(person)
    .where(
      sql`${person.active} and (${person.keeper} or exists (
        select from ${scopeEntry} where ${scopeEntry.scopeId} = any(${sql.param(scopeIds.filter((id) => id !== null))}::uuid[])
          and ${scopeEntry.personId} = ${person.id}))`,
    )
    .orderBy(person.name);
  return rows.map((row) => row.name);
}

/** Recomputes the whole library. */
export async function recomputeAllScopes(tx: Tx): Promise<void> {
  const [root] = await tx.select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  if (root) await recomputeScopes(tx, root.id);
}
