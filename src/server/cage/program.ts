import { spawn } from 'node:child_process';
import { CagedFault, cageWords, plainLimits, type Limits } from './limits';

/** Most bytes of a program's output that are kept. */
const mostPrinted = 64_000_000;

/**
 * Runs a program on an uploaded file, within limits. Returns its output; null if it exits with an error, which means that
 * it could not read the file.
 * @throws CagedFault if it had to be stopped, or was killed
 */
export function runProgram(
  program: string,
  words: readonly string[],
  limits: Limits = plainLimits,
): Promise<string | null> {
  const [first = program, ...rest] = [...cageWords(limits), program, ...words];
  return new Promise((done, failed) => {
    const child = spawn(first, rest, { stdio: ['ignore', 'pipe', 'ignore'], env: bareEnvironment() });
    const pieces: Buffer[] = [];
    let [printed, why] = [0, null as CagedFault['why'] | null];
    const stop = (because: CagedFault['why']) => {
      why ??= because;
      child.kill('SIGKILL');
    };
    const timer = setTimeout(() => stop('tooSlow'), limits.timeMs);
    child.stdout.on('data', (piece: Buffer) => {
      printed += piece.length;
      if (printed > mostPrinted) stop('tooLarge');
      else pieces.push(piece);
    });
    child.on('error', (error) => {
      clearTimeout(timer);
      failed(error);
    });
    child.on('close', (code, signal) => {
      clearTimeout(timer);
      if (why !== null) failed(new CagedFault(why));
      else if (signal === 'SIGXFSZ') failed(new CagedFault('tooLarge'));
      else if (signal !== null) failed(new CagedFault('brokeOff'));
      else done(code === 0 ? Buffer.concat(pieces).toString('utf8') : null);
    });
  });
}

/** A bare environment: no secrets, no database address. */
export const bareEnvironment = (): NodeJS.ProcessEnv => ({
  PATH: process.env['PATH'] ?? '/usr/bin:/bin',
  LANG: 'C.UTF-8',
  NODE_ENV: process.env.NODE_ENV,
});
