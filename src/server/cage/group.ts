import type { ChildProcess } from 'node:child_process';

/** Kills a process that was started detached, and all that it has started. */
export function killGroup(child: ChildProcess): void {
  if (child.pid === undefined) return;
  try {
    process.kill(-child.pid, 'SIGKILL');
  } catch {
    // It has ended meanwhile.
  }
}
