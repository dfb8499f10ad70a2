import { and, arrayContains, eq, inArray, sql } from 'drizzle-orm';
import { noCapabilities, type CapabilitySet } from '@/core/access/capability';
import { resolveStep, type Grant, type Standing } from '@/core/access/resolve';
import type { Reader, Tx } from '../db/client';
import { accessGrant, membership, person, place, scope, scopeEntry } from '../db/schema';

/** Everyone who can have access, with their groups, as `core/access` takes them. */
export async function standings(reader: Reader): Promise<Standing[]> {
  const people = await reader.select({ id: person.id }).from(person).where(eq(person.active, true));
  const members = await reader.select().from(membership);
  const groups = new Map<string, Set<string>>();
  for (const { personId, groupId } of members) {
    const mine = groups.get(personId) ?? new Set<string>();
    groups.set(personId, mine.add(groupId));
  }
  return people.map(({ id }) => ({ personId: id, groupIds: groups.get(id) ?? new Set<string>() }));
}

type GrantRow = typeof accessGrant.$inferSelect;

export function asGrant(row: GrantRow): Grant {
  const { gives, withholds } = row;
  if (row.personId !== null) return { subject: { kind: 'person', id: row.personId }, gives, withholds };
  if (row.groupId !== null) return { subject: { kind: 'group', id: row.groupId }, gives, withholds };
  return { subject: { kind: 'everyone' }, gives, withholds };
}

/**
 * Works the stored scopes out again for a place and everything below it: `core/access` decides, the tables
 * keep its answer. A place with grants of its own, or one that stands alone, owns a scope; every other place has
 * its parent's. Papers are not touched: they have their home's.
 *
 * Run inside the transaction of any change to grants, memberships or the tree.
 */
export async function recomputeScopes(tx: Tx, rootId: string): Promise<void> {
  // One at a time: two changes side by side could each keep what the other has just changed.
  await tx.execute(sql`select pg_advisory_xact_lock(7301002)`);
  const places = await tx
    .select({ id: place.id, parentId: place.parentId, scopeId: place.scopeId, follows: place.follows })
    .from(place)
    .where(arrayContains(place.lineage, [rootId]))
    .orderBy(sql`array_length(${place.lineage}, 1)`);
  const grants = new Map<string, Grant[]>();
  const belowRoot = tx
    .select({ id: place.id })
    .from(place)
    .where(arrayContains(place.lineage, [rootId]));
  for (const row of await tx.select().from(accessGrant).where(inArray(accessGrant.placeId, belowRoot))) {
    grants.set(row.placeId, [...(grants.get(row.placeId) ?? []), asGrant(row)]);
  }
  const owned = new Map(
    (await tx.select().from(scope).where(inArray(scope.placeId, belowRoot))).map((row) => [row.placeId, row.id]),
  );
  const people = await standings(tx);
  const [root] = places;
  if (!root) return;

  const scopeOf = new Map<string, string | null>();
  const setOf = new Map<string, ReadonlyMap<string, CapabilitySet>>();
  if (root.parentId !== null) {
    const [parent] = await tx.select({ scopeId: place.scopeId }).from(place).where(eq(place.id, root.parentId));
    scopeOf.set(root.parentId, parent?.scopeId ?? null);
    setOf.set(root.parentId, await storedSet(tx, parent?.scopeId ?? null));
  }
  const nobody: ReadonlyMap<string, CapabilitySet> = new Map();
  const changed = new Map<string, string[]>();
  for (const each of places) {
    const above = (each.parentId === null ? undefined : setOf.get(each.parentId)) ?? nobody;
    const own = grants.get(each.id) ?? [];
    let scopeId = each.parentId === null ? null : (scopeOf.get(each.parentId) ?? null);
    let set = above;
    if (own.length > 0 || !each.follows || each.parentId === null) {
      scopeId = owned.get(each.id) ?? null;
      if (scopeId === null) {
        const [made] = await tx.insert(scope).values({ placeId: each.id }).returning({ id: scope.id });
        scopeId = made?.id ?? null;
      }
      owned.delete(each.id);
      const step = { follows: each.follows, grants: own };
      set = new Map(
        people
          .map((who) => [who.personId, resolveStep(above.get(who.personId) ?? noCapabilities, step, who)] as const)
          .filter(([, capabilities]) => capabilities !== noCapabilities),
      );
      if (scopeId !== null) await storeSet(tx, scopeId, set);
    }
    scopeOf.set(each.id, scopeId);
    setOf.set(each.id, set);
    if (scopeId !== null && scopeId !== each.scopeId) changed.set(scopeId, [...(changed.get(scopeId) ?? []), each.id]);
  }
  for (const [scopeId, ids] of changed) {
    await tx.update(place).set({ scopeId }).where(inArray(place.id, ids));
  }
  if (owned.size > 0) await tx.delete(scope).where(inArray(scope.id, [...owned.values()]));
}

/** What each person may do in a scope, as stored; keepers have an entry only where something is granted to them. */
export async function storedSet(tx: Reader, scopeId: string | null): Promise<ReadonlyMap<string, CapabilitySet>> {
  if (scopeId === null) return new Map();
  const entries = await tx.select().from(scopeEntry).where(eq(scopeEntry.scopeId, scopeId));
  return new Map(entries.map((entry) => [entry.personId, entry.capabilities]));
}

async function storeSet(tx: Tx, scopeId: string, set: ReadonlyMap<string, CapabilitySet>): Promise<void> {
  await tx.delete(scopeEntry).where(eq(scopeEntry.scopeId, scopeId));
  const rows = [...set].map(([personId, capabilities]) => ({ scopeId, personId, capabilities }));
  if (rows.length > 0) await tx.insert(scopeEntry).values(rows);
}

/** Who may see in a scope, keepers among them: names in natural order. */
export async function namesIn(reader: Reader, scopeId: string | null): Promise<string[]> {
  const entries =
    scopeId === null
      ? sql`false`
      : sql`exists (
    select from ${scopeEntry} where ${scopeEntry.scopeId} = ${scopeId} and ${scopeEntry.personId} = ${person.id})`;
  const rows = await reader
    .select({ name: person.name })
    .from(person)
    .where(sql`${person.active} and (${person.keeper} or ${entries})`)
    .orderBy(person.name);
  return rows.map((row) => row.name);
}

/** Names of people in natural order, keepers left out: they gain and lose nothing. */
export async function namesOfPeople(reader: Reader, ids: readonly string[]): Promise<string[]> {
  if (ids.length === 0) return [];
  const rows = await reader
    .select({ name: person.name })
    .from(person)
    .where(and(inArray(person.id, [...ids]), eq(person.active, true), eq(person.keeper, false)))
    .orderBy(person.name);
  return rows.map((row) => row.name);
}

/** Everything below the library, from its own place. */
export async function recomputeAllScopes(tx: Tx): Promise<void> {
  const [root] = await tx.select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  if (root) await recomputeScopes(tx, root.id);
}
