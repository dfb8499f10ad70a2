/**
 * Starts the web process and the worker, and starts them again when they end: at once the first time, then after a growing pause.
 * Neither takes the other along, and nothing takes the database along. A database of the project's own that has gone is brought
 * back, too. Ends, with all that it started, when it is told to.
 *   supervisor.ts LOGS   the folder where each process writes its log
 */
import { spawn, type ChildProcess } from 'node:child_process';
import { openSync, writeFileSync } from 'node:fs';
import { createConnection } from 'node:net';
import { join } from 'node:path';
import { programOf } from '@/server/base/processes';
import { restartAfter } from '@/core/processes/restarts';

const logs = process.argv[2] ?? '.';
const lookEveryMs = 1000;
/** Processes that were told to end have so long before they are killed. */
const patienceMs = 12_000;

class Kept {
  #child: ChildProcess | null = null;
  #deathsMs: readonly number[] = [];
  #ending = false;
  #again: ReturnType<typeof setTimeout> | null = null;

  constructor(
    private readonly name: string,
    private readonly words: readonly string[],
  ) {
    this.#start();
  }

  get #log(): string {
    return join(logs, `${this.name}.log`);
  }

  #start(): void {
    const out = openSync(this.#log, 'a', 0o600);
    // In a group of its own, so that Ctrl+C reaches it through this process alone and it ends in order.
    const child = spawn(process.execPath, [...this.words], { stdio: ['ignore', out, out], detached: true });
    this.#child = child;
    writeFileSync(join(logs, `${this.name}.pid`), String(child.pid ?? ''));
    child.on('error', () => undefined);
    child.on('exit', (code, signal) => this.#ended(signal ?? `code ${code}`));
  }

  #ended(how: string): void {
    this.#child = null;
    if (this.#ending) return;
    const { pauseMs, tell, deathsMs } = restartAfter(this.#deathsMs, Date.now());
    this.#deathsMs = deathsMs;
    console.log(`The ${this.name} process has ended (${how}). It is started again.`);
    if (tell)
      console.log(
        `It has ended ${deathsMs.length} times within a minute. The library goes on as far as it can; what the process said last is in ${this.#log}`,
      );
    this.#again = setTimeout(() => this.#start(), pauseMs);
  }

  async end(): Promise<void> {
    this.#ending = true;
    if (this.#again) clearTimeout(this.#again);
    const child = this.#child;
    if (!child) return;
    const ended = new Promise((done) => child.once('exit', done));
    child.kill('SIGTERM');
    const timer = setTimeout(() => child.kill('SIGKILL'), patienceMs);
    await ended;
    clearTimeout(timer);
  }
}

/** Brings the project's own database back where nothing answers at its address. One attempt at a time. */
function keepDatabase(): () => void {
  const address = new URL(process.env['DATABASE_URL'] ?? '');
  let bringing = false;
  const look = () => {
    if (bringing) return;
    const probe = createConnection({ host: address.hostname, port: Number(address.port), timeout: 2000 });
    probe.on('connect', () => probe.destroy());
    probe.on('timeout', () => probe.destroy());
    probe.on('error', () => {
      bringing = true;
      console.log('The database does not answer. It is started again.');
      const out = openSync(join(logs, 'database.log'), 'a', 0o600);
      spawn('bash', ['bin/database'], { stdio: ['ignore', out, out] })
        .on('error', () => (bringing = false))
        .on('exit', () => (bringing = false));
    });
  };
  const timer = setInterval(look, lookEveryMs);
  return () => clearInterval(timer);
}

const wordsFor = (source: string): readonly string[] => {
  const { file, nodeWords } = programOf(source);
  return [...nodeWords, file];
};
const kept = [new Kept('web', wordsFor('worker/web.ts')), new Kept('worker', wordsFor('worker/main.ts'))];
const letGo = process.env['EMBRIN_OWN_DATABASE'] === 'yes' ? keepDatabase() : () => undefined;
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.once(signal, () => {
    letGo();
    void Promise.all(kept.map((each) => each.end())).then(() => process.exit(0));
  });
