import { Readable } from 'node:stream';
import { and, eq, isNull, sql } from 'drizzle-orm';
import { ZipFile } from 'yazl';
import { inWords } from '@/core/columns/format';
import type { PlacedPaper } from '@/core/documents/contract';
import { refuse } from '@/core/errors/refusal';
import { EntryNames, fileNameOf } from '@/core/exports/entryNames';
import { writeCsv } from '@/core/interchange/block';
import { dayInWords } from '@/core/calendar/moment';
import { counted } from '@/core/text/measure';
import { contentColumns, readContent, requireWhole } from '../blobs/content';
import { allColumns, allLists, asNames, lexiconsOf } from '../columns/read';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { blob, document, place, version } from '../db/schema';
import { papersInOrder } from '../documents/ledger';
import type { Actor } from '../gate/actor';
import { homeIsTold, paperAllows } from '../gate/visible';
import { namesOn, pathsOf } from '../known/names';
import { standName } from '../known/standing';
import { librarySettings } from '../library/settings';

/** The list of what is in an archive, and the sums by which it is checked. */
const [listName, sumsName, leftOutName] = ['Papers.csv', 'SHA256SUMS', 'LEFT OUT.txt'];

/**
 * Papers as a ZIP archive (APPNOTE 6.3; Zip64 where it is needed), streamed as it is read: each by its place, with a list of them
 * and their values as CSV, and sums that `sha256sum -c` checks. Only papers of which the caller may take copies; how many
 * were left out is said, and not which.
 * @throws Refusal `not-allowed` where no copy of any may be taken, `damaged-content` before the first byte
 */
export async function exportPapers(actor: Actor, documentIds: readonly string[]): Promise<Readable> {
  const contents = await contentsOf(actor, documentIds);
  if (contents.length === 0) refuse('not-allowed', 'No copies of these papers may be taken.');
  // What is known to be damaged is said before anything is sent.
  for (const each of contents) await requireWhole(each);
  const names = new EntryNames();
  for (const taken of [listName, sumsName, leftOutName]) names.take([], taken);
  const paths = contents.map((each) => names.take(each.folders, fileNameOf(each.title, each.fileName)));
  const ids = contents.map(({ id }) => id);
  const list = Buffer.from(await listOf(actor, ids, paths));
  // Nothing is awaited from here on: an entry is read as soon as it is added, and a failure needs a caller who listens.
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
  zip.addBuffer(list, listName);
  zip.addBuffer(Buffer.from(contents.map(({ sha256 }, at) => `${sha256}  ${paths[at]}\n`).join('')), sumsName);
  const leftOut = new Set(documentIds).size - contents.length;
  if (leftOut > 0)
    zip.addBuffer(Buffer.from(`${counted(leftOut, 'paper')} left out: no copies may be taken.\r\n`), leftOutName);
  zip.end();
  // Whoever goes away in the middle stops the reading.
  output.on('close', () => open.forEach((bytes) => bytes.destroy()));
  return output;
}

async function contentsOf(actor: Actor, documentIds: readonly string[]) {
  const rows = await db()
    .select({
      id: document.id,
      title: document.title,
      fileName: version.fileName,
      madeAt: version.madeAt,
      lineage: place.lineage,
      told: sql<boolean>`${homeIsTold(actor)}`,
      stand: standName(actor),
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
  return rows.map((row, at) => ({ ...row, folders: row.told ? namesOn(paths[at]) : [row.stand] }));
}

/** The papers with their paths in the archive and all their values. */
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
    ...filled.map((column) => inWords(column, paper.values[column.id], named)),
  ];
  const head = ['Path', 'Title', 'Kind', 'Place', 'Filed', 'Filed by', 'Pages', 'Size in bytes'];
  return writeCsv([
    [...head, ...filled.map(({ name }) => name)],
    ...ids.flatMap((id, at) => {
      const paper = byId.get(id);
      return paper ? [[paths[at] ?? '', ...cells(paper)]] : [];
    }),
  ]);
}
