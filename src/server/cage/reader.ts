import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { Turns } from '@/core/collections/turns';
import { CagedFault, cageWords, plainLimits, type Limits } from './limits';
import { bareEnvironment } from './program';
import { cagedAnswer, cagedTasks, type Asked, type CagedTask, type Told } from './tasks';

/** So many things are read at once in one process; the rest waits. */
const mostReaders = 2;
/** A reader that has read so much is let go, and a fresh one takes its place. */
const readsEach = 200;
/** A reader with nothing to do ends after this, so that a process that is done can end. */
const idleMs = 20_000;
/** The processor time of one reader for all that it reads: a thousandfold what plain papers take. */
const limits: Limits = { ...plainLimits, cpuSeconds: 300 };
/** What its JavaScript may have of the memory. */
const heapMegabytes = 512;

interface Reader {
  readonly child: ChildProcess;
  reads: number;
  timer: ReturnType<typeof setTimeout> | null;
}

const held = globalThis as typeof globalThis & { embrinReaders?: Readers };

/** The caged processes of this process that read what people bring in, one thing at a time each. */
class Readers {
  readonly #idle: Reader[] = [];
  readonly #turns = new Turns(mostReaders);

  /** @throws CagedFault where reading came to no end: the reader is killed, and nobody else notices. */
  ask<T extends CagedTask>(task: T, asked: Asked<T>): Promise<Told<T>> {
    return this.#turns.run(async () => {
      const reader = this.#idle.pop() ?? this.#start();
      if (reader.timer) clearTimeout(reader.timer);
      const told = await exchange(reader, task, asked).catch((error: unknown) => {
        // Whatever it read is still in its memory: the next thing gets a fresh one.
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
  const node = [process.execPath, `--max-old-space-size=${heapMegabytes}`, '--import', 'tsx'];
  const [first = '', ...rest] = [...cageWords(limits), ...node, join(process.cwd(), 'worker', 'reader.ts')];
  const child = spawn(first, rest, { stdio: ['ignore', 'ignore', 'ignore', 'ipc'], env: bareEnvironment() });
  child.on('error', () => undefined);
  return child;
}

function exchange<T extends CagedTask>(reader: Reader, task: T, asked: Asked<T>): Promise<Told<T>> {
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
      end(() => done(told.data as Told<T>));
    };
    const timer = setTimeout(() => fail('tooSlow'), limits.timeMs);
    child.on('message', hear);
    child.once('exit', lost);
    child.send({ task, asked }, (error) => {
      if (error) fail('brokeOff');
    });
  });
}

/** Has something that people brought in read by a caged process. */
export function readCaged<T extends CagedTask>(task: T, asked: Asked<T>): Promise<Told<T>> {
  held.embrinReaders ??= new Readers();
  return held.embrinReaders.ask(task, asked);
}
