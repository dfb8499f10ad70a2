import { eq, max, sql } from 'drizzle-orm';
import { Lexicon } from '@/core/columns/lexicon';
import type { ControlledList, Term } from '@/core/columns/model';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { readSkos, type PlainTerm } from '@/core/columns/skos';
import { readTermTable } from '@/core/columns/termTable';
import { readName } from '@/core/text/name';
import { nameKey } from '@/core/text/fold';
import { reorder } from '../db/order';
import { acts, asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { paperAllows, placeIsKnown } from '../gate/visible';
import { db, type Tx } from '../db/client';
import { controlledList, document, place, term } from '../db/schema';
import { isActing } from '../db/transaction';
import { allColumns, allLists } from './read';

/** Refuses whoever is no keeper. */
export function keepersOnly(actor: Actor): void {
  if (!actor.keeper) refuse('not-allowed', 'Controlled lists are kept by the keepers. Ask one of them.');
}

/** All lists, with the number of papers the caller may see for each value, and the columns that use each list. */
export const listsWithUses = asks('lists.all', async (actor) => {
  const [lists, columns, known] = await Promise.all([
    allLists(db()),
    allColumns(db()),
    db().select({ id: place.id }).from(place).where(placeIsKnown(actor)),
  ]);
  const places = new Set(known.map((row) => row.id));
  return Promise.all(
    lists.map(async (list) => {
      const mine = columns.filter((column) => column.listId === list.id);
      const uses: Record<string, number> = {};
      for (const column of mine) {
        const counts = await db().execute<{ term: string; papers: number }>(sql`
          select used.term, count(*)::int as papers
          from ${document},
               lateral (select case jsonb_typeof(${document.shownValues} -> ${column.id}) when 'array'
                          then ${document.shownValues} -> ${column.id}
                          else jsonb_build_array(${document.shownValues} -> ${column.id}) end as terms) as held,
               lateral jsonb_array_elements_text(held.terms) as used (term)
          where ${document.shownValues} ? ${column.id} and ${paperAllows(actor, 'see')}
          group by used.term`);
        for (const row of counts.rows) uses[row.term] = (uses[row.term] ?? 0) + row.papers;
      }
      return {
        ...list,
        uses,
        columns: mine.filter((column) => places.has(column.placeId)).map((column) => column.name),
      };
    }),
  );
});

async function listFor(tx: Tx, listId: string): Promise<ControlledList> {
  // Locked, so that concurrent additions get distinct positions and names.
  const held = tx.select({ id: controlledList.id }).from(controlledList).where(eq(controlledList.id, listId));
  await (isActing() ? held.for('update') : held);
  return (await allLists(tx)).find((list) => list.id === listId) ?? refuse('not-found');
}

/** A term with its list, which an act locks. */
export async function termFor(tx: Tx, termId: string): Promise<{ list: ControlledList; found: Term }> {
  const [row] = await tx.select({ listId: term.listId }).from(term).where(eq(term.id, termId));
  if (!row) refuse('not-found');
  const list = await listFor(tx, row.listId);
  const found = list.terms.find((each) => each.id === termId);
  return found ? { list, found } : refuse('not-found');
}

/** Makes a controlled list. */
export const createList = acts('list.create', [], async (tx, actor, input) => {
  keepersOnly(actor);
  const [made] = await tx
    .insert(controlledList)
    .values({ name: input.name, nameKey: nameKey(input.name) })
    .returning({ id: controlledList.id });
  if (!made) throw new Error('The list was not made');
  const names = new Map(input.terms.map((name) => [nameKey(name), name]));
  if (names.size > 0)
    await tx.insert(term).values(
      [...names].map(([key, name], index) => ({
        listId: made.id,
        name,
        nameKey: key,
        otherNames: [],
        position: index + 1,
      })),
    );
  return { entry: { act: 'list.created', subjects: [made.id], detail: { name: input.name } }, result: made };
});

/** Renames a controlled list. */
export const renameList = acts('list.rename', [], async (tx, actor, input) => {
  keepersOnly(actor);
  const list = await listFor(tx, input.listId);
  if (list.revision !== input.revision) refuse('conflict');
  await tx
    .update(controlledList)
    .set({ name: input.name, nameKey: nameKey(input.name), revision: input.revision + 1 })
    .where(eq(controlledList.id, list.id));
  return {
    entry: { act: 'list.renamed', subjects: [list.id], detail: { from: list.name, to: input.name } },
    result: null,
  };
});

/** Refuses a name, or other name, that already belongs to another term of the list. */
function freeOf(list: ControlledList, names: readonly string[], but: string | null): void {
  const lexicon = new Lexicon(list.terms.filter((each) => each.id !== but));
  for (const name of names) {
    const taken = lexicon.idOf(name);
    if (taken !== null) refuse('name-taken', `“${name}” leads to “${lexicon.wayTo(taken)}” already.`);
  }
}

/** Puts a term at the end of a list. */
export const addTerm = acts('term.add', [], async (tx, actor, input) => {
  const list = await listFor(tx, input.listId);
  if (!actor.keeper) {
    // People who may change papers can add top-level terms to an open list.
    const open = (await allColumns(tx)).some((column) => column.listId === list.id && column.open && !column.retired);
    const [amends] = await tx.select({ id: document.id }).from(document).where(paperAllows(actor, 'amend')).limit(1);
    if (!open || !amends || input.parentId !== null) keepersOnly(actor);
  }
  freeOf(list, [input.name], null);
  if (input.parentId !== null && !list.terms.some((each) => each.id === input.parentId)) refuse('not-found');
  const [last] = await tx
    .select({ position: max(term.position) })
    .from(term)
    .where(eq(term.listId, list.id));
  const [made] = await tx
    .insert(term)
    .values({
      listId: list.id,
      parentId: input.parentId,
      name: input.name,
      nameKey: nameKey(input.name),
      otherNames: [],
      position: (last?.position ?? 0) + 1,
    })
    .returning({ id: term.id });
  if (!made) throw new Error('The value was not made');
  return {
    entry: { act: 'term.added', subjects: [list.id], detail: { name: input.name, list: list.name } },
    result: made,
  };
});

/** Changes a term's name, other names and level. Papers that have the term keep it. */
export const changeTerm = acts('term.change', [], async (tx, actor, input) => {
  keepersOnly(actor);
  const { list, found } = await termFor(tx, input.termId);
  const others = [...new Map(input.otherNames.map((name) => [nameKey(name), name])).values()].filter(
    (name) => nameKey(name) !== nameKey(input.name),
  );
  freeOf(list, [...(nameKey(input.name) === nameKey(found.name) ? [] : [input.name]), ...others], found.id);
  if (input.parentId !== null) {
    const lexicon = new Lexicon(list.terms);
    if (!lexicon.term(input.parentId)) refuse('not-found');
    if (lexicon.ancestry(input.parentId).includes(found.id))
      refuse('into-itself', 'A value cannot stand under itself. Nothing was changed.');
  }
  await tx
    .update(term)
    .set({ name: input.name, nameKey: nameKey(input.name), otherNames: others, parentId: input.parentId })
    .where(eq(term.id, found.id));
  const detail = { from: found.name, name: input.name, list: list.name };
  return { entry: { act: 'term.changed', subjects: [list.id], detail }, result: null };
});

/** Retires a term, or restores it. */
export const retireTerm = acts('term.retire', [], async (tx, actor, input) => {
  keepersOnly(actor);
  const { list, found } = await termFor(tx, input.termId);
  await tx.update(term).set({ retired: input.retired }).where(eq(term.id, found.id));
  const act = input.retired ? ('term.retired' as const) : ('term.restored' as const);
  return { entry: { act, subjects: [list.id], detail: { name: found.name, list: list.name } }, result: null };
});

/** Moves a term before another of its list. */
export const reorderTerm = acts('term.reorder', [], async (tx, actor, input) => {
  keepersOnly(actor);
  const { list, found } = await termFor(tx, input.termId);
  const siblings = list.terms.filter((each) => each.parentId === found.parentId).map((each) => each.id);
  await reorder(tx, term, siblings, found.id, input.beforeId);
  return { entry: { act: 'term.reordered', subjects: [list.id], detail: { list: list.name } }, result: null };
});

/** A list's terms for export. */
export const plainTerms = (list: ControlledList): PlainTerm[] => {
  const lexicon = new Lexicon(list.terms);
  return lexicon.inOrder().map(({ term: each }) => ({
    way: lexicon
      .ancestry(each.id)
      .reverse()
      .flatMap((id) => lexicon.term(id)?.name ?? []),
    otherNames: each.otherNames,
    retired: each.retired,
  }));
};

/** A controlled list with its terms. */
export async function listOf(_actor: Actor, listId: string): Promise<ControlledList> {
  return (await allLists(db())).find((list) => list.id === listId) ?? refuse('not-found');
}

/** Imports terms from CSV or SKOS: adds new ones, and new other names to existing ones; removes none. */
export const importList = acts('list.import', [], async (tx, actor, input) => {
  keepersOnly(actor);
  const list = await listFor(tx, input.listId);
  const coming = orRefuse(input.form === 'csv' ? readTermTable(input.text) : readSkos(input.text));
  let terms = [...list.terms];
  let added = 0;
  let changed = 0;
  for (const { way, otherNames, retired } of coming) {
    let parentId: string | null = null;
    for (const [depth, raw] of way.entries()) {
      const name = orRefuse(readName(raw, `the value “${raw}”`));
      const there: Term | undefined = terms.find(
        (each) => each.parentId === parentId && nameKey(each.name) === nameKey(name),
      );
      const last = depth === way.length - 1;
      if (!there) {
        const position = Math.max(0, ...terms.map((each) => each.position)) + 1;
        const values: typeof term.$inferInsert = {
          listId: list.id,
          parentId,
          name,
          nameKey: nameKey(name),
          otherNames: last ? [...otherNames] : [],
          position,
          retired: last && retired,
        };
        const [made]: Term[] = await tx.insert(term).values(values).returning();
        if (!made) throw new Error('The value was not made');
        terms = [...terms, made];
        added += 1;
        parentId = made.id;
      } else {
        parentId = there.id;
        const joined = [
          ...new Map([...there.otherNames, ...(last ? otherNames : [])].map((each) => [nameKey(each), each])).values(),
        ];
        if (joined.length > there.otherNames.length || (last && retired !== there.retired)) {
          await tx
            .update(term)
            .set({ otherNames: joined, ...(last ? { retired } : {}) })
            .where(eq(term.id, there.id));
          terms = terms.map((each) => (each.id === there.id ? { ...each, otherNames: joined } : each));
          changed += 1;
        }
      }
    }
  }
  if (added + changed === 0) return { entry: null, result: { added, changed } };
  return {
    entry: { act: 'list.imported', subjects: [list.id], detail: { name: list.name, added, changed } },
    result: { added, changed },
  };
});
