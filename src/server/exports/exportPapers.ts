import { Readable } from 'node:stream';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { ZipFile } from 'yazl';
import { filingYearLabel } from '@/core/calendar/filingYear';
import { listHeadings, listName, sumsName, writeSums } from '@/core/archives/lists';
import { asText, inWords } from '@/core/columns/format';
import type { Values } from '@/core/columns/model';
import type { PlacedPaper } from '@/core/documents/contract';
import { refuse } from '@/core/errors/refusal';
import type { ExportFolders } from '@/core/exports/contract';
import { EntryNames, fileNameOf } from '@/core/exports/entryNames';
import { writeCsv } from '@/core/interchange/block';
import { dayInWords } from '@/core/calendar/moment';
import { counted } from '@/core/text/measure';
import { contentColumns, readContent, requireWhole } from '../blobs/content';
import { allColumns, allLists, asNames, lexiconsOf, toldValues } from '../columns/read';
import { libraryCalendar } from '../calendar/libraryCalendar';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { blob, document, place, version } from '../db/schema';
import { papersInOrder } from '../documents/ledger';
import type { Actor } from '../gate/actor';
import { homeIsTold, paperAllows } from '../gate/visible';
import { namesOn, pathsOf } from '../known/names';
import { useFastSums } from './zipSums';
import { standName, standYear } from '../known/standing';
import { librarySettings } from '../library/settings';

/** An archive to be made: the papers in it, how many were left out, and about how many bytes it will have. */
export interface Archive {
  readonly ids: readonly string[];
  readonly leftOut: number;
  readonly sizeBytes: number;
  /** Begins it. Whoever does has to hear of a failure at once. */
  readonly begin: () => Readable;
}

/** Says how many papers were left out. */
const leftOutName = 'LEFT OUT.txt';

/**
 * Papers as a ZIP archive (APPNOTE 6.3; Zip64 where it is needed), streamed as it is read: in folders as asked, with a list of them
 * and their values as CSV, and sums that `sha256sum -c` checks. Only papers of which the caller may take copies; how many
 * were left out is said, and not which.
 * @throws Refusal `not-allowed` where no copy of any may be taken, `damaged-content` before the first byte
 */
export async function exportPapers(
  actor: Actor,
  documentIds: readonly string[],
  folders: ExportFolders = 'place',
): Promise<Archive> {
  const contents = await contentsOf(actor, documentIds, folders);
  if (contents.length === 0) refuse('not-allowed', 'No copies of these papers may be taken.');
  // What is known to be damaged is said before anything is sent.
  for (const each of contents) await requireWhole(each);
  const names = new EntryNames();
  for (const taken of [listName, sumsName, leftOutName]) names.take([], taken);
  const paths = contents.map((each) => names.take(each.folders, fileNameOf(each.title, each.fileName)));
  const ids = contents.map(({ id }) => id);
  const leftOut = new Set(documentIds).size - contents.length;
  const added: readonly (readonly [string, string | Buffer])[] = [
    [listName, await listOf(actor, ids, paths)],
    [sumsName, writeSums(contents.map(({ sha256 }, at) => ({ sha256, path: paths[at] ?? '' })))],
    ...(leftOut > 0
      ? [[leftOutName, `${counted(leftOut, 'paper')} left out: no copies may be taken.\r\n`] as const]
      : []),
  ];
  return {
    ids,
    leftOut,
    sizeBytes: contents.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
    begin: () => zipped(contents, paths, added),
  };
}

/** The archive's bytes. Entries are read from here on, so whoever begins it has to hear of a failure at once. */
function zipped(
  contents: Awaited<ReturnType<typeof contentsOf>>,
  paths: readonly string[],
  added: readonly (readonly [string, string | Buffer])[],
): Readable {
  useFastSums();
  const zip = new ZipFile();
  const output = zip.outputStream as Readable;
  const open = new Set<Readable>();
  contents.forEach((each, at) => {
    const metadata = { mtime: each.madeAt, compress: false, size: each.sizeBytes };
    zip.addReadStreamLazy(paths[at] ?? each.sha256, metadata, (begin) => {
      const bytes = Readable.from(readContent(each), { objectMode: false });
      open.add(bytes);
      bytes.on('close', () => open.delete(bytes));
      // What is wrong in the middle ends the archive: a part of a paper is never handed out as the whole of it.
      bytes.on('error', (error) => output.destroy(error));
      begin(null, bytes);
    });
  });
  for (const [name, content] of added) zip.addBuffer(Buffer.from(content), name);
  zip.end();
  // Whoever goes away in the middle stops the reading.
  output.on('close', () => open.forEach((bytes) => bytes.destroy()));
  return output;
}

async function contentsOf(actor: Actor, documentIds: readonly string[], by: ExportFolders) {
  const rows = await db()
    .select({
      id: document.id,
      title: document.title,
      fileName: version.fileName,
      madeAt: version.madeAt,
      lineage: place.lineage,
      told: sql<boolean>`${homeIsTold(actor)}`,
      stand: standName(actor),
      stamp: document.stamp,
      year: standYear(actor),
      values: document.shownValues,
      ...contentColumns,
    })
    .from(document)
    .innerJoin(version, eq(version.id, document.versionId))
    .innerJoin(blob, eq(blob.sha256, version.sha256))
    .innerJoin(place, eq(place.id, document.homeId))
    .where(and(idIn(document.id, documentIds), isNull(document.disposedAt), paperAllows(actor, 'take')))
    .orderBy(document.title, document.id);
  const paths = await pathsOf(
    db(),
    actor,
    rows.map(({ told, lineage }) => (told ? lineage : [])),
  );
  const folderOf = await folderNames(actor, by, rows);
  return rows.map((row, at) => ({
    ...row,
    folders: folderOf ? folderOf(row) : row.told ? namesOn(paths[at]) : [row.stand],
  }));
}

interface Foldered {
  readonly stamp: string;
  readonly year: unknown;
  readonly values: Values;
}

/** How papers are put into folders, where that is not by their place; null where it is. */
async function folderNames(
  actor: Actor,
  by: ExportFolders,
  rows: readonly Foldered[],
): Promise<((row: Foldered) => string[]) | null> {
  if (by === 'place') return null;
  if (by === 'none') return () => [];
  if (by === 'kind') return ({ stamp }) => [stamp];
  if (by === 'year') {
    const calendar = await libraryCalendar(db());
    return ({ year }) => [typeof year === 'number' ? filingYearLabel(year, calendar) : 'No filing year'];
  }
  const column = (await allColumns(db())).find(({ id }) => id === by);
  if (!column) refuse('not-found');
  const lists = await allLists(db());
  const { names } = await toldValues(
    db(),
    actor,
    rows.map(({ values }) => ({ values })),
  );
  const named = asNames(lexiconsOf(lists), names);
  return ({ values }) => [inWords(column, values[column.id], named) || `No ${column.name}`];
}

/** The papers with their paths in the archive and all their values, as text that reads back to the same. */
async function listOf(actor: Actor, ids: readonly string[], paths: readonly string[]): Promise<string> {
  const [{ rows, names }, columns, lists, { timeZone }] = await Promise.all([
    papersInOrder(actor, ids),
    allColumns(db()),
    allLists(db()),
    librarySettings(),
  ]);
  const byId = new Map(rows.map((row) => [row.id, row]));
  const filled = columns.filter((column) => !column.retired && rows.some((row) => row.values[column.id] !== undefined));
  const named = asNames(lexiconsOf(lists), names);
  const cells = (paper: PlacedPaper): string[] => [
    paper.title,
    paper.stamp,
    paper.homeName,
    dayInWords(paper.filedAt, timeZone),
    paper.filedBy,
    String(paper.pageCount ?? ''),
    String(paper.sizeBytes),
    ...filled.map((column) => asText(column, paper.values[column.id], named)),
  ];
  return writeCsv([
    [...listHeadings, ...filled.map(({ name }) => name)],
    ...ids.flatMap((id, at) => {
      const paper = byId.get(id);
      return paper ? [[paths[at] ?? '', ...cells(paper)]] : [];
    }),
  ]);
}
