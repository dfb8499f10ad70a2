/**
 * Backs the library up into a folder while everything goes on. Contents that the folder has already are not written again.
 *   npm run backup -- FOLDER             makes a backup
 *   npm run backup -- FOLDER --keep 30   and removes all but the newest 30
 *   npm run backup -- FOLDER --verify    makes none: proves the newest whole, every content re-hashed
 *   npm run backup -- FOLDER --list      makes none: says which there are
 */
import { rename } from 'node:fs/promises';
import path from 'node:path';
import { counted, sizeInWords } from '@/core/text/measure';
import { Refusal } from '@/core/errors/refusal';
import { backupFaults, backupsIn } from '@/server/backup/folder';
import { makeBackup } from '@/server/backup/make';
import { noteBackup, noteVerified } from '@/server/backup/noted';
import { disconnect } from '@/server/db/client';

const [folder, word, number, ...more] = process.argv.slice(2);
const keep = word === '--keep' ? Number(number) : Infinity;
const isWrong =
  folder === undefined ||
  folder.startsWith('--') ||
  more.length > 0 ||
  (word === '--keep' ? !(Number.isInteger(keep) && keep >= 1) : number !== undefined) ||
  (word !== undefined && !['--keep', '--verify', '--list'].includes(word));
const tellEveryMs = 2000;

async function list(at: string): Promise<void> {
  for (const { name, libraryName, papers, contents, bytes, damaged } of await backupsIn(at))
    console.log(
      `${name}  ${libraryName}: ${counted(papers, 'paper')}, ${counted(contents, 'content')}, ${sizeInWords(bytes)}${damaged.length > 0 ? `, ${damaged.length} damaged` : ''}`,
    );
}

async function verify(at: string): Promise<void> {
  const newest = (await backupsIn(at)).at(-1);
  if (!newest) throw new Error(`There is no complete backup in ${at}`);
  const faults = await backupFaults(at, newest, { bytes: true });
  for (const { file, says } of faults) {
    console.error(`${file} ${says}`);
    // Out of the way, so that the next backup writes it anew.
    if (file.startsWith('content/') && says === 'is not what was written')
      await rename(path.join(at, file), path.join(at, `${file}.damaged`));
  }
  if (faults.length === 0) {
    await noteVerified(newest.name);
    console.log(`${newest.name} is whole: ${counted(newest.contents, 'content')}, ${sizeInWords(newest.bytes)}.`);
    return;
  }
  console.error(`${newest.name} is not whole. Make another backup: it writes anew what is missing.`);
  process.exitCode = 1;
}

async function make(at: string): Promise<void> {
  let toldAt = Date.now();
  const began = Date.now();
  const made = await makeBackup(at, {
    keep,
    told: ({ bytes, ofBytes }) => {
      if (Date.now() - toldAt < tellEveryMs) return;
      toldAt = Date.now();
      const leftMs = bytes === 0 ? null : ((toldAt - began) / bytes) * (ofBytes - bytes);
      console.log(
        `  ${sizeInWords(bytes)} of ${sizeInWords(ofBytes)}${leftMs === null ? '' : `, about ${Math.ceil(leftMs / 1000)} s more`}`,
      );
    },
  });
  await noteBackup(made, at);
  console.log(
    `${made.name}: ${counted(made.papers, 'paper')}, ${counted(made.contents, 'content')}, ${sizeInWords(made.bytes)}; ${sizeInWords(made.newBytes)} of it new.`,
  );
  if (made.damaged.length > 0) {
    console.error(
      `${counted(made.damaged.length, 'content is', 'contents are')} damaged in the library itself: npm run verify -- --bytes says which.`,
    );
    process.exitCode = 1;
  }
}

if (isWrong) {
  console.error('backup: say a folder, and after it nothing, --keep NUMBER, --verify or --list');
  process.exitCode = 2;
} else {
  try {
    const at = path.resolve(folder);
    await (word === '--list' ? list(at) : word === '--verify' ? verify(at) : make(at));
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    console.error(`backup: ${error.issue.says}`);
    process.exitCode = 1;
  }
}
await disconnect();
