/** A mail server of its own for a test: Dovecot from Debian’s packages, on loopback, with mail in a folder. */
import { spawn, type ChildProcess } from 'node:child_process';
import { chmod, mkdir, mkdtemp, readFile, rename, rm, writeFile } from 'node:fs/promises';
import net from 'node:net';
import { tmpdir, userInfo } from 'node:os';
import path from 'node:path';

export async function freePort(): Promise<number> {
  const server = net.createServer();
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const { port } = server.address() as net.AddressInfo;
  await new Promise((closed) => server.close(closed));
  return port;
}

const answers = (port: number) =>
  new Promise<boolean>((done) => {
    const socket = net.connect(port, '127.0.0.1', () => done(true));
    socket.once('error', () => done(false));
    socket.unref();
  });

export class Dovecot {
  #process: ChildProcess | null = null;
  #count = 0;

  private constructor(
    readonly folder: string,
    readonly port: number,
    readonly password: string,
  ) {}

  static async start(password: string): Promise<Dovecot> {
    const server = new Dovecot(await mkdtemp(path.join(tmpdir(), 'embrin-dovecot-')), await freePort(), password);
    await server.begin();
    return server;
  }

  async begin(): Promise<void> {
    const { username, uid, gid } = userInfo();
    // Dovecot reads no mail as root, and lets nobody sign in as root: its package made users for that.
    const isRoot = uid === 0;
    const reader = isRoot ? { uid: 65_534, gid: 65_534 } : { uid, gid };
    const at = (name: string) => path.join(this.folder, name);
    for (const name of ['mail', 'mail/new', 'mail/cur', 'mail/tmp']) {
      await mkdir(at(name), { recursive: true });
      await chmod(at(name), 0o777);
    }
    await chmod(this.folder, 0o755);
    await writeFile(
      at('dovecot.conf'),
      `base_dir = ${at('run')}
state_dir = ${at('run')}
log_path = ${at('log')}
protocols = imap
listen = 127.0.0.1
ssl = no
disable_plaintext_auth = no
auth_mechanisms = plain login
${isRoot ? '' : `default_internal_user = ${username}\ndefault_login_user = ${username}\ndefault_internal_group = ${gid}`}
first_valid_uid = ${reader.uid}
first_valid_gid = ${reader.gid}
mail_location = maildir:${at('mail')}
passdb {
  driver = static
  args = password=${this.password}
}
userdb {
  driver = static
  args = uid=${reader.uid} gid=${reader.gid} home=${this.folder}
}
service imap-login {
  chroot =
  inet_listener imap {
    port = ${this.port}
  }
  inet_listener imaps {
    port = 0
  }
}
service anvil {
  chroot =
}
service stats {
  chroot =
}
`,
    );
    this.#process = spawn('dovecot', ['-F', '-c', at('dovecot.conf')], { stdio: ['ignore', 'ignore', 'pipe'] });
    let says = '';
    this.#process.stderr?.on('data', (piece: Buffer) => (says += piece.toString()));
    for (let tries = 0; !(await answers(this.port)); tries += 1) {
      if (tries > 200) {
        const logged = await readFile(at('log'), 'utf8').catch(() => '');
        throw new Error(`Dovecot does not answer: ${says}${logged}`);
      }
      await new Promise((next) => setTimeout(next, 50));
    }
  }

  /** Puts a mail into the mailbox, as whoever delivers it does. */
  async deliver(mail: Buffer): Promise<void> {
    const name = `${Date.now()}.M${(this.#count += 1)}.test`;
    await writeFile(path.join(this.folder, 'mail/tmp', name), mail);
    await rename(path.join(this.folder, 'mail/tmp', name), path.join(this.folder, 'mail/new', name));
  }

  async stop(): Promise<void> {
    const running = this.#process;
    this.#process = null;
    if (!running || running.exitCode !== null) return;
    const ended = new Promise((done) => running.once('exit', done));
    running.kill('SIGTERM');
    await ended;
  }

  async remove(): Promise<void> {
    await this.stop();
    await rm(this.folder, { recursive: true, force: true });
  }
}
