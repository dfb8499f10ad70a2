import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { asc, gt } from 'drizzle-orm';
import { Client, escapeIdentifier } from 'pg';
import { batches } from '@/core/backup/batches';
import type { Manifest } from '@/core/backup/manifest';
import { pieceBytes } from '@/core/content/model';
import { refuse } from '@/core/errors/refusal';
import { config } from '../base/config';
import { contentColumns, storeOf } from '../blobs/content';
import { makeDirectory } from '../blobs/directory';
import { db, disconnect } from '../db/client';
import { migrateDatabase } from '../db/migrate';
import { blob } from '../db/schema';
import { apart } from '../db/transaction';
import { backupFaults, backupIn, backupsIn, contentFileIn, contentsOf, dumpFile, secretFile } from './folder';
import { ended } from './make';
import { serverOf } from './programs';

/** How far a restore has come. */
export interface RestoreProgress {
  readonly contents: number;
  readonly bytes: number;
  readonly ofContents: number;
  readonly ofBytes: number;
}

/**
 * Restores a library from a backup. It is made beside, in a database of its own, and takes the place of the empty one once it
 * is whole: what dies in the middle leaves the empty library, and the next restore begins anew.
 * @param name of the backup; null for the newest
 * @returns the backup, and the secret that signs what the library had signed
 * @throws Refusal `conflict` where there is a library already; `damaged-content` for a backup that is not what was written
 */
export async function restoreBackup(
  folder: string,
  name: string | null,
  told: (progress: RestoreProgress) => void = () => undefined,
): Promise<{ readonly manifest: Manifest; readonly secret: string }> {
  const backups = await backupsIn(folder);
  const manifest = name === null ? backups.at(-1) : backups.find((backup) => backup.name === name);
  if (!manifest) refuse('not-found', `There is no complete backup ${name === null ? '' : `“${name}” `}in ${folder}.`);
  const [fault] = await backupFaults(folder, manifest, { bytes: false });
  if (fault) refuse('damaged-content', `${fault.file} ${fault.says}. Nothing was restored; try an earlier backup.`);
  const address = config().DATABASE_URL;
  await requireEmpty(address);
  await disconnect();
  const target = decodeURIComponent(new URL(address).pathname.slice(1));
  const making = `${target}_restoring`;
  await asOwner(address, async (owner) => {
    await owner.query(`drop database if exists ${escapeIdentifier(making)} with (force)`);
    await owner.query(`create database ${escapeIdentifier(making)} template template0`);
  });
  const own = new URL(address);
  own.pathname = `/${encodeURIComponent(making)}`;
  process.env['DATABASE_URL'] = own.href;
  try {
    await loadDump(folder, manifest, making);
    await migrateDatabase();
    await loadContents(folder, manifest, told);
    // Their bytes are not part of a backup.
    await apart((tx) =>
      tx.execute(`delete from upload where coalesce(outcome ->> 'state', '') not in ('filed', 'refused', 'left-out')`),
    );
  } finally {
    await disconnect();
    process.env['DATABASE_URL'] = address;
  }
  await requireEmpty(address);
  await disconnect();
  await asOwner(address, async (owner) => {
    await owner.query(`drop database ${escapeIdentifier(target)} with (force)`);
    await owner.query(`alter database ${escapeIdentifier(making)} rename to ${escapeIdentifier(target)}`);
  });
  return { manifest, secret: await readFile(path.join(backupIn(folder, manifest.name), secretFile), 'utf8') };
}

/** Refuses where a library is founded at an address. */
async function requireEmpty(address: string): Promise<void> {
  const client = new Client({ connectionString: address });
  await client.connect();
  try {
    const { rows } = await client.query<{ there: string | null }>(`select to_regclass('public.library') as there`);
    const founded = rows[0]?.there ? (await client.query('select from library')).rowCount : 0;
    if (founded)
      refuse(
        'conflict',
        'There is a library here already. A backup is restored into an empty one only. Nothing was changed.',
      );
  } finally {
    await client.end();
  }
}

/** Runs statements that concern whole databases. */
async function asOwner(address: string, work: (owner: Client) => Promise<void>): Promise<void> {
  const own = new URL(address);
  own.pathname = '/postgres';
  const client = new Client({ connectionString: own.href });
  await client.connect();
  try {
    await work(client);
  } finally {
    await client.end();
  }
}

async function loadDump(folder: string, { name }: Manifest, database: string): Promise<void> {
  const { program, env } = await serverOf('pg_restore', database);
  const child = spawn(
    program,
    [
      '--no-owner',
      '--no-privileges',
      '--exit-on-error',
      '--jobs=2',
      `--dbname=${database}`,
      path.join(backupIn(folder, name), dumpFile),
    ],
    { env, stdio: ['ignore', 'ignore', 'pipe'] },
  );
  await ended(child, 'pg_restore');
}

/** Brings in every content that the restored database names, each held to its hash. */
async function loadContents(folder: string, manifest: Manifest, told: (progress: RestoreProgress) => void) {
  const listed = await contentsOf(folder, manifest.name);
  const damaged = new Set(manifest.damaged);
  const [ofContents, ofBytes] = [listed.length, manifest.bytes];
  let [contents, bytes, after] = [0, 0, ''];
  for (;;) {
    const some = await db()
      .select(contentColumns)
      .from(blob)
      .where(gt(blob.sha256, after))
      .orderBy(asc(blob.sha256))
      .limit(500);
    const last = some.at(-1);
    if (!last) break;
    if (some.some(({ store }) => store === 'directory')) await makeDirectory();
    for (const batch of batches(some.filter(({ sha256 }) => !damaged.has(sha256)))) {
      // May run again after a conflict, so nothing outside of it is changed in it.
      await apart(async (tx) => {
        for (const content of batch) await storeOf(content.store).put(tx, content, hashed(folder, content.sha256));
      });
      contents += batch.length;
      bytes += batch.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);
      told({ contents, bytes, ofContents, ofBytes });
    }
    after = last.sha256;
  }
}

/** The bytes of a content of a folder, in pieces. @throws Refusal `damaged-content` at the end of one that is not what was written */
async function* hashed(folder: string, sha256: string): AsyncGenerator<Buffer> {
  const hash = createHash('sha256');
  const file = contentFileIn(folder, sha256);
  try {
    for await (const part of createReadStream(file, { highWaterMark: pieceBytes }) as AsyncIterable<Buffer>) {
      hash.update(part);
      yield part;
    }
  } catch {
    refuse(
      'damaged-content',
      `${path.relative(folder, file)} is missing. Nothing was restored; try an earlier backup.`,
    );
  }
  if (hash.digest('hex') !== sha256)
    refuse(
      'damaged-content',
      `${path.relative(folder, file)} is not what was written. Nothing was restored; try an earlier backup.`,
    );
}
