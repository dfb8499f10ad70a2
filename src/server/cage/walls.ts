import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import type { Limits } from './limits';

/** What a caged process may reach of the file system. */
export interface Reach {
  /** The one folder it may write to. */
  readonly folder: string;
  /** Files and folders that it may read besides the system's programs. */
  readonly reads?: readonly string[];
}

/** How much a caged process may write to its own temporary folder, which is in memory. In bytes. */
const temporaryBytes = 256_000_000;

/** The system's programs, libraries and fonts; nothing of the library, its database or its secrets is among them. */
const system = [
  ...['/usr', '/etc/fonts', '/etc/libreoffice', '/etc/alternatives', '/etc/ld.so.cache', '/var/cache/fontconfig'],
  '/var/lib/libreoffice',
];

const walled = ({ folder, reads = [] }: Reach): string[] => [
  ...['bwrap', '--unshare-all', '--die-with-parent', '--new-session'],
  ...['--symlink', 'usr/bin', '/bin', '--symlink', 'usr/lib', '/lib', '--symlink', 'usr/lib64', '/lib64'],
  ...['--proc', '/proc', '--dev', '/dev', '--size', String(temporaryBytes), '--tmpfs', '/tmp'],
  ...[...system, ...reads].flatMap((each) => ['--ro-bind-try', each, each]),
  ...['--bind', folder, folder, '--chdir', folder, '--setenv', 'HOME', folder, '--'],
];

/** What keeps a caged process in: everything, only the network from it, or nothing but the limits. */
type Walls = 'walls' | 'noNetwork' | 'limits';

let found: Walls | null = null;

/** What this system allows. Some containers allow no namespaces: the limits hold there too, and the start says so. */
export function wallsHere(): Walls {
  if (found) return found;
  const runs = ([first = '', ...rest]: readonly string[]): boolean => spawnSync(first, [...rest, 'true']).status === 0;
  found = runs(walled({ folder: '/tmp' })) ? 'walls' : runs(['unshare', '--net', '--']) ? 'noNetwork' : 'limits';
  return found;
}

/** Node opens the files of a package side by side as it loads them: with 256, a reader of notes often could not start. */
const mostOpenFiles = 1024;

/** The words before a program that limit it, take the network from it, and leave it nothing but its folder. */
export function cageWords({ cpuSeconds, memoryBytes, fileBytes }: Limits, reach: Reach): readonly string[] {
  const limited = existsSync('/usr/bin/prlimit')
    ? [
        'prlimit',
        `--cpu=${cpuSeconds}`,
        `--data=${memoryBytes}`,
        `--fsize=${fileBytes}`,
        '--core=0',
        `--nofile=${mostOpenFiles}`,
        '--',
      ]
    : [];
  const walls = wallsHere();
  return [...limited, ...(walls === 'walls' ? walled(reach) : walls === 'noNetwork' ? ['unshare', '--net', '--'] : [])];
}
