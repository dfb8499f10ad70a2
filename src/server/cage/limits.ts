import { existsSync } from 'node:fs';
import { spawnSync } from 'node:child_process';

/** What something that people brought in may use up while it is read. */
export interface Limits {
  /** After this the reader is killed. */
  readonly timeMs: number;
  /**
   * Processor time, after which the system itself ends it, also where whoever waited for it is gone (RLIMIT_CPU).
   */
  readonly cpuSeconds: number;
  /** What it may have for itself, code and shared files left out (RLIMIT_DATA). */
  readonly memoryBytes: number;
  /** The largest file it may write. */
  readonly fileBytes: number;
}

/** For one page, one text, one table. */
export const plainLimits: Limits = {
  timeMs: 20_000,
  cpuSeconds: 25,
  memoryBytes: 1_200_000_000,
  fileBytes: 200_000_000,
};

/** For drawing one page: what takes longer than this on the screen is no page to read. */
export const pageLimits: Limits = { ...plainLimits, timeMs: 10_000, cpuSeconds: 15 };

/** Why reading something came to no end. */
export class CagedFault extends Error {
  constructor(readonly why: 'tooSlow' | 'tooLarge' | 'brokeOff') {
    super(`Reading came to no end: ${why}`);
    this.name = 'CagedFault';
  }
}

let offline: readonly string[] | null = null;

/**
 * Words before a command that keep it within limits and off the network. Where the system lets nobody make a network of their own
 * (a container without that right), it runs with the limits alone.
 */
export function cageWords({ cpuSeconds, memoryBytes, fileBytes }: Limits): readonly string[] {
  offline ??= spawnSync('unshare', ['--net', 'true']).status === 0 ? ['unshare', '--net', '--'] : [];
  const limited = existsSync('/usr/bin/prlimit')
    ? [
        'prlimit',
        `--cpu=${cpuSeconds}`,
        `--data=${memoryBytes}`,
        `--fsize=${fileBytes}`,
        '--core=0',
        '--nofile=256',
        '--',
      ]
    : [];
  return [...offline, ...limited];
}
