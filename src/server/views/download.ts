import { inWords, type Names } from '@/core/columns/format';
import type { Column } from '@/core/columns/model';
import type { PlacedPaper } from '@/core/documents/contract';
import { refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { displayOf } from '@/core/views/display';
import type { Slice } from '@/core/views/contract';
import { builtIn, insideProperties, isBuiltIn, isInside } from '@/core/views/builtIns';
import { propertyName } from '@/core/views/property';
import type { Grouping, Sort } from '@/core/views/spec';
import type { Actor } from '../gate/actor';
import { allLists, asNames, lexiconsOf } from '../columns/read';
import { db } from '../db/client';
import { copiable, refuseList } from '../documents/content';
import { columnsIn } from '../columns/inForce';
import { librarySettings } from '../library/settings';
import { openWithIds } from './open';

/** The most lines in a file, and how many are fetched at a time. */
const mostLines = 50_000;
const pieceLines = 5000;

/** A view to be downloaded. */
export interface TakenView extends Slice {
  readonly groupings: readonly Grouping[];
  readonly sorts: readonly Sort[];
  /** Columns in order: built-in ones by key, others by id. */
  readonly columns: readonly string[];
}

/** What a view shows as rows of cells, headings first: groups in columns of their own, then the title and the columns. */
export async function viewTable(
  actor: Actor,
  { columns: keys, ...view }: TakenView,
): Promise<{ rows: string[][]; leftOut: number }> {
  const question = { ...view, counts: [], measures: [], limit: pieceLines };
  const { page: first, ids: firstIds } = await openWithIds(actor, { ...question, start: 0 });
  if (first.state === 'counting')
    refuse('unavailable', 'The library is still being read. Take the view away in a moment.');
  if (first.lines > mostLines)
    refuse(
      'too-large',
      `The view holds ${counted(first.lines, 'line')}; at most ${mostLines.toLocaleString('en-GB')} fit in one file. Narrow it.`,
    );
  const columns = await columnsIn(actor, view.placeId, view.below);
  // The title comes first, wherever the list has it.
  const others = keys.filter((key) => key !== 'title');
  const lexicons = lexiconsOf(await allLists(db()));
  const { timeZone } = await librarySettings();
  const display = displayOf(first.groups, first.lines, new Set());
  const rows: string[][] = [
    [
      ...view.groupings.map((grouping) => propertyName(grouping.of, columns)),
      'Title',
      ...others.map((key) => headingOf(key, columns)),
    ],
  ];
  const trail: string[] = [];
  let line = 0;
  let [piece, ids] = [first, firstIds];
  let rowsById = byId(piece.rows);
  let lets = await copiableIn(actor, piece.rows);
  let leftOut = 0;
  for (let at = 0; at < display.count; at += 1) {
    const shown = display.lineAt(at);
    if (shown?.kind === 'group') {
      trail.length = shown.depth;
      trail.push(shown.group.name);
      continue;
    }
    if (line > 0 && line % pieceLines === 0) {
      ({ page: piece, ids } = await openWithIds(actor, { ...question, start: line }));
      rowsById = byId(piece.rows);
      lets = await copiableIn(actor, piece.rows);
    }
    const paper = rowsById.get(ids[line % pieceLines] ?? '');
    line += 1;
    if (paper && !lets.has(paper.id)) leftOut += 1;
    else if (paper)
      rows.push([...trail, paper.title, ...cellsOf(paper, others, columns, asNames(lexicons, piece.names), timeZone)]);
  }
  if (leftOut > 0 && rows.length === 1) refuseList();
  return { rows, leftOut };
}

/** Rows by id: the gate may have dropped some since the lines were counted. */
const byId = (rows: readonly PlacedPaper[]): ReadonlyMap<string, PlacedPaper> =>
  new Map(rows.map((row) => [row.id, row]));

const copiableIn = (actor: Actor, papers: readonly PlacedPaper[]): Promise<ReadonlySet<string>> =>
  copiable(
    actor,
    papers.map((paper) => paper.id),
  );

const headingOf = (key: string, columns: readonly Column[]): string =>
  (isBuiltIn(key) ? builtIn(key).listed?.exportedAs : undefined) ?? propertyName(key, columns);

function cellsOf(
  paper: PlacedPaper,
  keys: readonly string[],
  columns: readonly Column[],
  names: Names,
  timeZone: string,
): string[] {
  return keys.map((key) => {
    if (isBuiltIn(key)) return builtIn(key).listed?.exported(paper, timeZone) ?? '';
    if (isInside(key)) return insideProperties[key].exported(paper);
    const column = columns.find((each) => each.id === key);
    return column ? inWords(column, paper.values[key], names) : '';
  });
}
