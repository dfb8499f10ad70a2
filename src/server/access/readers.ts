import { and, eq, sql } from 'drizzle-orm';
import type { Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { person, scopeEntry } from '../db/schema';
import { waysInto } from '../scopes/scopes';

/** People with an account who may see a paper now, keepers included, in natural order of their names. */
export async function readersOf(
  reader: Reader,
  documentId: string,
): Promise<{ id: string; name: string; email: string }[]> {
  const { home, openings } = await waysInto(reader, documentId);
  const scopes = [...openings, ...(home === null ? [] : [home])];
  return reader
    .select({ id: person.id, name: person.name, email: person.email })
    .from(person)
    .where(
      and(
        eq(person.active, true),
        sql`(${person.keeper} or exists (
          select from ${scopeEntry} where ${idIn(scopeEntry.scopeId, scopes)} and ${scopeEntry.personId} = ${person.id}))`,
      ),
    )
    .orderBy(person.name);
}

/** Whether everybody who may see what is filed under a scope may see a paper too. */
export async function isOpenToAllOf(reader: Reader, documentId: string, scopeId: string): Promise<boolean> {
  const { home, openings } = await waysInto(reader, documentId);
  const scopes = [...openings, ...(home === null ? [] : [home])];
  const { rows } = await reader.execute(sql`
    select from ${scopeEntry} as entry join ${person} on ${person.id} = entry.person_id
    where entry.scope_id = ${scopeId}::uuid and not ${person.keeper} and not exists (
      select from ${scopeEntry} where ${idIn(scopeEntry.scopeId, scopes)} and ${scopeEntry.personId} = entry.person_id)
    limit 1`);
  return rows.length === 0;
}
