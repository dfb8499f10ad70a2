import { spawn, type ChildProcess } from 'node:child_process';
import path from 'node:path';
import { programOf } from '../base/processes';
import { CagedFault, plainLimits, type Limits } from './limits';
import { bareEnvironment } from './program';
import { cagedAnswer, cagedTasks, type TaskInput, type CagedTask, type TaskResult } from './tasks';
import { cageWords } from './walls';
import { answerOf, WarmProcesses, type Warm } from './warm';

/** Processor time of one reader for all its files: a thousand times what ordinary files take. */
const limits: Limits = { ...plainLimits, cpuSeconds: 300 };
/** The JavaScript heap's share of the memory. */
const heapMegabytes = 512;

const held = globalThis as typeof globalThis & { embrinReaders?: WarmProcesses };

const readers = (): WarmProcesses =>
  (held.embrinReaders ??= new WarmProcesses({ mostAtOnce: 2, answersEach: 200, idleMs: 20_000, start }));

function start(folder: string): ChildProcess {
  const { file, nodeWords, reads } = programOf('worker/reader.ts');
  const node = [process.execPath, `--max-old-space-size=${heapMegabytes}`, ...nodeWords, file];
  const [first = '', ...rest] = [...cageWords(limits, { folder, reads }), ...node];
  return spawn(first, rest, {
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    env: bareEnvironment(),
    cwd: folder,
    detached: true,
  });
}

/**
 * Reads an uploaded file in a caged process. Files that the task writes are moved beside the file that it read.
 * @throws CagedFault if reading was stopped, crashed, or came to too much
 */
export function readCaged<T extends CagedTask>(task: T, file: string, asked: TaskInput<T>): Promise<TaskResult<T>> {
  return readers().use(async (warm) => {
    await warm.own.give(file, 'content');
    const { told, wrote } = await exchange(warm, task, asked);
    for (const name of wrote) await warm.own.take(name, path.join(path.dirname(file), name));
    return told;
  });
}

async function exchange<T extends CagedTask>({ child }: Warm, task: T, asked: TaskInput<T>) {
  const message = await answerOf<unknown>(
    child,
    limits.timeMs,
    (hear) => {
      child.on('message', hear);
      return () => void child.off('message', hear);
    },
    // A message that cannot be sent has no answer: the process has ended, or ends at the time limit.
    () => void child.send({ task, asked }, () => undefined),
  );
  const answer = cagedAnswer.safeParse(message);
  if (!answer.success) throw new CagedFault('brokeOff');
  if ('tooLarge' in answer.data) throw new CagedFault('tooLarge');
  const told = cagedTasks[task].told.safeParse(answer.data.told);
  if (!told.success) throw new CagedFault('brokeOff');
  return { told: told.data as TaskResult<T>, wrote: answer.data.wrote };
}
