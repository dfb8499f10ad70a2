import { spawn, type ChildProcess } from 'node:child_process';
import { Turns } from '@/core/collections/turns';
import { programOf } from '../base/processes';
import { CagedFault, cageWords, plainLimits, type Limits } from './limits';
import { bareEnvironment } from './program';
import { cagedAnswer, cagedTasks, type TaskInput, type CagedTask, type TaskResult } from './tasks';

/** How many files are read at once per process; others wait. */
const mostReaders = 2;
/** A reader is replaced after this many files. */
const readsEach = 200;
/** An idle reader ends after this, so that its parent can exit. */
const idleMs = 20_000;
/** Processor time of one reader for all its files: a thousand times what ordinary files take. */
const limits: Limits = { ...plainLimits, cpuSeconds: 300 };
/** The JavaScript heap's share of the memory. */
const heapMegabytes = 512;

interface Reader {
  readonly child: ChildProcess;
  reads: number;
  timer: ReturnType<typeof setTimeout> | null;
}

const held = globalThis as typeof globalThis & { embrinReaders?: Readers };

/** This process's caged readers; each reads one file at a time. */
class Readers {
  readonly #idle: Reader[] = [];
  readonly #turns = new Turns(mostReaders);

  /** @throws CagedFault if reading was stopped or crashed; the reader is killed, and others are not affected. */
  ask<T extends CagedTask>(task: T, asked: TaskInput<T>): Promise<TaskResult<T>> {
    return this.#turns.run(async () => {
      const reader = this.#idle.pop() ?? this.#start();
      if (reader.timer) clearTimeout(reader.timer);
      const told = await exchange(reader, task, asked).catch((error: unknown) => {
        // Its memory may be corrupted: the next file gets a new reader.
        reader.child.kill('SIGKILL');
        throw error;
      });
      this.#rest(reader);
      return told;
    });
  }

  #rest(reader: Reader): void {
    reader.reads += 1;
    if (reader.reads >= readsEach) return void reader.child.kill('SIGKILL');
    this.#idle.push(reader);
    reader.child.unref();
    reader.child.channel?.unref();
    reader.timer = setTimeout(() => reader.child.kill('SIGKILL'), idleMs);
    reader.timer.unref();
  }

  #start(): Reader {
    const reader: Reader = { child: startProcess(), reads: 0, timer: null };
    reader.child.once('exit', () => {
      const at = this.#idle.indexOf(reader);
      if (at !== -1) this.#idle.splice(at, 1);
    });
    return reader;
  }
}

function startProcess(): ChildProcess {
  const { file, nodeWords } = programOf('worker/reader.ts');
  const node = [process.execPath, `--max-old-space-size=${heapMegabytes}`, ...nodeWords, file];
  const [first = '', ...rest] = [...cageWords(limits), ...node];
  const child = spawn(first, rest, { stdio: ['ignore', 'ignore', 'ignore', 'ipc'], env: bareEnvironment() });
  child.on('error', () => undefined);
  return child;
}

function exchange<T extends CagedTask>(reader: Reader, task: T, asked: TaskInput<T>): Promise<TaskResult<T>> {
  const { child } = reader;
  child.ref();
  child.channel?.ref();
  return new Promise((done, failed) => {
    const end = (work: () => void) => {
      clearTimeout(timer);
      child.off('message', hear);
      child.off('exit', lost);
      work();
    };
    const fail = (why: CagedFault['why']) => end(() => failed(new CagedFault(why)));
    const lost = () => fail('brokeOff');
    const hear = (message: unknown) => {
      const answer = cagedAnswer.safeParse(message);
      if (!answer.success) return fail('brokeOff');
      if ('tooLarge' in answer.data) return fail('tooLarge');
      const told = cagedTasks[task].told.safeParse(answer.data.told);
      if (!told.success) return fail('brokeOff');
      end(() => done(told.data as TaskResult<T>));
    };
    const timer = setTimeout(() => fail('tooSlow'), limits.timeMs);
    child.on('message', hear);
    child.once('exit', lost);
    child.send({ task, asked }, (error) => {
      if (error) fail('brokeOff');
    });
  });
}

/** Reads an uploaded file in a caged process. */
export function readCaged<T extends CagedTask>(task: T, asked: TaskInput<T>): Promise<TaskResult<T>> {
  held.embrinReaders ??= new Readers();
  return held.embrinReaders.ask(task, asked);
}
