import { and } from 'drizzle-orm';
import type { CellOutcome } from '@/core/columns/contract';
import { Lexicon, termKey } from '@/core/columns/lexicon';
import { hiddenReference, sameValue, type Column, type Term, type Value } from '@/core/columns/model';
import { checkValue, readText, type Vocabulary } from '@/core/columns/read';
import { acts } from '../acts/operation';
import type { JournalEvent } from '@/core/journal/events';
import { invalidField } from '@/core/errors/issue';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { bad, good, type Result } from '@/core/errors/result';
import { readName } from '@/core/text/name';
import { nameKey } from '@/core/text/fold';
import { type Done } from '../acts/act';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { paperAllows, paperMayBeAmended } from '../gate/visible';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, term } from '../db/schema';
import { allColumns, allLists, lexiconsOf, namesFor, vocabularyFor, type Lexicons } from './read';
import { changesOf, keepChanges, writeOwn, type OwnChange } from './write';

type Paper = Awaited<ReturnType<typeof papersFor>>[number];

/** The journal's entry of an act on values. */
export function valuesEntry(
  act: 'values.set' | 'values.undone',
  papers: readonly Paper[],
  columns: readonly string[],
  more: object = {},
): JournalEvent {
  return {
    act,
    subjects: [...papers.map((paper) => paper.id), ...new Set(papers.map((paper) => paper.homeId))],
    detail: { columns: columns.join(', '), count: papers, ...more },
  };
}

/** Writes the changes that the work found, with one journal entry under which they can be undone. */
export async function record<T>(
  tx: Tx,
  actor: Actor,
  papers: readonly Paper[],
  changes: readonly OwnChange[],
  columns: readonly Column[],
  result: (entryId: number | null) => T,
  act: 'values.set' | 'values.undone' = 'values.set',
): Promise<Done<T>> {
  if (changes.length === 0) return { entry: null, result: result(null) };
  await writeOwn(tx, actor, changes);
  const recordUnder = await keepChanges(tx, changes);
  const touched = new Set(changes.map((change) => change.documentId));
  const ids = new Set(changes.map((change) => change.columnId));
  const names = columns.filter((column) => ids.has(column.id)).map((column) => column.name);
  return {
    entry: valuesEntry(
      act,
      papers.filter((paper) => touched.has(paper.id)),
      names,
    ),
    recorded: async (entryId) => {
      await recordUnder(entryId);
      return result(entryId);
    },
  };
}

/** Sets columns of papers in one act: only the columns named, only where values differ, never where the home fixes them. */
export const setValues = acts('papers.setValues', [], async (tx, actor, input) => {
  const papers = await papersFor(tx, actor, input.documentIds, 'amend');
  const all = await allColumns(tx);
  const lexicons = lexiconsOf(await allLists(tx));
  const wanted = Object.entries(input.values).map(([columnId, value]) => {
    const column = all.find((each) => each.id === columnId);
    if (!column || column.retired) refuse('gone', 'One of the columns is no longer in use. Nothing was saved.');
    return { column, value: orRefuse(checkValue(column, value, { terms: (id) => lexicons.get(id) })) };
  });
  for (const { column, value } of wanted) if (value !== null) await mayBeNamed(tx, actor, column, value);
  if (input.was) {
    const [only] = papers;
    const stale = Object.entries(input.was).some(([columnId, was]) => !isStill(was, only?.shownValues[columnId]));
    if (stale) refuse('conflict');
  }
  const changes: OwnChange[] = [];
  let fixed = 0;
  for (const paper of papers) {
    for (const { column, value } of wanted) {
      if (!paper.lineage.includes(column.placeId)) continue;
      const before = paper.ownValues[column.id] ?? null;
      if (column.id in paper.fixedValues) fixed += 1;
      else if (!sameValue(before, value))
        changes.push({ documentId: paper.id, columnId: column.id, before, after: value });
    }
  }
  const changed = new Set(changes.map((change) => change.documentId)).size;
  return record(tx, actor, papers, changes, all, (entryId) => ({ changed, fixed, entryId }));
});

/** Whether a value is still what the person saw. A value hidden from them only has to be present. */
const isStill = (was: Value | null, now: Value | undefined): boolean =>
  sameValue(was, now) || (was === hiddenReference && typeof now === 'string');

/** Refuses a value that refers to a person, dossier or paper the caller may not know of. */
async function mayBeNamed(tx: Tx, actor: Actor, column: Column, value: Value): Promise<void> {
  const named = await namesFor(tx, actor, [column], [{ [column.id]: value }]);
  const referring = column.type === 'person' || column.type === 'dossier' || column.type === 'document';
  if (referring && named[String(value)] === undefined)
    refuse('not-found', 'What the value names is not here, or not open to you. Nothing was saved.');
}

/**
 * Sets cells from typed or pasted text in one act. Saves those that can be read and returns a reason for each other one;
 * leaves cells that someone else changed meanwhile.
 */
export const setCells = acts('papers.setCells', [], async (tx, actor, input) => {
  const ids = [...new Set(input.cells.map((cell) => cell.documentId))];
  const seen = await visibleOf(tx, actor, ids);
  const all = await allColumns(tx);
  const used = new Set(input.cells.map((cell) => cell.columnId));
  const columns = new Map(all.filter((column) => used.has(column.id)).map((column) => [column.id, column]));
  let lexicons = lexiconsOf(await allLists(tx));
  lexicons = await withNewTerms(tx, input.cells, columns, lexicons);
  const vocabulary = await vocabularyFor(tx, actor, [...columns.values()], lexicons);
  const changes = new Map<string, OwnChange>();
  const outcomes = input.cells.map((cell): CellOutcome => {
    const refused = (says: string): CellOutcome => ({ state: 'refused', says });
    const paper = seen.papers.get(cell.documentId);
    const column = columns.get(cell.columnId);
    if (!paper)
      return refused(
        seen.known.has(cell.documentId)
          ? 'You may see this paper, but not change it.'
          : 'This paper is not here, or not open to you.',
      );
    if (!column || column.retired || !paper.lineage.includes(column.placeId))
      return refused('This column is no longer in use here. What you typed was not saved.');
    if (column.id in paper.fixedValues)
      return refused('The place fixes this value. It is set on the place, not on the paper.');
    if (cell.was !== undefined && !isStill(cell.was, paper.shownValues[column.id]))
      return { state: 'changed', value: paper.shownValues[column.id] ?? null };
    const read = readCell(column, cell, vocabulary);
    if (!read.ok) return refused(read.issue.says);
    const value = read.value;
    const before = paper.ownValues[column.id] ?? null;
    if (!sameValue(before, value))
      changes.set(`${paper.id} ${column.id}`, { documentId: paper.id, columnId: column.id, before, after: value });
    return { state: 'saved', value };
  });
  const values = [...changes.values()].map((change) =>
    change.after === null ? {} : { [change.columnId]: change.after },
  );
  const names = await namesFor(tx, actor, [...columns.values()], values);
  return record(tx, actor, [...seen.papers.values()], [...changes.values()], all, (entryId) => ({
    entryId,
    outcomes,
    names,
  }));
});

/** Reads a cell that was typed, picked or filled down. */
function readCell(
  column: Column,
  cell: { text?: string | undefined; value?: Value | null | undefined },
  vocabulary: Vocabulary,
): Result<Value | null> {
  if (cell.value !== undefined) return checkValue(column, cell.value, vocabulary);
  const read = readText(column, cell.text ?? '', vocabulary);
  if (!read.ok) return read;
  if (read.value.kind === 'new-terms') return bad(invalidField('value', 'The new value could not be put on the list.'));
  return good(read.value.value);
}

/** Locks the papers, among these, that the caller may change; also returns the ids of those they may see. */
async function visibleOf(tx: Tx, actor: Actor, ids: readonly string[]) {
  const papers = new Map<string, Paper>();
  const known = new Set<string>();
  for (let from = 0; from < ids.length; from += 20_000) {
    const part = ids.slice(from, from + 20_000);
    const visible = await tx
      .select({ id: document.id, amends: paperMayBeAmended(actor) })
      .from(document)
      .where(and(idIn(document.id, part), paperAllows(actor, 'see')));
    for (const row of visible) known.add(row.id);
    const amendable = visible.filter((row) => row.amends).map((row) => row.id);
    if (amendable.length > 0)
      for (const paper of await papersFor(tx, actor, amendable, 'amend')) papers.set(paper.id, paper);
  }
  return { papers, known };
}

/** Adds words that an open list lacks, each once. */
async function withNewTerms(
  tx: Tx,
  cells: readonly { columnId: string; text?: string | undefined }[],
  columns: ReadonlyMap<string, Column>,
  lexicons: Lexicons,
): Promise<Lexicons> {
  const wanted = new Map<string, Map<string, string>>();
  const nothing = {
    terms: (id: string) => lexicons.get(id),
    person: () => null,
    dossier: () => null,
    document: () => null,
  };
  for (const cell of cells) {
    const column = columns.get(cell.columnId);
    if (!column?.open || column.listId === null || cell.text === undefined) continue;
    const read = readText(column, cell.text, nothing);
    if (!read.ok || read.value.kind !== 'new-terms') continue;
    const list = wanted.get(column.listId) ?? new Map<string, string>();
    for (const name of read.value.names) if (!list.has(termKey(name))) list.set(termKey(name), name);
    wanted.set(column.listId, list);
  }
  if (wanted.size === 0) return lexicons;
  const next = new Map(lexicons);
  for (const [listId, names] of wanted) {
    const there = lexicons.get(listId)?.terms ?? [];
    const made = await addTerms(tx, listId, [...names.values()], Math.max(0, ...there.map((each) => each.position)));
    next.set(listId, new Lexicon([...there, ...made]));
  }
  return next;
}

/** Adds terms at the end of a list. */
export async function addTerms(tx: Tx, listId: string, names: readonly string[], after: number): Promise<Term[]> {
  const read = names.flatMap((raw) => {
    const name = readName(raw);
    return name.ok ? [name.value] : [];
  });
  if (read.length === 0) return [];
  const made = await tx
    .insert(term)
    .values(
      read.map((name, index) => ({
        listId,
        name,
        nameKey: nameKey(name),
        otherNames: [],
        position: after + index + 1,
      })),
    )
    .returning();
  return made.map(({ nameKey: _key, ...each }) => each);
}

/**
 * Undoes an act on values: papers that still have what it wrote get their former values back, and papers changed since
 * stay as they are. This is itself an act, and can be undone.
 */
export const undoValues = acts('values.undo', [], async (tx, actor, { entryId }) => {
  const rows = await changesOf(tx, entryId);
  if (rows.length === 0) refuse('not-found');
  const { papers, known } = await visibleOf(tx, actor, [...new Set(rows.map((row) => row.documentId))]);
  if (known.size === 0) refuse('not-found');
  if (papers.size === 0) refuse('not-allowed');
  const changes: OwnChange[] = [];
  let left = 0;
  for (const row of rows) {
    const paper = papers.get(row.documentId);
    const current = paper?.ownValues[row.columnId] ?? null;
    if (!paper || !sameValue(current, row.after)) left += 1;
    else changes.push({ documentId: row.documentId, columnId: row.columnId, before: row.after, after: row.before });
  }
  const restored = new Set(changes.map((change) => change.documentId)).size;
  const all = await allColumns(tx);
  return record(
    tx,
    actor,
    [...papers.values()],
    changes,
    all,
    (id) => ({ restored, left, entryId: id }),
    'values.undone',
  );
});
