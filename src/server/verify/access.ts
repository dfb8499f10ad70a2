import { sql } from 'drizzle-orm';
import { byOpeningOnly, nobody, resolveLibrary } from '@/core/access/library';
import { addsNothing } from '@/core/access/resolve';
import { groupsOn } from '@/core/people/belonging';
import { partBelow, storedScopes } from '../scopes/parts';
import type { Reader } from '../db/client';
import { document, library, membership, person, place, scope } from '../db/schema';
import { termsOf } from '../scopes/memberships';
import type { Difference } from './difference';
import { rootOf } from './root';

/** Compares memberships and scopes with the terms and access sheets. */
export async function accessDifferences(reader: Reader): Promise<Difference[]> {
  const { pairs, differences } = await membershipDifferences(reader);
  const people = await reader.select({ id: person.id, active: person.active }).from(person);
  const grantees = people
    .filter((each) => each.active)
    .map(({ id }) => ({ personId: id, groupIds: pairs.get(id) ?? new Set<string>() }));
  const part = await partBelow(reader, await rootOf(reader));
  const resolved = resolveLibrary(part.library, grantees);
  const opened = byOpeningOnly(part.library, resolved, grantees);
  const scopeIds = new Map(
    [
      ...(await reader.select({ id: place.id, scopeId: place.scopeId }).from(place)),
      ...(await reader.select({ id: document.id, scopeId: document.scopeId }).from(document)),
    ].map((row) => [row.id, row.scopeId]),
  );
  const owners = new Map((await reader.select().from(scope)).map((row) => [row.id, row.placeId ?? row.documentId]));
  const stored = await storedScopes(reader, [...owners.keys()]);
  const tell = (about: string, says: string) => differences.push({ of: 'access', about, says });
  const owned = new Set<string>();
  const compare = (id: string, sight: ReadonlyMap<string, number>, byOpening: ReadonlySet<string>) => {
    const scopeId = scopeIds.get(id) ?? null;
    if (scopeId === null || owners.get(scopeId) !== id)
      return tell(id, 'speaks for itself and has no scope of its own');
    owned.add(scopeId);
    const there = stored.get(scopeId);
    for (const personId of new Set([...sight.keys(), ...(there?.sight.keys() ?? [])])) {
      const [is, should] = [there?.sight.get(personId) ?? 0, sight.get(personId) ?? 0];
      if (is !== should) tell(id, `lets ${personId} do ${is} and should let them do ${should}`);
      else if (there?.byOpening.has(personId) !== byOpening.has(personId))
        tell(id, `is open to ${personId} by another way than is stored`);
    }
  };
  for (const { id, parentId, step } of part.library.places) {
    if (!addsNothing(step) || parentId === null) compare(id, resolved.places.get(id) ?? nobody, new Set());
    else if (scopeIds.get(id) !== scopeIds.get(parentId)) tell(id, 'has another scope than the place it stands in');
  }
  const apart = new Set<string>();
  for (const { id, step } of part.library.papers) {
    if (addsNothing(step)) continue;
    apart.add(id);
    compare(id, resolved.papers.get(id) ?? nobody, opened.get(id) ?? new Set());
  }
  const rows = await reader
    .select({ id: document.id })
    .from(document)
    .where(sql`${document.scopeId} is not null`);
  for (const { id } of rows) if (!apart.has(id)) tell(id, 'has a scope of its own and says nothing');
  for (const id of owners.keys()) if (!owned.has(id)) tell(id, 'is a scope that nothing speaks for');
  return differences;
}

async function membershipDifferences(reader: Reader) {
  const differences: Difference[] = [];
  const [settings] = await reader.select({ day: library.membershipDay }).from(library);
  const stored = await reader.select().from(membership);
  const keyOf = (row: { personId: string; groupId: string }) => `${row.personId} in ${row.groupId}`;
  const is = new Set(stored.map(keyOf));
  const day = settings?.day ?? null;
  // Never computed yet: nothing to compare.
  const pairs = day === null ? new Map<string, ReadonlySet<string>>() : groupsOn(await termsOf(reader), day);
  const should = new Set(
    [...pairs].flatMap(([personId, ids]) => [...ids].map((groupId) => keyOf({ personId, groupId }))),
  );
  for (const each of is)
    if (!should.has(each)) differences.push({ of: 'memberships', about: each, says: 'is too many' });
  for (const each of should)
    if (!is.has(each)) differences.push({ of: 'memberships', about: each, says: 'is missing' });
  return { pairs, differences };
}
