import { spawn, type ChildProcess } from 'node:child_process';
import { createInterface } from 'node:readline';
import path from 'node:path';
import { z } from 'zod';
import { programOf } from '../base/processes';
import { CagedFault, type Limits } from './limits';
import { bareEnvironment } from './program';
import { cageWords } from './walls';
import { answerOf, WarmProcesses } from './warm';

/** Limits for one office paper. An office program needs its code's memory before it reads anything. */
const limits: Limits = { timeMs: 60_000, cpuSeconds: 600, memoryBytes: 1_000_000_000, fileBytes: 200_000_000 };
/** How long it may take to start, which the first paper waits for as well. */
const startMs = 30_000;

/** What the office program writes: pages as a PDF, or a workbook or Word document in today's format. */
export type OfficeOutput = 'pages' | 'workbook' | 'word';

/** How a conversion ended. */
const answerSchema = z.object({ end: z.enum(['done', 'protected', 'damaged']) });
export type OfficeEnd = z.output<typeof answerSchema>['end'];

const held = globalThis as typeof globalThis & { embrinOffice?: WarmProcesses };

// One at a time: it is the largest of all readers, and a second would not fit beside the rest in a gigabyte.
const office = (): WarmProcesses =>
  (held.embrinOffice ??= new WarmProcesses({ mostAtOnce: 1, answersEach: 100, idleMs: 60_000, start }));

function start(folder: string): ChildProcess {
  const { file, reads } = programOf('worker/office.py');
  // Debian's own interpreter: the office program's bindings belong to it.
  const [first = '', ...rest] = [...cageWords(limits, { folder, reads }), '/usr/bin/python3', file];
  const child = spawn(first, rest, {
    stdio: ['pipe', 'pipe', 'ignore'],
    env: { ...bareEnvironment(), HOME: folder },
    cwd: folder,
    detached: true,
  });
  // One that has ended is noticed by its end, not by the pipe to it.
  child.stdin.on('error', () => undefined);
  return child;
}

/**
 * Converts an office paper in a caged office program that stays warm, and puts what it made beside the file, named `into`.
 * No macro runs, no link is followed, and there is no network.
 * @param filter the import filter; the file is refused as damaged where it is not of that kind
 * @throws CagedFault if it was stopped or crashed
 */
export async function convertOffice(
  file: string,
  filter: string,
  output: OfficeOutput,
  into: string,
): Promise<OfficeEnd> {
  const first = await converted(file, filter, output, into);
  // A program that an earlier paper has left short of memory finds every file damaged: only a fresh one is believed.
  return first.end === 'damaged' && !first.wasFresh ? (await converted(file, filter, output, into)).end : first.end;
}

function converted(file: string, filter: string, output: OfficeOutput, into: string) {
  return office().use(async (warm) => {
    await warm.own.give(file, 'content');
    const { child } = warm;
    const { stdin, stdout } = child;
    if (!stdin || !stdout) throw new Error('The office program was started without its pipes');
    const line = await answerOf<string>(
      child,
      limits.timeMs + (warm.answered === 0 ? startMs : 0),
      (hear) => {
        const lines = createInterface({ input: stdout });
        lines.once('line', hear);
        return () => lines.close();
      },
      () => void stdin.write(`${JSON.stringify({ filter, output })}\n`),
    );
    const answer = answerSchema.safeParse(parsed(line));
    if (!answer.success) throw new CagedFault('brokeOff');
    if (answer.data.end === 'done') await warm.own.take('made', path.join(path.dirname(file), into));
    warm.spent = answer.data.end === 'damaged' && warm.answered > 0;
    return { end: answer.data.end, wasFresh: warm.answered === 0 };
  });
}

function parsed(line: string): unknown {
  try {
    return JSON.parse(line);
  } catch {
    return null;
  }
}
