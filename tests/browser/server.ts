import { spawn, type ChildProcess } from 'node:child_process';
import { createServer } from 'node:net';
import { once } from 'node:events';
import { programOf } from '@/server/base/processes';

/** A web process of the product, on a port and a database of this test's own. */
export class WebServer {
  readonly url: string;
  readonly #port: number;
  #process: ChildProcess | null = null;
  #said = '';

  private constructor(port: number) {
    this.#port = port;
    this.url = `http://127.0.0.1:${port}`;
  }

  static async start(): Promise<WebServer> {
    const server = new WebServer(await freePort());
    await server.again();
    return server;
  }

  /** Signs someone in, and gives the cookies that a browser would then send. */
  async signIn(email: string, password: string): Promise<string> {
    const response = await fetch(`${this.url}/api/auth/sign-in/email`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: this.url },
      body: JSON.stringify({ email, password }),
    });
    if (!response.ok) throw new Error(`${email} was not signed in: ${response.status}`);
    return response.headers
      .getSetCookie()
      .map((each) => each.split(';')[0])
      .join('; ');
  }

  /** The id of the running process. */
  get pid(): number {
    return this.#process?.pid ?? -1;
  }

  /** Starts the process, for the first time or after it was ended or killed, at the same address. */
  async again(): Promise<void> {
    const { file, nodeWords } = programOf('worker/web.ts');
    const child = spawn(process.execPath, [...nodeWords, file], {
      env: {
        ...process.env,
        EMBRIN_DIST: '.next-test',
        EMBRIN_URL: this.url,
        EMBRIN_TALLY: 'thread',
        PORT: String(this.#port),
        NODE_ENV: 'production',
        NODE_OPTIONS: '',
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (data: Buffer) => (this.#said += data.toString()));
    this.#process = child;
    const end = Date.now() + 60_000;
    while (!(await this.#answers())) {
      if (child.exitCode !== null || Date.now() > end)
        throw new Error(`The web process did not start:\n${this.#said.slice(-2000)}`);
    }
  }

  async #answers(): Promise<boolean> {
    const pause = new Promise((resolve) => setTimeout(resolve, 100));
    const answered = await fetch(`${this.url}/api/health`).then(
      (response) => response.ok,
      () => false,
    );
    if (!answered) await pause;
    return answered;
  }

  /** Ends the process: `SIGKILL` as a crash would, else politely. */
  async end(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const child = this.#process;
    this.#process = null;
    if (!child || child.exitCode !== null) return;
    const ended = once(child, 'exit');
    child.kill(signal);
    await ended;
  }
}

/** A port of loopback that nothing listens on. */
export async function freePort(): Promise<number> {
  const probe = createServer().listen(0, '127.0.0.1');
  await once(probe, 'listening');
  const address = probe.address();
  probe.close();
  if (address === null || typeof address === 'string') throw new Error('No free port');
  return address.port;
}
