import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import { isBackupName, manifestSchema, readContents, type ListedContent, type Manifest } from '@/core/backup/manifest';
import { refuse } from '@/core/errors/refusal';
import { isMissing } from '../blobs/directory';

/** The files of a backup, beside its manifest. */
export const [dumpFile, listFile, secretFile, manifestFile] = [
  'database.dump',
  'contents.txt',
  'secret',
  'manifest.json',
];

/**
 * A folder of backups. Contents are shared by all backups in it, each once, named by its hash:
 *   content/ab/<sha256>                 never changes
 *   backups/<name>/database.dump        all else, as pg_dump's custom format
 *   backups/<name>/contents.txt         which contents belong to it
 *   backups/<name>/manifest.json        written last
 */
export const contentFileIn = (folder: string, sha256: string): string =>
  path.join(folder, 'content', sha256.slice(0, 2), sha256);
/** The folder of one backup. */
export const backupIn = (folder: string, name: string): string => path.join(folder, 'backups', name);

/** The complete backups of a folder, the oldest first. */
export async function backupsIn(folder: string): Promise<Manifest[]> {
  const names = (await readdir(path.join(folder, 'backups')).catch(isMissing)) ?? [];
  const found = await Promise.all(
    names
      .filter(isBackupName)
      .sort()
      .map((name) => manifestOf(folder, name)),
  );
  return found.filter((manifest) => manifest !== null);
}

async function manifestOf(folder: string, name: string): Promise<Manifest | null> {
  const text = await readFile(path.join(backupIn(folder, name), manifestFile), 'utf8').catch(isMissing);
  if (text === null) return null;
  try {
    return manifestSchema.parse(JSON.parse(text));
  } catch {
    return null;
  }
}

/** The contents that belong to a backup. */
export const contentsOf = async (folder: string, name: string): Promise<ListedContent[]> =>
  readContents(await readFile(path.join(backupIn(folder, name), listFile), 'utf8'));

/** The SHA-256 of a file, and its size. @throws for a file that cannot be read */
export async function hashFile(file: string): Promise<{ sha256: string; sizeBytes: number }> {
  const hash = createHash('sha256');
  let sizeBytes = 0;
  for await (const part of createReadStream(file) as AsyncIterable<Buffer>) {
    hash.update(part);
    sizeBytes += part.length;
  }
  return { sha256: hash.digest('hex'), sizeBytes };
}

/** What is wrong with a backup. */
export interface BackupFault {
  /** A file of the backup, by its name in the folder. */
  readonly file: string;
  readonly says: 'is missing' | 'is not what was written';
}

/**
 * Proves a backup whole: its own files by the hashes of the manifest, and, where `bytes` says so, every content by its name.
 * @param told how many bytes of content were read so far
 */
export async function backupFaults(
  folder: string,
  manifest: Manifest,
  { bytes, told = () => undefined }: { readonly bytes: boolean; readonly told?: (bytes: number) => void },
): Promise<BackupFault[]> {
  const faults: BackupFault[] = [];
  const check = async (file: string, wanted: string, sizeBytes: number | null) => {
    const found = await hashFile(path.join(folder, file)).catch(isMissing);
    if (!found) faults.push({ file, says: 'is missing' });
    else if (found.sha256 !== wanted || (sizeBytes !== null && found.sizeBytes !== sizeBytes))
      faults.push({ file, says: 'is not what was written' });
    return found?.sizeBytes ?? 0;
  };
  for (const [file, wanted] of Object.entries(manifest.files)) {
    if (file !== path.basename(file)) refuse('damaged-content', 'The manifest names a file outside of its backup.');
    await check(path.join('backups', manifest.name, file), wanted, null);
  }
  if (faults.length > 0) return faults;
  const damaged = new Set(manifest.damaged);
  let read = 0;
  for (const { sha256, sizeBytes } of bytes ? await contentsOf(folder, manifest.name) : []) {
    if (damaged.has(sha256)) continue;
    read += await check(path.relative(folder, contentFileIn(folder, sha256)), sha256, sizeBytes);
    told(read);
  }
  return faults;
}
