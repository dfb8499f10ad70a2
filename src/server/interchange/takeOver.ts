import { eq, sql } from 'drizzle-orm';
import type { Cells } from '@/core/archives/lists';
import { idHeading, planTable, type TableError, type TablePaper } from '@/core/columns/table';
import { nameKey } from '@/core/text/fold';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { paperMayBeAmended } from '../gate/visible';
import { allColumns, vocabularyFor } from '../columns/read';
import { writeOwn } from '../columns/write';
import { wording } from './table';

/** A paper just filed, with the values that it comes with. */
interface Arriving {
  readonly documentId: string;
  readonly cells: Cells;
}

/** What could not be taken over of a paper's values; nothing where all of it was. */
type NotSet = (documentId: string) => { readonly notSet?: readonly string[] };

/**
 * Gives papers that are filed in this act the values they come with. What cannot be read, is fixed by the place, belongs to
 * no column there, or may not be changed by the caller is left, and said: a paper is filed all the same.
 */
export async function takeOver(tx: Tx, actor: Actor, arriving: readonly Arriving[]): Promise<NotSet> {
  const withCells = arriving.filter(({ cells }) => Object.keys(cells).length > 0);
  if (withCells.length === 0) return () => ({});
  const rows = await tx
    .select({
      id: document.id,
      title: document.title,
      own: document.ownValues,
      shown: document.shownValues,
      fixed: place.fixedValues,
      lineage: place.lineage,
      mayAmend: sql<boolean>`${paperMayBeAmended(actor)}`,
    })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      idIn(
        document.id,
        withCells.map(({ documentId }) => documentId),
      ),
    );
  const byId = new Map(rows.map((row) => [row.id, row]));
  const columns = (await allColumns(tx)).filter((column) => !column.retired);
  const said = new Map<string, string[]>();
  const say = (id: string, words: string) => said.set(id, [...(said.get(id) ?? []), words]);
  // Places differ in their columns: papers with the same are read as one table.
  for (const here of tablesOf(withCells, byId)) {
    const inForce = columns.filter(({ placeId }) => here.lineage.includes(placeId));
    const papers = here.papers.map((each): TablePaper => ({ ...each, path: '' }));
    const { lexicons, names } = await wording(tx, actor, inForce, papers);
    const vocabulary = await vocabularyFor(tx, actor, inForce, lexicons);
    const table = [[idHeading, ...here.headings], ...here.lines];
    const planned = planTable(table, papers, inForce, names, vocabulary);
    for (const { line, column, says } of planned.errors) {
      const id = here.lines[line - 2]?.[0];
      if (id !== undefined) say(id, inOneLine(column, says));
    }
    for (const heading of planned.ignoredColumns) {
      const at = here.headings.findIndex((name) => nameKey(name) === nameKey(heading)) + 1;
      for (const line of here.lines)
        if (line[at]) say(line[0] ?? '', `${heading}: there is no such column where it was filed.`);
    }
    await writeOwn(
      tx,
      actor,
      planned.changes.map(({ documentId, columnId, value }) => ({
        documentId,
        columnId,
        before: byId.get(documentId)?.own[columnId] ?? null,
        after: value,
      })),
    );
  }
  return (id) => {
    const notSet = said.get(id);
    return notSet ? { notSet } : {};
  };
}

const inOneLine = (column: TableError['column'], says: string): string => (column === '' ? says : `${column}: ${says}`);

/** A cell that a paper does not have changes nothing: it stands apart from those that have it. */
function tablesOf<Row extends { readonly id: string; readonly lineage: readonly string[] }>(
  arriving: readonly Arriving[],
  byId: ReadonlyMap<string, Row>,
) {
  const tables = new Map<
    string,
    { lineage: readonly string[]; headings: string[]; papers: Row[]; lines: string[][] }
  >();
  for (const { documentId, cells } of arriving) {
    const row = byId.get(documentId);
    if (!row) continue;
    const headings = Object.keys(cells);
    const key = JSON.stringify([row.lineage, headings]);
    const table = tables.get(key) ?? { lineage: row.lineage, headings, papers: [], lines: [] };
    table.papers.push(row);
    table.lines.push([documentId, ...headings.map((heading) => cells[heading] ?? '')]);
    tables.set(key, table);
  }
  return tables.values();
}
