import { bigint, integer, pgTable, text } from 'drizzle-orm/pg-core';
import { instant } from './types';

/** Backups that were made of the library, as they were noted after each. */
export const backupNote = pgTable('backup_note', {
  name: text().primaryKey(),
  /** On the machine that made it. */
  folder: text().notNull(),
  takenAt: instant().notNull(),
  papers: integer().notNull(),
  bytes: bigint({ mode: 'number' }).notNull(),
  newBytes: bigint({ mode: 'number' }).notNull(),
  damaged: integer().notNull(),
  /** When it was proved whole last. */
  verifiedAt: instant(),
});
