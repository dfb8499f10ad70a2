import type { ReadingFault } from '@/core/reading/fault';
import type { Stage, StageOutcome } from '@/core/reading/stages';
import type { Tx } from '../../db/client';
import type { OpenContent } from '../openContent';

/** How a stage ended, and what it leaves in the database. */
export interface StageEnd {
  readonly outcome: StageOutcome;
  readonly why: ReadingFault | null;
  /** Writes what was found, in place of what an earlier run of the stage found. */
  readonly write?: (tx: Tx) => Promise<void>;
}

/** Runs one stage. @throws CagedFault if reading was stopped or crashed */
export type RunStage = (opened: OpenContent) => Promise<StageEnd>;

/** A stage by its name. */
export type StageRuns = Readonly<Record<Stage, RunStage>>;

/** All of it was read. */
export const done: StageEnd = { outcome: 'done', why: null };
/** There is nothing in it for this stage. */
export const nothing: StageEnd = { outcome: 'nothing', why: null };
/** It could not be read, and why. */
export const failed = (why: ReadingFault): StageEnd => ({ outcome: 'failed', why });
