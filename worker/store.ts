import { mkdir } from 'node:fs/promises';
import { v2 as webdav } from 'webdav-server';

/** Who signs in at the stand-in, and how: it has nothing but what is put into it to try the library. */
export const standInUser = { name: 'store', password: 'a folder elsewhere' } as const;

/** A folder on another server (WebDAV, RFC 4918), on this machine alone: the stand-in for a store that others keep. */
export class StandInStore {
  readonly #server: webdav.WebDAVServer;
  readonly #folder: string;
  readonly #port: number;

  constructor(port: number, folder: string) {
    const users = new webdav.SimpleUserManager();
    const user = users.addUser(standInUser.name, standInUser.password, false);
    const rights = new webdav.SimplePathPrivilegeManager();
    rights.setRights(user, '/', ['all']);
    [this.#folder, this.#port] = [folder, port];
    this.#server = new webdav.WebDAVServer({
      ...{ hostname: '127.0.0.1', requireAuthentification: true },
      httpAuthentication: new webdav.HTTPBasicAuthentication(users, 'Store'),
      privilegeManager: rights,
    });
  }

  async start(): Promise<void> {
    await mkdir(this.#folder, { recursive: true });
    await this.#server.setFileSystemAsync('/', new webdav.PhysicalFileSystem(this.#folder));
    await this.#server.startAsync(this.#port);
  }

  async stop(): Promise<void> {
    await this.#server.stopAsync();
  }
}
