/** Limits on reading an uploaded file. */
export interface Limits {
  /** After this the reader is killed. */
  readonly timeMs: number;
  /**
   * Processor time after which the system ends the reader, even if its parent process is gone (RLIMIT_CPU).
   */
  readonly cpuSeconds: number;
  /** Private memory, without code and shared files (RLIMIT_DATA). */
  readonly memoryBytes: number;
  /** The largest file it may write. */
  readonly fileBytes: number;
}

/** Limits for one page, one text or one table. */
export const plainLimits: Limits = {
  timeMs: 20_000,
  cpuSeconds: 25,
  memoryBytes: 1_200_000_000,
  fileBytes: 200_000_000,
};

/** Limits for drawing one page on the screen. */
export const pageLimits: Limits = { ...plainLimits, timeMs: 10_000, cpuSeconds: 15 };

/** Reading was stopped or crashed, and why. */
export class CagedFault extends Error {
  constructor(readonly why: 'tooSlow' | 'tooLarge' | 'brokeOff') {
    super(`Reading came to no end: ${why}`);
    this.name = 'CagedFault';
  }
}
