import { and, arrayContains, eq, ilike, or, sql } from 'drizzle-orm';
import type { SharedValue } from '@/core/columns/contract';
import { sameValue } from '@/core/columns/model';
import { refuse } from '@/core/errors/refusal';
import { searchKey } from '@/core/text/fold';
import { asks } from '../acts/operation';
import { colleagueIsKnown, paperAllows, paperMayBeAmended, placeIsKnown } from '../gate/visible';
import { db } from '../db/client';
import { escapeLike } from '../db/like';
import { idIn } from '../db/idIn';
import { document, person, place } from '../db/schema';
import { seenWithHomeIn, standName } from '../known/standing';
import { allColumns, toldValues } from './read';

/** The values of some papers by column: the one value all have, or that they differ. */
export const valuesOf = asks('papers.values', async (actor, input) => {
  const rows = await db()
    .select({
      id: document.id,
      shown: document.shownValues,
      fixed: place.fixedValues,
      homeName: place.name,
      lineage: place.lineage,
      amends: sql<boolean>`${paperMayBeAmended(actor)}`,
    })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(idIn(document.id, input.documentIds), paperAllows(actor, 'see')));
  if (rows.length === 0) refuse('not-found');
  const told = await toldValues(
    db(),
    actor,
    rows.map((row) => ({ values: row.shown })),
  );
  const shown = told.rows.map((row) => row.values);
  const columns = (await allColumns(db()))
    .filter((column) => !column.retired && rows.some((row) => row.lineage.includes(column.placeId)))
    .sort((a, b) => depthOf(a.placeId) - depthOf(b.placeId) || a.position - b.position);
  function depthOf(placeId: string): number {
    return Math.max(...rows.slice(0, 1).map((row) => row.lineage.indexOf(placeId)));
  }
  const values = columns.map((column): SharedValue => {
    const value = shown[0]?.[column.id] ?? null;
    const same = shown.every((values) => sameValue(values[column.id], value));
    const fixed = rows.filter((row) => column.id in row.fixed);
    return {
      columnId: column.id,
      state: same ? 'same' : 'several',
      value: same ? value : null,
      filled: rows.filter((row) => column.id in row.shown).length,
      fixed: fixed.length,
      fromName: null,
    };
  });
  return {
    papers: rows.length,
    values,
    columns,
    names: told.names,
    mayAmend: rows.every((row) => row.amends),
  };
});

/** Required columns that papers in a place or below lack, with those papers, at most 5,000 for each. */
export const missingValues = asks('values.missing', async (actor, { placeId }) => {
  const [found] = await db()
    .select({ lineage: place.lineage })
    .from(place)
    .where(and(eq(place.id, placeId), placeIsKnown(actor)));
  if (!found) refuse('not-found');
  const required = (await allColumns(db())).filter((column) => column.required && !column.retired);
  const missing = await Promise.all(
    required.map(async (column) => {
      const rows = await db()
        .select({ id: document.id })
        .from(document)
        .innerJoin(place, eq(place.id, document.homeId))
        .where(
          and(
            seenWithHomeIn(actor, placeId),
            arrayContains(place.lineage, [column.placeId]),
            sql`not ${document.shownValues} ? ${column.id}`,
          ),
        )
        .orderBy(document.filedAt, document.id)
        .limit(5000);
      return { columnId: column.id, name: column.name, papers: rows.length, documentIds: rows.map((row) => row.id) };
    }),
  );
  return missing.filter((each) => each.papers > 0);
});

/** People, dossiers or papers whose name contains some words, to choose a value from. */
export const valueChoices = asks('values.choices', async (actor, { kind, words }) => {
  const like = `%${escapeLike(searchKey(words))}%`;
  if (kind === 'person') {
    return db()
      .select({ id: person.id, name: person.name, about: person.email })
      .from(person)
      .where(and(eq(person.active, true), colleagueIsKnown(actor), sql`${person.searchKey} like ${like}`))
      .orderBy(person.name)
      .limit(20);
  }
  if (kind === 'dossier') {
    return db()
      .select({ id: place.id, name: place.name, about: sql<string>`coalesce(${place.reference}, '')` })
      .from(place)
      .where(
        and(
          eq(place.kind, 'dossier'),
          placeIsKnown(actor),
          or(sql`${place.searchKey} like ${like}`, ilike(place.reference, like)),
        ),
      )
      .orderBy(place.name)
      .limit(20);
  }
  return db()
    .select({ id: document.id, name: document.title, about: standName(actor) })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(paperAllows(actor, 'see'), sql`${document.searchKey} like ${like}`))
    .orderBy(document.title)
    .limit(20);
});
