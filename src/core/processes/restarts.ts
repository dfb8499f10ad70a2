/** Deaths within this long belong together. In milliseconds. */
const togetherMs = 60_000;
/** So many within that time are told to whoever started the library. */
const toldAfter = 3;
const firstPauseMs = 100;
const longestPauseMs = 15_000;

/** What is to be done about a process that has ended. */
export interface Restart {
  /** Wait this long before it is started again: twice as long for each death within the last minute. */
  readonly pauseMs: number;
  /** Whether this is the death, of several, that is to be told. */
  readonly tell: boolean;
  /** The moments that are still counted, this one among them. */
  readonly deathsMs: readonly number[];
}

/**
 * How a process that ended by itself is started again: at once the first time, after a growing pause where it goes on ending.
 * @param deathsMs the moments of its deaths before this one, in milliseconds
 */
export function restartAfter(deathsMs: readonly number[], nowMs: number): Restart {
  const recent = [...deathsMs.filter((at) => nowMs - at < togetherMs), nowMs];
  return {
    pauseMs: Math.min(longestPauseMs, firstPauseMs * 2 ** (recent.length - 1)),
    tell: recent.length % toldAfter === 0,
    deathsMs: recent,
  };
}
