import { and, eq, sql } from 'drizzle-orm';
import { Lexicon } from '@/core/columns/lexicon';
import type { ControlledList, Value } from '@/core/columns/model';
import { asChoices } from '@/core/columns/read';
import { refuse } from '@/core/errors/refusal';
import { nameKey } from '@/core/text/fold';
import { acts, asks } from '../acts/operation';
import { type Tx } from '../db/client';
import { columnDef, document, givenValue, retentionRule, reviewRule, term } from '../db/schema';
import { snapshot } from '../db/transaction';
import { recomputeGiven } from './given';
import { allColumns } from './read';
import { writeOwn, type OwnChange } from './write';
import { termFor, keepersOnly } from './lists';

/** The two terms of a merge; refuses terms of different lists, a term with itself, or with one below it. */
async function mergeable(tx: Tx, termId: string, intoId: string) {
  const { list, found } = await termFor(tx, termId);
  const into = list.terms.find((each) => each.id === intoId);
  if (!into) refuse('not-found');
  if (into.id === found.id) refuse('into-itself', 'A value cannot be merged into itself. Nothing was changed.');
  if (new Lexicon(list.terms).ancestry(into.id).includes(found.id))
    refuse(
      'into-itself',
      `“${into.name}” stands under “${found.name}”; a value cannot be merged into one below it. Nothing was changed.`,
    );
  return { list, found, into };
}

/** Papers whose own values contain a term, by column. */
async function bearers(tx: Tx, list: ControlledList, termId: string) {
  const columns = (await allColumns(tx)).filter((column) => column.listId === list.id);
  const rows = [];
  for (const column of columns) {
    const found = await tx
      .select({ id: document.id, own: document.ownValues })
      .from(document)
      .where(sql`${document.ownValues} -> ${column.id} @> ${JSON.stringify(termId)}::jsonb`);
    rows.push(...found.map((row) => ({ ...row, column })));
  }
  const given =
    columns.length === 0
      ? []
      : await tx
          .select()
          .from(givenValue)
          .where(sql`${givenValue.value} @> ${JSON.stringify(termId)}::jsonb`);
  return { rows, given, columns };
}

/** What merging two terms would change. */
export const forecastMerge = asks('term.mergeForecast', async (actor, input) => {
  return snapshot(async (tx) => {
    keepersOnly(actor);
    const { list, found } = await mergeable(tx, input.termId, input.intoId);
    const { rows, given } = await bearers(tx, list, found.id);
    return { papers: new Set(rows.map((row) => row.id)).size, places: given.length };
  });
});

/** Merges one term into another: papers and places follow, and its names become other names of the term that stays. */
export const mergeTerm = acts('term.merge', ['given'], async (tx, actor, input) => {
  keepersOnly(actor);
  const { list, found, into } = await mergeable(tx, input.termId, input.intoId);
  const { rows, given, columns } = await bearers(tx, list, found.id);
  const lexicon = new Lexicon(list.terms);
  const follow = (value: Value): Value | null =>
    Array.isArray(value)
      ? asChoices(
          value.map((id: string) => (id === found.id ? into.id : id)),
          lexicon,
        )
      : into.id;
  const changes = rows.map(({ id, own, column }): OwnChange => {
    const before = own[column.id] ?? null;
    return { documentId: id, columnId: column.id, before, after: before === null ? null : follow(before) };
  });
  for (const row of given) {
    if (row.value === null) continue;
    await tx
      .update(givenValue)
      .set({ value: follow(row.value) })
      .where(and(eq(givenValue.placeId, row.placeId), eq(givenValue.columnId, row.columnId)));
  }
  for (const column of columns) {
    if (column.defaultValue === null || !JSON.stringify(column.defaultValue).includes(found.id)) continue;
    await tx
      .update(columnDef)
      .set({ defaultValue: follow(column.defaultValue) })
      .where(eq(columnDef.id, column.id));
  }
  const others = [
    ...new Map([...into.otherNames, found.name, ...found.otherNames].map((name) => [nameKey(name), name])).values(),
  ];
  await tx
    .update(term)
    .set({ parentId: into.id })
    .where(and(eq(term.listId, list.id), eq(term.parentId, found.id)));
  await rulesFollow(tx, found.id, into.id);
  await tx.delete(term).where(eq(term.id, found.id));
  await tx
    .update(term)
    .set({ otherNames: others.filter((name) => nameKey(name) !== nameKey(into.name)) })
    .where(eq(term.id, into.id));
  // Undoing values cannot bring a removed term back, so these changes are not stored for undoing.
  await writeOwn(tx, actor, changes);
  for (const placeId of new Set(given.map((row) => row.placeId))) await recomputeGiven(tx, placeId);
  const papers = new Set(rows.map((row) => row.id));
  return {
    entry: {
      act: 'term.merged',
      subjects: [list.id, ...papers],
      detail: { name: found.name, into: into.name, list: list.name, papers: papers.size },
    },
    result: { papers: papers.size },
  };
});

/** What places say of papers with a term, they say of papers with the other; where they say something of both, that of the other stays. */
async function rulesFollow(tx: Tx, from: string, to: string): Promise<void> {
  for (const table of [reviewRule, retentionRule])
    await tx.execute(sql`
      update ${table} as moving set term_id = ${to}
      where moving.term_id = ${from} and not exists (
        select from ${table} as there
        where there.term_id = ${to} and there.place_id = moving.place_id and there.column_id = moving.column_id)`);
}
