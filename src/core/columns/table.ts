import { asText, type Names } from './format';
import { sameValue, type Column, type Value, type Values } from './model';
import { readText, type Vocabulary } from './read';
import { nameKey } from '../text/fold';

/** A paper in a table of values. */
export interface TablePaper {
  readonly id: string;
  /** Names from the series to the title, joined by ` / `. */
  readonly path: string;
  readonly title: string;
  readonly shown: Values;
  /** The values its home fixes; cells have to agree with them. */
  readonly fixed: Values;
  readonly mayAmend: boolean;
}

/** One cell of a table that would change a value. */
export interface TableChange {
  readonly line: number;
  readonly documentId: string;
  readonly title: string;
  readonly columnId: string;
  readonly columnName: string;
  readonly before: string;
  readonly after: string;
  readonly value: Value | null;
}

/** One cell or line of a table that could not be read. */
export interface TableError {
  /** The line of the table; the heading is line 1. */
  readonly line: number;
  /** The column's name; empty for an error of the whole line. */
  readonly column: string;
  readonly says: string;
}

/** What importing a table would do: every change and every error. */
export interface TablePlan {
  readonly papers: number;
  readonly changes: readonly TableChange[];
  readonly errors: readonly TableError[];
  readonly ignoredColumns: readonly string[];
}

/** The heading over the ids of papers. */
export const idHeading = 'Paper id';
/** The heading over the paths of papers. */
export const pathHeading = 'Path';
/** The heading over the titles of papers. */
export const titleHeading = 'Title';
/** Columns of the table that identify the paper. */
const about = new Set([idHeading, pathHeading, titleHeading].map(nameKey));

/** A table of papers' values, headings first, which can be corrected and imported again. */
export function tableOf(papers: readonly TablePaper[], columns: readonly Column[], names: Names): string[][] {
  return [
    [idHeading, pathHeading, titleHeading, ...columns.map((column) => column.name)],
    ...papers.map((paper) => [
      paper.id,
      paper.path,
      paper.title,
      ...columns.map((column) => asText(column, paper.shown[column.id], names)),
    ]),
  ];
}

/**
 * Compares an edited table with the papers' present values. Matches lines by id, or by path if the id is empty. Unchanged
 * cells change nothing.
 */
export function planTable(
  rows: readonly (readonly string[])[],
  papers: readonly TablePaper[],
  columns: readonly Column[],
  names: Names,
  vocabulary: Vocabulary,
): TablePlan {
  const [heading = [], ...lines] = rows;
  const keys = heading.map((cell) => nameKey(cell.trim()));
  const at = (name: string) => keys.indexOf(nameKey(name));
  const [idAt, pathAt] = [at(idHeading), at(pathHeading)];
  const errors: TableError[] = [];
  const fault = (line: number, column: string, says: string) => errors.push({ line, column, says });
  if (idAt === -1 && pathAt === -1) {
    fault(1, '', `The first line names the columns, “${idHeading}” or “${pathHeading}” among them. Neither is there.`);
    return { papers: 0, changes: [], errors, ignoredColumns: [] };
  }
  const byName = new Map(columns.map((column) => [nameKey(column.name), column]));
  const wanted = keys.map((key) => byName.get(key));
  const ignoredColumns = heading.filter(
    (cell, index) => cell.trim() !== '' && !wanted[index] && !about.has(keys[index] ?? ''),
  );
  for (const [index, key] of keys.entries())
    if (wanted[index] && keys.indexOf(key) !== index)
      fault(1, heading[index] ?? '', 'The column is in the first line twice.');

  const byId = new Map(papers.map((paper) => [paper.id, paper]));
  const byPath = new Map<string, TablePaper | 'several'>();
  for (const paper of papers) byPath.set(nameKey(paper.path), byPath.has(nameKey(paper.path)) ? 'several' : paper);
  const changes: TableChange[] = [];
  const seen = new Map<string, number>();
  for (const [index, cells] of lines.entries()) {
    const line = index + 2;
    const givenId = idAt === -1 ? '' : (cells[idAt]?.trim() ?? '');
    const givenPath = pathAt === -1 ? '' : (cells[pathAt]?.trim() ?? '');
    const paper = givenId !== '' ? byId.get(givenId.toLowerCase()) : byPath.get(nameKey(givenPath));
    if (paper === undefined)
      fault(line, '', `No paper here has the ${givenId !== '' ? `id ${givenId}` : `path “${givenPath}”`}.`);
    else if (paper === 'several')
      fault(line, '', `More than one paper has the path “${givenPath}”. Its id says which is meant.`);
    else if (seen.has(paper.id)) fault(line, '', `The paper stands in line ${seen.get(paper.id)} already.`);
    else {
      seen.set(paper.id, line);
      for (const [place, column] of wanted.entries()) {
        const text = cells[place];
        if (!column || text === undefined || keys.indexOf(keys[place] ?? '') !== place) continue;
        const change = changeOf(paper, column, text, names, vocabulary);
        if (typeof change === 'string') fault(line, column.name, change);
        else if (change)
          changes.push({
            line,
            documentId: paper.id,
            title: paper.title,
            columnId: column.id,
            columnName: column.name,
            ...change,
          });
      }
    }
  }
  return { papers: new Set(changes.map((change) => change.documentId)).size, changes, errors, ignoredColumns };
}

function changeOf(paper: TablePaper, column: Column, text: string, names: Names, vocabulary: Vocabulary) {
  const before = asText(column, paper.shown[column.id], names);
  if (text.trim() === before.trim()) return null;
  const read = readText({ ...column, open: false }, text, vocabulary);
  if (!read.ok) return read.issue.says;
  const value = read.value.kind === 'value' ? read.value.value : null;
  if (sameValue(value, paper.shown[column.id])) return null;
  if (column.id in paper.fixed) return `The place fixes it as “${before}”; it cannot be set on the paper.`;
  if (!paper.mayAmend) return 'You may see this paper, but not change it.';
  return { before, after: asText(column, value, names), value };
}
