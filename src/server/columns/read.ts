import { asc, eq, sql } from 'drizzle-orm';
import { Lexicon } from '@/core/columns/lexicon';
import {
  hiddenReference,
  isReferring,
  type Column,
  type ControlledList,
  type Term,
  type Value,
  type Values,
  type ColumnType,
} from '@/core/columns/model';
import type { Names } from '@/core/columns/format';
import type { NamedId, Vocabulary } from '@/core/columns/read';
import { has } from '@/core/access/capability';
import { refuse } from '@/core/errors/refusal';
import { nameKey, searchKey } from '@/core/text/fold';
import { namesOf } from '../known/names';
import { asks } from '../acts/operation';
import { seesAll, type Actor } from '../gate/actor';
import { capabilitiesIn } from '../gate/held';
import { paperAllows, placeIsKnown } from '../gate/visible';
import { db, type Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { columnDef, controlledList, document, person, place, term } from '../db/schema';

/** All columns of the library: a few dozen. */
export async function allColumns(reader: Reader): Promise<Column[]> {
  const rows = await reader.select().from(columnDef).orderBy(asc(columnDef.position), asc(columnDef.id));
  return rows.map(({ nameKey: _key, ...column }) => column);
}

/** All controlled lists with their terms. */
export async function allLists(reader: Reader): Promise<ControlledList[]> {
  const lists = await reader
    .select({ id: controlledList.id, name: controlledList.name, revision: controlledList.revision })
    .from(controlledList)
    .orderBy(controlledList.name);
  const terms = await reader.select().from(term).orderBy(asc(term.position), asc(term.id));
  const byList = new Map<string, Term[]>();
  for (const { nameKey: _key, ...each } of terms) {
    const there = byList.get(each.listId);
    if (there) there.push(each);
    else byList.set(each.listId, [each]);
  }
  return lists.map((list) => ({ ...list, terms: byList.get(list.id) ?? [] }));
}

/** Readers of typed terms, by the id of their list. */
export type Lexicons = ReadonlyMap<string, Lexicon>;
/** The readers of some lists. */
export const lexiconsOf = (lists: readonly ControlledList[]): Lexicons =>
  new Map(lists.map((list) => [list.id, new Lexicon(list.terms)]));

/** The columns in force at a place that the caller may know of, with their lists. */
export const columnsAt = asks('columns.at', async (actor, { placeId }) => {
  const [found] = await db()
    .select({ lineage: place.lineage, scopeId: place.scopeId })
    .from(place)
    .where(sql`${place.id} = ${placeId} and ${placeIsKnown(actor)}`);
  if (!found) refuse('not-found');
  const mayDefine = has(await capabilitiesIn(db(), actor, found.scopeId), 'manage');
  const steps = await db()
    .select({ id: place.id, name: place.name, kind: place.kind, scopeId: place.scopeId })
    .from(place)
    .where(idIn(place.id, found.lineage));
  const held = new Map(
    await Promise.all(steps.map(async (step) => [step.id, await capabilitiesIn(db(), actor, step.scopeId)] as const)),
  );
  const [columns, lists] = await Promise.all([allColumns(db()), allLists(db())]);
  const order = (column: Column) => found.lineage.indexOf(column.placeId);
  const inForce = columns
    .filter((column) => found.lineage.includes(column.placeId) && (!column.retired || mayDefine))
    .sort((a, b) => Number(a.retired) - Number(b.retired) || order(a) - order(b) || a.position - b.position)
    .map((column) => {
      const at = steps.find((step) => step.id === column.placeId);
      return {
        ...column,
        placeName: !at || at.kind === 'library' ? 'the whole library' : at.name,
        mayChange: has(held.get(column.placeId) ?? 0, 'manage'),
      };
    });
  const used = new Set(inForce.flatMap((column) => column.listId ?? []));
  return { columns: inForce, lists: mayDefine ? lists : lists.filter((list) => used.has(list.id)), mayDefine };
});

/** Names for ids in values (people, dossiers, papers), as far as the caller may know of them. */
export async function namesFor(
  reader: Reader,
  actor: Actor,
  columns: readonly Column[],
  values: Iterable<Readonly<Record<string, Value>>>,
): Promise<Record<string, string>> {
  const referring = columns.filter((column) => isReferring(column.type));
  if (referring.length === 0) return {};
  const wanted = { person: new Set<string>(), place: new Set<string>(), document: new Set<string>() };
  for (const each of values) {
    for (const column of referring) {
      const [value, kind] = [each[column.id], referredTo(column.type)];
      if (typeof value === 'string' && kind !== null) wanted[kind].add(value);
    }
  }
  return namesOf(reader, actor, wanted);
}

/** What the values of a type are ids of; null where they are no ids. */
export const referredTo = (type: ColumnType): 'person' | 'place' | 'document' | null =>
  type === 'dossier' ? 'place' : type === 'person' || type === 'document' ? type : null;

/**
 * Rows with their values as the caller may be told them, and names for the ids in them. A value that refers to a dossier
 * or paper which the caller may not know of is replaced by a marker that says only that there is a value.
 */
export async function toldValues<Row extends { readonly values: Values }>(
  reader: Reader,
  actor: Actor,
  rows: readonly Row[],
): Promise<{ readonly rows: Row[]; readonly names: Readonly<Record<string, string>> }> {
  if (rows.every((row) => Object.keys(row.values).length === 0)) return { rows: [...rows], names: {} };
  const columns = await allColumns(reader);
  const names = await namesFor(
    reader,
    actor,
    columns,
    rows.map((row) => row.values),
  );
  if (seesAll(actor)) return { rows: [...rows], names };
  const referring = columns.filter(({ type }) => type === 'dossier' || type === 'document');
  const isHidden = (value: Value | undefined) => typeof value === 'string' && names[value] === undefined;
  const told = rows.map((row) => {
    const hidden = referring.filter((column) => isHidden(row.values[column.id]));
    if (hidden.length === 0) return row;
    return { ...row, values: { ...row.values, ...Object.fromEntries(hidden.map(({ id }) => [id, hiddenReference])) } };
  });
  return { rows: told, names };
}

/** Names of terms and of other values, by id. */
export const asNames = (lexicons: Lexicons, named: Readonly<Record<string, string>>): Names => ({
  terms: (listId) => lexicons.get(listId),
  named: (id) => named[id],
});

/** The vocabulary for reading typed values: terms, and the people, dossiers and papers the caller may know of. */
export async function vocabularyFor(
  reader: Reader,
  actor: Actor,
  columns: readonly Column[],
  lexicons: Lexicons,
): Promise<Vocabulary> {
  const uses = (type: Column['type']) => columns.some((column) => column.type === type);
  const dossiers = uses('dossier')
    ? await reader
        .select({ id: place.id, name: place.name, about: place.reference })
        .from(place)
        .where(sql`${place.kind} = 'dossier' and ${placeIsKnown(actor)}`)
    : [];
  const documents = uses('document')
    ? await reader
        .select({ id: document.id, name: document.title, about: sql<string | null>`null::text` })
        .from(document)
        .where(paperAllows(actor, 'see'))
        .limit(200_000)
    : [];
  return {
    terms: (listId) => lexicons.get(listId),
    person: uses('person') ? await personFinder(reader) : finder([]),
    dossier: finder(dossiers),
    document: finder(documents),
  };
}

/** Finds active people by address, id or full name. */
export async function personFinder(reader: Reader): Promise<(words: string) => NamedId> {
  return finder(
    await reader
      .select({ id: person.id, name: person.name, about: person.email })
      .from(person)
      .where(eq(person.active, true)),
  );
}

/** Finds by exact id or second name (address, reference), then by full name. */
function finder(rows: readonly { id: string; name: string; about: string | null }[]): (words: string) => NamedId {
  const byAbout = new Map(
    rows.flatMap(({ id, about }) => [[id, id] as const, ...(about === null ? [] : [[nameKey(about), id] as const])]),
  );
  const byName = new Map<string, NamedId>();
  for (const row of rows) byName.set(searchKey(row.name), byName.has(searchKey(row.name)) ? 'several' : row.id);
  return (words) => {
    const last = words.trim().split('/').at(-1) ?? '';
    return byAbout.get(nameKey(words.trim())) ?? byAbout.get(nameKey(last)) ?? byName.get(searchKey(words)) ?? null;
  };
}
