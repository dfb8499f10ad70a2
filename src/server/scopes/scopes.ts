import { and, eq, isNotNull, or, sql } from 'drizzle-orm';
import type { CapabilitySet } from '@/core/access/capability';
import { byOpeningOnly, resolveLibrary, type AccessLibrary, type Sight } from '@/core/access/library';
import { addsNothing } from '@/core/access/resolve';
import type { Reader, Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, filing, person, place, scope, scopeEntry } from '../db/schema';
import { requireChanging } from '../db/transaction';
import { grantees, partBelow, partOfPapers, storedScopes, type Stored } from './parts';
import { noOne } from './parts';

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
        .where(idIn(place.id, [...placeIds, ...parents]))
    ).map((row) => [row.id, row.scopeId]),
  );
  const before = new Map(scopeOf);
  const owned = await tx
    .select()
    .from(scope)
    .where(or(idIn(scope.placeId, placeIds), idIn(scope.documentId, paperIds)));
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
  if (left.length > 0) await tx.delete(scope).where(idIn(scope.id, left));
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
        select from ${scopeEntry} where ${idIn(
          scopeEntry.scopeId,
          scopeIds.filter((id) => id !== null),
        )}
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
