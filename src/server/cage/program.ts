import { spawn } from 'node:child_process';
import { CagedFault, cageWords, plainLimits, type Limits } from './limits';

/** The most of what a program prints that is kept, in bytes. */
const mostPrinted = 64_000_000;

/**
 * Runs a program on something that people brought in, within limits. Answers what it printed; null where it ended with an error
 * of its own, which says that it could not read what it was given.
 * @throws CagedFault where it had to be stopped, or was killed
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

/** Nothing of ours goes along: no secret, no address of the database. */
export const bareEnvironment = (): NodeJS.ProcessEnv => ({
  PATH: process.env['PATH'] ?? '/usr/bin:/bin',
  LANG: 'C.UTF-8',
  NODE_ENV: process.env.NODE_ENV,
});
