import { spawn, type ChildProcessByStdio } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { createInterface } from 'node:readline';
import type { Readable, Writable } from 'node:stream';

/** An answer that takes longer ends the program; the next question starts it anew. */
const timeoutMs = 5000;

/**
 * Debian's `file`, kept running: starting it for each paper took a quarter of the web process's time. It is asked by the names of
 * temporary files, one a line, and answers in the same order.
 */
class Magic {
  readonly #child: ChildProcessByStdio<Writable, Readable, null>;
  readonly #folder = mkdtempSync(path.join(/* turbopackIgnore: true */ tmpdir(), 'embrin-kind-'));
  readonly #waiting: ((mediaType: string | null) => void)[] = [];
  #count = 0;
  #ended = false;
  readonly #onExit = () => this.#end();

  constructor() {
    this.#child = spawn('file', ['--brief', '--mime-type', '--no-buffer', '--files-from', '-'], {
      stdio: ['pipe', 'pipe', 'ignore'],
    });
    // It alone keeps no process from ending.
    this.#child.unref();
    for (const stream of [this.#child.stdin, this.#child.stdout])
      if ('unref' in stream && typeof stream.unref === 'function') stream.unref();
    const end = this.#onExit;
    this.#child.on('error', end).on('exit', end);
    this.#child.stdin.on('error', end);
    createInterface({ input: this.#child.stdout }).on('line', (line) => this.#waiting.shift()?.(line.trim()));
    process.once('exit', this.#onExit);
  }

  get isOver(): boolean {
    return this.#ended;
  }

  /** The media type of a beginning; null if it cannot tell. */
  async typeOf(beginning: Uint8Array): Promise<string | null> {
    this.#count += 1;
    const file = path.join(/* turbopackIgnore: true */ this.#folder, String(this.#count));
    try {
      await writeFile(file, beginning, { mode: 0o600 });
      return await this.#ask(file);
    } finally {
      await rm(file, { force: true });
    }
  }

  #ask(file: string): Promise<string | null> {
    return new Promise((answered) => {
      if (this.#ended) return answered(null);
      const timer = setTimeout(() => this.#child.kill('SIGKILL'), timeoutMs);
      this.#waiting.push((mediaType) => {
        clearTimeout(timer);
        answered(mediaType);
      });
      this.#child.stdin.write(`${file}\n`);
    });
  }

  #end(): void {
    if (this.#ended) return;
    this.#ended = true;
    process.off('exit', this.#onExit);
    for (const answer of this.#waiting.splice(0)) answer(null);
    rmSync(this.#folder, { recursive: true, force: true });
  }
}

const held = globalThis as typeof globalThis & { embrinMagic?: Magic };

/** The media type of a file by its beginning, as Debian's `file` has it; null if it cannot tell or is not installed. */
export function magicTypeOf(beginning: Uint8Array): Promise<string | null> {
  if (!held.embrinMagic || held.embrinMagic.isOver) held.embrinMagic = new Magic();
  return held.embrinMagic.typeOf(beginning);
}
