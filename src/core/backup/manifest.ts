import { z } from 'zod';

/** What a backup says of itself. It is written last: a backup without it is not complete, and is not used. */
export const manifestSchema = z.strictObject({
  format: z.literal('embrin-backup-1'),
  /** `2026-11-27T101500Z`: when the snapshot was taken. */
  name: z.string().regex(/^\d{4}-\d\d-\d\dT\d{6}Z$/u),
  libraryId: z.uuid(),
  libraryName: z.string(),
  /** ISO 8601. */
  takenAt: z.string(),
  contents: z.number().int().nonnegative(),
  bytes: z.number().int().nonnegative(),
  papers: z.number().int().nonnegative(),
  /** The journal's head; null while it is empty. */
  journal: z.object({ entryId: z.number().int(), hash: z.string() }).nullable(),
  /** SHA-256 of each file of the backup beside this one. */
  files: z.record(z.string(), z.string().regex(/^[0-9a-f]{64}$/u)),
  /** Contents that were damaged in the library itself, and of which no earlier backup had a whole one. */
  damaged: z.array(z.string()).readonly(),
});
export type Manifest = z.output<typeof manifestSchema>;

/** The name of a backup, after the moment of its snapshot. */
export const backupName = (at: Date): string => `${at.toISOString().slice(0, 19).replaceAll(':', '')}Z`;

/** Whether a name is that of a backup. */
export const isBackupName = (name: string): boolean => manifestSchema.shape.name.safeParse(name).success;

/** A line of the list of contents: hash and size in bytes. */
export interface ListedContent {
  readonly sha256: string;
  readonly sizeBytes: number;
}

/** The list of contents as text, one a line: `<sha256> <size>`. */
export const writeContents = (contents: readonly ListedContent[]): string =>
  contents.map(({ sha256, sizeBytes }) => `${sha256} ${sizeBytes}\n`).join('');

/** Reads such a list. @throws Error for a line that is none */
export const readContents = (text: string): ListedContent[] =>
  text
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => {
      const [, sha256, size] = /^([0-9a-f]{64}) (\d{1,16})$/u.exec(line) ?? [];
      if (sha256 === undefined || size === undefined) throw new Error('The list of contents has a line that is none');
      return { sha256, sizeBytes: Number(size) };
    });

/**
 * Which backups stay when so many are to be kept: the newest ones.
 * @param names in any order
 */
export const keptBackups = (names: readonly string[], keep: number): string[] => [...names].sort().slice(-keep);

/**
 * Whether a backup is due.
 * @param lastAt when the last was taken, ISO 8601; null: never
 * @param everyDays null: none are asked for
 */
export const isDue = (lastAt: string | null, everyDays: number | null, now: Date): boolean =>
  everyDays !== null && (lastAt === null || now.getTime() - Date.parse(lastAt) >= everyDays * 86_400_000);
