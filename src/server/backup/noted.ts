import { desc, eq } from 'drizzle-orm';
import { isDue } from '@/core/backup/manifest';
import type { Backups } from '@/core/backup/contract';
import { asks } from '../acts/operation';
import { now } from '../base/clock';
import { config } from '../base/config';
import { db, writableDb } from '../db/client';
import { backupNote, library } from '../db/schema';
import { requireKeeper } from '../gate/keeper';
import { makeBackup, type BackupMade } from './make';

/** So many of the last backups are told of. */
const mostTold = 20;
/** So many the library keeps where it makes them by itself. */
const keptOnes = 30;

/** Notes that a backup was made. */
export async function noteBackup(made: BackupMade, folder: string): Promise<void> {
  await writableDb()
    .insert(backupNote)
    .values({
      name: made.name,
      folder,
      takenAt: new Date(made.takenAt),
      papers: made.papers,
      bytes: made.bytes,
      newBytes: made.newBytes,
      damaged: made.damaged.length,
    })
    .onConflictDoNothing();
}

/** Notes that a backup was proved whole. */
export async function noteVerified(name: string): Promise<void> {
  await writableDb().update(backupNote).set({ verifiedAt: now() }).where(eq(backupNote.name, name));
}

/** The last backups, and whether the library makes them by itself; for keepers. */
export const backupsOf = asks('backups.made', async (actor): Promise<Backups> => {
  requireKeeper(actor);
  const rows = await db().select().from(backupNote).orderBy(desc(backupNote.takenAt)).limit(mostTold);
  const [settings] = await db().select({ everyDays: library.backupEveryDays }).from(library);
  return {
    backups: rows.map(({ takenAt, verifiedAt, ...row }) => ({
      ...row,
      takenAt: takenAt.toISOString(),
      verifiedAt: verifiedAt?.toISOString() ?? null,
    })),
    everyDays: settings?.everyDays ?? null,
    hasFolder: config().EMBRIN_BACKUPS !== '',
  };
});

/** Makes a backup where the library's settings call for one; does nothing where no folder is configured. */
export async function backUpIfDue(): Promise<void> {
  const folder = config().EMBRIN_BACKUPS;
  if (folder === '') return;
  const [settings] = await db().select({ everyDays: library.backupEveryDays }).from(library);
  const [last] = await db()
    .select({ takenAt: backupNote.takenAt })
    .from(backupNote)
    .orderBy(desc(backupNote.takenAt))
    .limit(1);
  if (!isDue(last?.takenAt.toISOString() ?? null, settings?.everyDays ?? null, now())) return;
  await noteBackup(await makeBackup(folder, { keep: keptOnes }), folder);
}
