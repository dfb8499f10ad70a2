import { spawn } from 'node:child_process';
import path from 'node:path';
import { killGroup } from './group';
import { CagedFault, plainLimits, type Limits } from './limits';
import { cageWords } from './walls';

/** Most bytes of a program's output that are kept, and of its complaints. */
const mostPrinted = 64_000_000;
const mostComplaint = 4000;
/** A shell's way to say that a signal ended a program: this and the signal's number. */
const signalled = 128;
/** SIGXFSZ: it wrote a larger file than it may. */
const tooLargeFile = 25;

/** How a program ended by itself: its output, or what it said where it could not read the file. */
export type ProgramEnd =
  { readonly ok: true; readonly printed: string } | { readonly ok: false; readonly complaint: string };

/**
 * Runs a program on a file in a folder, within limits, reaching nothing else.
 * @throws CagedFault if it had to be stopped, or was killed
 */
export function runProgram(
  program: string,
  words: readonly string[],
  folder: string,
  limits: Limits = plainLimits,
): Promise<ProgramEnd> {
  const [first = program, ...rest] = [...cageWords(limits, { folder }), program, ...words];
  return new Promise((done, failed) => {
    const child = spawn(first, rest, { stdio: ['ignore', 'pipe', 'pipe'], env: bareEnvironment(), detached: true });
    const pieces: Buffer[] = [];
    let [printed, complaint, why] = [0, '', null as CagedFault['why'] | null];
    const stop = (because: CagedFault['why']) => {
      why ??= because;
      killGroup(child);
    };
    const timer = setTimeout(() => stop('tooSlow'), limits.timeMs);
    child.stdout.on('data', (piece: Buffer) => {
      printed += piece.length;
      if (printed > mostPrinted) stop('tooLarge');
      else pieces.push(piece);
    });
    child.stderr.on('data', (piece: Buffer) => {
      if (complaint.length < mostComplaint) complaint += piece.toString('utf8');
    });
    child.on('error', (error) => {
      clearTimeout(timer);
      failed(error);
    });
    child.on('close', (code, signal) => {
      clearTimeout(timer);
      if (why !== null) failed(new CagedFault(why));
      else if (signal === 'SIGXFSZ' || code === signalled + tooLargeFile) failed(new CagedFault('tooLarge'));
      else if (signal !== null || (code ?? 0) > signalled) failed(new CagedFault('brokeOff'));
      else if (code === 0) done({ ok: true, printed: Buffer.concat(pieces).toString('utf8') });
      else done({ ok: false, complaint });
    });
  });
}

/** A bare environment: no secrets, no database address. */
export const bareEnvironment = (): NodeJS.ProcessEnv => ({
  PATH: process.env['PATH'] ?? '/usr/bin:/bin',
  LANG: 'C.UTF-8',
  NODE_ENV: process.env.NODE_ENV,
  // One processor for each: what is read must leave the other one to people.
  OMP_THREAD_LIMIT: '1',
  TSX_TSCONFIG_PATH: path.join(/* turbopackIgnore: true */ process.cwd(), 'tsconfig.json'),
});
