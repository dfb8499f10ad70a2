/** Deaths within this time count together, in milliseconds. */
const togetherMs = 60_000;
/** This many within that time are reported. */
const toldAfter = 3;
const firstPauseMs = 100;
const longestPauseMs = 15_000;

/** How to restart a process that has ended. */
export interface Restart {
  /** The pause before it is started, doubled for each death within the last minute. */
  readonly pauseMs: number;
  /** Whether to report the deaths. */
  readonly tell: boolean;
  /** The times of recent deaths, including this one. */
  readonly deathsMs: readonly number[];
}

/**
 * Decides how to restart a process: at once the first time, then after growing pauses.
 * @param deathsMs the times of its earlier deaths, in milliseconds
 */
export function restartAfter(deathsMs: readonly number[], nowMs: number): Restart {
  const recent = [...deathsMs.filter((at) => nowMs - at < togetherMs), nowMs];
  return {
    pauseMs: Math.min(longestPauseMs, firstPauseMs * 2 ** (recent.length - 1)),
    tell: recent.length % toldAfter === 0,
    deathsMs: recent,
  };
}
