import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Client } from 'pg';
import { to } from 'pg-copy-streams';
import { batches } from '@/core/backup/batches';
import { backupName, keptBackups, writeContents, type Manifest } from '@/core/backup/manifest';
import { Refusal, refuse } from '@/core/errors/refusal';
import { now } from '../base/clock';
import { config } from '../base/config';
import { readContent } from '../blobs/content';
import type { Content } from '../blobs/contentStore';
import { rowsOfCopy } from '../blobs/copyOut';
import { isMissing } from '../blobs/directory';
import {
  backupIn,
  backupsIn,
  contentFileIn,
  contentsOf,
  dumpFile,
  hashFile,
  listFile,
  manifestFile,
  secretFile,
} from './folder';
import { serverOf } from './programs';

/** Held for as long as a backup is being made: one at a time. The number is arbitrary. */
const backupLock = 7_301_021;

/** How far a backup has come. */
export interface BackupProgress {
  /** Contents that were not in the folder before, and their bytes, of so many. */
  readonly contents: number;
  readonly bytes: number;
  readonly ofContents: number;
  readonly ofBytes: number;
}

/** What a backup came to. */
export interface BackupMade extends Manifest {
  readonly newContents: number;
  readonly newBytes: number;
}

interface KeptContent extends Content {
  readonly damaged: boolean;
}

/**
 * Backs the library up into a folder while everything goes on: one snapshot of the database, and every content that it names
 * and that the folder does not have yet, held to its hash. What dies in the middle leaves no backup, and nothing that the next
 * one minds. Uploads under way are not part of it.
 * @throws Refusal `conflict` while another is being made; `invalid` for a folder with backups of another library
 */
export async function makeBackup(
  folder: string,
  { keep = Infinity, told = () => undefined }: { keep?: number; told?: (progress: BackupProgress) => void } = {},
): Promise<BackupMade> {
  const reader = new Client({ connectionString: config().DATABASE_URL, application_name: 'embrin-backup' });
  await reader.connect();
  try {
    const { rows: locked } = await reader.query<{ got: boolean }>('select pg_try_advisory_lock($1) as got', [
      backupLock,
    ]);
    if (locked[0]?.got !== true) refuse('conflict', 'A backup is being made already.');
    await reader.query('begin isolation level repeatable read read only');
    const about = await libraryOf(reader);
    await requireSameLibrary(folder, about.libraryId);
    const name = backupName(now());
    await mkdir(path.join(folder, 'content'), { recursive: true, mode: 0o700 });
    await mkdir(path.join(folder, 'backups'), { recursive: true, mode: 0o700 });
    await sweepUnfinished(folder);
    const making = path.join(folder, 'making', name);
    await mkdir(making, { recursive: true, mode: 0o700 });
    const { rows } = await reader.query<{ snapshot: string }>('select pg_export_snapshot() as snapshot');
    const dumped = dumpDatabase(rows[0]?.snapshot ?? '', path.join(making, dumpFile));
    // Awaited below; what goes wrong meanwhile is not unheard.
    dumped.catch(() => undefined);
    const contents = await contentsIn(reader);
    const { damaged, ...copied } = await copyContents(reader, folder, path.join(making, 'content'), contents, told);
    await dumped;
    await writeFile(path.join(making, listFile), writeContents(contents), { mode: 0o600 });
    await writeFile(path.join(making, secretFile), config().EMBRIN_SECRET, { mode: 0o600 });
    const files: Record<string, string> = {};
    for (const file of [dumpFile, listFile, secretFile]) files[file] = (await hashFile(path.join(making, file))).sha256;
    const manifest: Manifest = {
      format: 'embrin-backup-1',
      name,
      ...about,
      takenAt: now().toISOString(),
      contents: contents.length,
      bytes: contents.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
      files,
      damaged,
    };
    await bringIn(folder, making, manifest);
    if (Number.isFinite(keep)) await removeOlder(folder, keep);
    return { ...manifest, ...copied };
  } finally {
    await reader.end();
  }
}

async function libraryOf(reader: Client) {
  const { rows } = await reader.query<{
    id: string;
    name: string;
    papers: string;
    entry: string | null;
    hash: string | null;
  }>(`
    select place.id, library.name, (select count(*) from document) as papers, head.id as entry, head.hash
    from library join place on place.kind = 'library'
    left join lateral (select id, hash from journal order by id desc limit 1) as head on true`);
  const [row] = rows;
  if (!row) refuse('not-found', 'No library is founded yet: there is nothing to back up.');
  return {
    libraryId: row.id,
    libraryName: row.name,
    papers: Number(row.papers),
    journal: row.entry === null || row.hash === null ? null : { entryId: Number(row.entry), hash: row.hash },
  };
}

async function requireSameLibrary(folder: string, libraryId: string): Promise<void> {
  const another = (await backupsIn(folder)).find((backup) => backup.libraryId !== libraryId);
  if (another)
    refuse('invalid', `That folder has backups of another library (“${another.libraryName}”). Nothing was written.`);
}

/** What a backup that was broken off has left. */
async function sweepUnfinished(folder: string): Promise<void> {
  await rm(path.join(folder, 'making'), { recursive: true, force: true });
}

/** All but the bytes of content, as of a snapshot. */
async function dumpDatabase(snapshot: string, file: string): Promise<void> {
  const { program, env, database } = await serverOf('pg_dump');
  const child = spawn(
    program,
    [
      '--format=custom',
      '--compress=1',
      '--no-owner',
      '--no-privileges',
      `--snapshot=${snapshot}`,
      '--exclude-table-data=public.blob_chunk',
      `--file=${file}`,
      database,
    ],
    { env, stdio: ['ignore', 'ignore', 'pipe'] },
  );
  await ended(child, 'pg_dump');
}

/** Waits for a program of PostgreSQL. @throws Error with its last words if it fails */
export function ended(child: ReturnType<typeof spawn>, name: string): Promise<void> {
  let words = '';
  child.stderr?.on('data', (part: Buffer) => (words = (words + part.toString()).slice(-2000)));
  return new Promise((done, failed) => {
    child.on('error', failed);
    child.on('close', (code, signal) =>
      code === 0 ? done() : failed(new Error(`${name} has ended (${signal ?? String(code)}): ${words.trim()}`)),
    );
  });
}

async function contentsIn(reader: Client): Promise<KeptContent[]> {
  const { rows } = await reader.query<{
    sha256: string;
    content_id: string;
    size_bytes: string;
    store: Content['store'];
    piece_sums: number[] | null;
    damaged: boolean;
  }>(
    `select sha256, content_id, size_bytes, store, piece_sums, damaged_at is not null as damaged from blob order by sha256`,
  );
  return rows.map((row) => ({
    sha256: row.sha256,
    contentId: row.content_id,
    sizeBytes: Number(row.size_bytes),
    store: row.store,
    pieceSums: row.piece_sums,
    damaged: row.damaged,
  }));
}

/** Contents up to this size are read many in one statement. */
const smallBytes = 1_048_576;

/** Writes the contents that the folder does not have, each held to its hash. */
async function copyContents(
  reader: Client,
  folder: string,
  arriving: string,
  contents: readonly KeptContent[],
  told: (progress: BackupProgress) => void,
): Promise<{ damaged: string[]; newContents: number; newBytes: number }> {
  await mkdir(arriving, { recursive: true, mode: 0o700 });
  const there = await sizesIn(path.join(folder, 'content'));
  const missing = contents.filter(({ sha256, sizeBytes }) => there.get(sha256) !== sizeBytes);
  const ofBytes = missing.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);
  const damaged: string[] = [];
  let [newContents, newBytes] = [0, 0];
  const note = ({ sha256, sizeBytes }: KeptContent, isWhole: boolean) => {
    if (!isWhole) damaged.push(sha256);
    newContents += Number(isWhole);
    newBytes += isWhole ? sizeBytes : 0;
    told({ contents: newContents, bytes: newBytes, ofContents: missing.length, ofBytes });
  };
  const isSmall = (content: KeptContent) => content.store === 'rows' && content.sizeBytes <= smallBytes;
  for (const some of batches(missing.filter(isSmall))) {
    const bytesOf = await smallContents(reader, some);
    for (const content of some) {
      const bytes = bytesOf.get(content.contentId) ?? Buffer.alloc(0);
      const isWhole = createHash('sha256').update(bytes).digest('hex') === content.sha256;
      if (isWhole) await writeFile(path.join(arriving, content.sha256), bytes, { mode: 0o600 });
      note(content, isWhole);
    }
  }
  for (const content of missing.filter((each) => !isSmall(each)))
    note(content, await copyOne(reader, content, path.join(arriving, content.sha256)));
  return { damaged, newContents, newBytes };
}

/**
 * The bytes of small contents by content id, in the reader's snapshot: also of what was destroyed since. Even a small one may
 * be in several pieces, where its upload was broken off and resumed.
 */
async function smallContents(reader: Client, contents: readonly KeptContent[]): Promise<Map<string, Buffer>> {
  const ids = contents.map(({ contentId }) => `'${uuidOf(contentId)}'`).join(',');
  const text = `copy (
    select content_id::text, data from blob_chunk where content_id in (${ids}) order by content_id, start_byte
  ) to stdout (format binary)`;
  const pieces = new Map<string, Buffer[]>();
  for await (const [id, data] of rowsOfCopy(reader.query(to(text)))) {
    if (!id || !data) continue;
    const key = id.toString('latin1');
    pieces.set(key, [...(pieces.get(key) ?? []), Buffer.from(data)]);
  }
  return new Map([...pieces].map(([id, parts]) => [id, Buffer.concat(parts)]));
}

/** Writes one content to a file. Returns whether it is what was filed; if not, there is no file. */
async function copyOne(reader: Client, content: KeptContent, file: string): Promise<boolean> {
  const hash = createHash('sha256');
  const bytes = content.store === 'rows' ? chunksOf(reader, content.contentId) : readContent(content);
  try {
    await pipeline(
      async function* () {
        for await (const part of bytes) {
          hash.update(part);
          yield part;
        }
      },
      createWriteStream(file, { mode: 0o600 }),
    );
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    await rm(file, { force: true });
    return false;
  }
  if (hash.digest('hex') === content.sha256) return true;
  await rm(file, { force: true });
  return false;
}

async function* chunksOf(reader: Client, contentId: string): AsyncGenerator<Buffer> {
  const text = `copy (select data from blob_chunk where content_id = '${uuidOf(contentId)}' order by start_byte) to stdout (format binary)`;
  for await (const [data] of rowsOfCopy(reader.query(to(text)))) if (data) yield data;
}

function uuidOf(id: string): string {
  if (!/^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/u.test(id)) throw new Error('Not the id of content');
  return id;
}

/** The contents that a folder has, by hash: their sizes. */
async function sizesIn(folder: string): Promise<Map<string, number>> {
  const sizes = new Map<string, number>();
  for (const part of (await readdir(folder).catch(isMissing)) ?? [])
    for (const name of await readdir(path.join(folder, part)))
      sizes.set(name, (await stat(path.join(folder, part, name))).size);
  return sizes;
}

/**
 * Makes what was written part of the folder. The disk has the bytes before any name says that they are there, and all of it
 * before the manifest says that the backup is complete.
 */
async function bringIn(folder: string, making: string, manifest: Manifest): Promise<void> {
  await syncDisk(folder);
  const arriving = path.join(making, 'content');
  for (const sha256 of await readdir(arriving)) {
    const file = contentFileIn(folder, sha256);
    await mkdir(path.dirname(file), { recursive: true, mode: 0o700 });
    await rename(path.join(arriving, sha256), file);
  }
  await rm(arriving, { recursive: true });
  await syncDisk(folder);
  await writeFile(path.join(making, manifestFile), `${JSON.stringify(manifest, null, 2)}\n`, { mode: 0o600 });
  await rename(making, backupIn(folder, manifest.name));
  await syncDisk(folder);
}

/** Brings everything written to the disk of a folder. */
const syncDisk = (folder: string): Promise<void> =>
  ended(spawn('sync', ['--file-system', folder], { stdio: ['ignore', 'ignore', 'pipe'] }), 'sync');

/** Removes the older complete backups, and the contents that only they had. */
async function removeOlder(folder: string, keep: number): Promise<void> {
  const names = (await backupsIn(folder)).map(({ name }) => name);
  const kept = keptBackups(names, keep);
  const older = names.filter((name) => !kept.includes(name));
  if (older.length === 0) return;
  for (const name of older) await rm(backupIn(folder, name), { recursive: true, force: true });
  const needed = new Set<string>();
  for (const name of kept) for (const { sha256 } of await contentsOf(folder, name)) needed.add(sha256);
  for (const sha256 of (await sizesIn(path.join(folder, 'content'))).keys())
    if (!needed.has(sha256)) await rm(contentFileIn(folder, sha256), { force: true });
}
