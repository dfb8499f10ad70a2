import { readdir, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { sql } from 'drizzle-orm';
import { now } from '../base/clock';
import { db, type Reader } from '../db/client';
import { apart } from '../db/transaction';
import { incomingFolder, isMissing, keepingLock, keptFolder } from './directory';

/** How long a file that no row needs is left alone: whoever wrote it may be about to need it. */
export const graceMs = 60 * 60 * 1000;

/** How many files are looked up in one statement. */
const atATime = 500;

/**
 * Removes files of the directory that no row needs and that are older than the grace: left by a process that died. Returns
 * how many.
 */
export async function sweepDirectory(olderThanMs = graceMs): Promise<number> {
  let removed = 0;
  for await (const files of unneededFiles(db(), olderThanMs)) {
    // Under the lock that whoever is about to need a file holds until the commit, and looked up again.
    removed += await apart(async (tx) => {
      await tx.execute(sql`select pg_advisory_xact_lock(${keepingLock})`);
      const still = await unneeded(tx, files);
      for (const file of still) await rm(file, { force: true });
      return still.length;
    });
  }
  return removed;
}

/** Files that no row needs, some at a time. None where there is no directory. */
export async function* unneededFiles(reader: Reader, olderThanMs: number): AsyncGenerator<string[]> {
  const before = now().getTime() - olderThanMs;
  let some: string[] = [];
  for await (const file of filesOf(incomingFolder(), keptFolder())) {
    // The time at which it got its name, not the one at which it was written.
    const told = await stat(file).catch(isMissing);
    if (told && told.ctimeMs <= before) some.push(file);
    if (some.length < atATime) continue;
    const left = await unneeded(reader, some);
    if (left.length > 0) yield left;
    some = [];
  }
  const left = await unneeded(reader, some);
  if (left.length > 0) yield left;
}

async function* filesOf(...folders: string[]): AsyncGenerator<string> {
  for (const folder of folders) {
    const entries = (await readdir(folder, { withFileTypes: true }).catch(isMissing)) ?? [];
    for (const entry of entries) {
      const each = path.join(/* turbopackIgnore: true */ folder, entry.name);
      if (entry.isDirectory()) yield* filesOf(each);
      else yield each;
    }
  }
}

async function unneeded(reader: Reader, files: readonly string[]): Promise<string[]> {
  if (files.length === 0) return [];
  const names = files.map((file) => path.basename(file));
  const { rows } = await reader.execute<{ name: string }>(sql`
    select sha256 as name from blob where store = 'directory' and sha256 = any(${sql.param(names)}::text[])
    union all
    select content_id::text from upload
    where store = 'directory' and content_id::text = any(${sql.param(names)}::text[])
      and coalesce(outcome ->> 'state', '') not in ('filed', 'refused', 'left-out')`);
  const needed = new Set(rows.map((row) => row.name));
  return files.filter((file) => !needed.has(path.basename(file)));
}
