/**
 * Restores a library from a backup into an empty one: stop the library, then
 *   npm run restore -- FOLDER          the newest backup of the folder
 *   npm run restore -- FOLDER NAME     the one of that name (npm run backup -- FOLDER --list)
 */
import { chmod, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { Refusal } from '@/core/errors/refusal';
import { counted, sizeInWords } from '@/core/text/measure';
import { restoreBackup } from '@/server/backup/restore';
import { disconnect } from '@/server/db/client';
import { verifyLibrary } from '@/server/verify/verify';

const [folder, name, ...more] = process.argv.slice(2);
const tellEveryMs = 2000;

async function restore(at: string): Promise<void> {
  let toldAt = Date.now();
  const { manifest, secret } = await restoreBackup(at, name ?? null, ({ bytes, ofBytes }) => {
    if (Date.now() - toldAt < tellEveryMs) return;
    toldAt = Date.now();
    console.log(`  ${sizeInWords(bytes)} of ${sizeInWords(ofBytes)}`);
  });
  // Two-step sign-ins were sealed with it.
  const state = process.env['STATE'];
  if (state !== undefined) {
    const file = path.join(state, 'secret');
    await writeFile(file, secret, { mode: 0o600 });
    await chmod(file, 0o600);
  }
  const differences = await verifyLibrary({ contentBytes: false });
  for (const { of, about, says } of differences.slice(0, 50)) console.log(`${of}: ${about} ${says}`);
  console.log(
    `${manifest.name} of “${manifest.libraryName}” is restored: ${counted(manifest.papers, 'paper')}, ${sizeInWords(manifest.bytes)}. ${differences.length === 0 ? 'Everything is as it should be.' : `${differences.length} things are not as they should be.`}`,
  );
  if (differences.length > 0) process.exitCode = 1;
}

if (folder === undefined || folder.startsWith('--') || more.length > 0) {
  console.error(
    'restore: say the folder of the backups, and after it the name of one where it is not to be the newest',
  );
  process.exitCode = 2;
} else {
  try {
    await restore(path.resolve(folder));
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    console.error(`restore: ${error.issue.says}`);
    process.exitCode = 1;
  }
}
await disconnect();
