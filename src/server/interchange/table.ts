import ExcelJS from 'exceljs';
import { and, eq, sql } from 'drizzle-orm';
import type { Column } from '@/core/columns/model';
import { refuse } from '@/core/errors/refusal';
import { planTable, tableOf, type TablePaper, type TablePlan } from '@/core/columns/table';
import { counted } from '@/core/text/measure';
import { actsInSteps, asks } from '../acts/operation';
import { perform } from '../acts/act';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { paperMayBeAmended, placeIsKnown } from '../gate/visible';
import { bytesFile, inFolder } from '../cage/file';
import { CagedFault } from '../cage/limits';
import { readCaged } from '../cage/reader';
import { db, type Reader } from '../db/client';
import { leftOutInWords, onlyCopiable } from '../documents/content';
import { idIn } from '../db/idIn';
import { document, place } from '../db/schema';
import { seenWithHomeIn } from '../known/standing';
import { knownPlace } from '../places/open';
import { allColumns, allLists, asNames, lexiconsOf, namesFor, vocabularyFor } from '../columns/read';
import { record } from '../columns/setValues';
import type { OwnChange } from '../columns/write';

/** The most papers in one table. */
const mostPapers = 50_000;

/** The papers in a place and below it (or some of them) in the form a table takes, and the columns in force at any of their homes. */
async function tablePapers(reader: Reader, actor: Actor, placeId: string, only?: readonly string[]) {
  const [at] = await reader
    .select({ id: place.id, name: place.name, lineage: place.lineage })
    .from(place)
    .where(and(eq(place.id, placeId), placeIsKnown(actor)));
  if (!at) refuse('not-found');
  const rows = await reader
    .select({
      id: document.id,
      title: document.title,
      shown: document.shownValues,
      fixed: place.fixedValues,
      mayAmend: sql<boolean>`${paperMayBeAmended(actor)}`,
      lineage: place.lineage,
    })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(seenWithHomeIn(actor, placeId), only ? idIn(document.id, only) : sql`true`))
    .orderBy(place.lineage, document.title, document.id)
    .limit(mostPapers + 1);
  if (rows.length > mostPapers)
    refuse('too-large', `More than ${counted(mostPapers, 'paper')} lie here. Choose a place further down.`);
  const names = new Map(
    (await reader.select({ id: place.id, name: place.name }).from(place).where(placeIsKnown(actor))).map((row) => [
      row.id,
      row.name,
    ]),
  );
  const papers = rows.map(({ lineage, ...row }): TablePaper => ({
    ...row,
    path: [...lineage.slice(1).map((id) => names.get(id) ?? ''), row.title].join(' / '),
  }));
  const columns = (await allColumns(reader)).filter(
    (column) =>
      !column.retired &&
      (at.lineage.includes(column.placeId) || rows.some((row) => row.lineage.includes(column.placeId))),
  );
  return { at, papers, columns };
}

/** How the values of papers are worded: lists, and the names that the caller may know. */
export async function wording(reader: Reader, actor: Actor, columns: readonly Column[], papers: readonly TablePaper[]) {
  const lexicons = lexiconsOf(await allLists(reader));
  const named = await namesFor(
    reader,
    actor,
    columns,
    papers.map((paper) => paper.shown),
  );
  return { lexicons, names: asNames(lexicons, named) };
}

/** The values of papers as rows of cells, headings first. `columnIds` selects columns; empty means all. */
export async function valuesTable(
  actor: Actor,
  placeId: string,
  only: readonly string[] | undefined,
  columnIds: readonly string[],
): Promise<{ name: string; rows: string[][] }> {
  const { at, papers: seen, columns } = await tablePapers(db(), actor, placeId, only);
  const { papers, leftOut } = await onlyCopiable(actor, seen);
  const chosen = columnIds.length === 0 ? columns : columns.filter((column) => columnIds.includes(column.id));
  const { names } = await wording(db(), actor, chosen, papers);
  return { name: `${at.name}, values${leftOutInWords(leftOut)}`, rows: tableOf(papers, chosen, names) };
}

/** Rows as an Excel workbook with one sheet. Every cell is text, so that no formula runs. */
export async function asWorkbook(rows: readonly (readonly string[])[]): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet('Values', { views: [{ state: 'frozen', ySplit: 1 }] });
  for (const row of rows) sheet.addRow([...row]).eachCell((cell) => (cell.numFmt = '@'));
  sheet.getRow(1).font = { bold: true };
  sheet.columns.forEach((column) => (column.width = 24));
  return Buffer.from(await book.xlsx.writeBuffer());
}

/** The cells of an uploaded table: CSV in any usual encoding, or the first sheet of a workbook. */
async function cellsOf(form: 'csv' | 'xlsx', content: string): Promise<string[][]> {
  const bytes = Buffer.from(content, 'base64');
  const rows = await inFolder(async (folder) => readCaged('table', await bytesFile(folder, bytes), { form })).catch(
    (error: unknown) => {
      if (!(error instanceof CagedFault)) throw error;
      return refuse('too-large', `The table cannot be read here: ${whyNot[error.why]}. Bring it in in parts.`);
    },
  );
  return rows ?? refuse('invalid', 'The workbook cannot be read. Save it again as .xlsx or as CSV.');
}

const whyNot: Readonly<Record<CagedFault['why'], string>> = {
  tooSlow: 'it takes too long',
  tooLarge: 'its first sheet has more rows, columns or text than fit in one table',
  brokeOff: 'it takes more memory than there is for it',
};

async function plan(
  reader: Reader,
  actor: Actor,
  placeId: string,
  rows: readonly (readonly string[])[],
): Promise<TablePlan & { columns: Column[] }> {
  const { papers, columns } = await tablePapers(reader, actor, placeId);
  const { lexicons, names } = await wording(reader, actor, columns, papers);
  const vocabulary = await vocabularyFor(reader, actor, columns, lexicons);
  return { ...planTable(rows, papers, columns, names, vocabulary), columns };
}

/** What importing a table would change, cell by cell, and every error by line and column. */
export const previewTable = asks('table.preview', async (actor, input) => {
  await knownPlace(actor, input.placeId);
  const rows = await cellsOf(input.form, input.content);
  const { columns: _columns, ...shown } = await plan(db(), actor, input.placeId, rows);
  return shown;
});

/** Imports a table in one act: all of it or, on request, only the valid cells. */
export const applyTable = actsInSteps('table.apply', async (actor, input) => {
  // Checked before the table is read, and outside the transaction, so that nothing is locked meanwhile.
  await knownPlace(actor, input.placeId);
  const rows = await cellsOf(input.form, input.content);
  return perform(actor, async (tx) => {
    const planned = await plan(tx, actor, input.placeId, rows);
    if (planned.errors.length > 0 && !input.onlyGood)
      refuse(
        'invalid',
        `${counted(planned.errors.length, 'cell')} cannot be read. Nothing was saved; correct them, or bring in the good ones alone.`,
      );
    const ids = [...new Set(planned.changes.map((change) => change.documentId))];
    const papers = ids.length === 0 ? [] : await papersFor(tx, actor, ids, 'amend');
    const own = new Map(papers.map((paper) => [paper.id, paper.ownValues]));
    const changes = planned.changes.map((change): OwnChange => ({
      documentId: change.documentId,
      columnId: change.columnId,
      before: own.get(change.documentId)?.[change.columnId] ?? null,
      after: change.value,
    }));
    return record(tx, actor, papers, changes, planned.columns, (entryId) => ({
      changed: ids.length,
      fixed: 0,
      errors: planned.errors.length,
      entryId,
    }));
  });
});
