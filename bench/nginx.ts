import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { freePort } from '../tests/browser/server';

/** Debian's nginx on a free port of loopback, serving one folder: the bare measure of a file's way out. */
export class Nginx {
  private constructor(
    readonly url: string,
    private readonly child: ChildProcess,
  ) {}

  /** Starts it, and returns once it answers. Needs the package nginx-light. */
  static async serving(folder: string): Promise<Nginx> {
    const port = await freePort();
    const file = path.join(folder, 'nginx.conf');
    await writeFile(
      file,
      `daemon off; user root; worker_processes 1; pid ${folder}/nginx.pid; error_log stderr;
       events { worker_connections 64; }
       http { access_log off; sendfile on; server { listen 127.0.0.1:${port}; root ${folder}; } }`,
    );
    const child = spawn('nginx', ['-e', 'stderr', '-c', file], { stdio: 'ignore' });
    const url = `http://127.0.0.1:${port}`;
    for (;;) {
      if (child.exitCode !== null) throw new Error('nginx did not start: is the package nginx-light there?');
      const answers = await fetch(`${url}/nginx.conf`).then(
        (response) => response.ok,
        () => false,
      );
      if (answers) return new Nginx(url, child);
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }

  async end(): Promise<void> {
    this.child.kill('SIGTERM');
    await once(this.child, 'exit');
  }
}
