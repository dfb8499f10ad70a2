import { z } from 'zod';
import { ask } from '../operation/operation';

/** A backup that was made. Times are ISO 8601. */
export interface NotedBackup {
  readonly name: string;
  /** On the machine that made it. */
  readonly folder: string;
  readonly takenAt: string;
  readonly papers: number;
  readonly bytes: number;
  /** Of contents that the folder did not have before. */
  readonly newBytes: number;
  /** Contents that were damaged in the library. */
  readonly damaged: number;
  /** When it was proved whole last; null: never. */
  readonly verifiedAt: string | null;
}

/** The last backups, newest first, and how they come about. */
export interface Backups {
  readonly backups: readonly NotedBackup[];
  /** How often the library makes one by itself; null: never. */
  readonly everyDays: number | null;
  /** Whether a folder is configured for that. */
  readonly hasFolder: boolean;
}

/** Questions about backups. */
export const backupContract = { 'backups.made': ask<Backups>()(z.object({})) };
