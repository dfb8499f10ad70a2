import { writeFile } from 'node:fs/promises';

/** The file that a task reads, in the reader's own folder. */
export const contentFile = 'content';

/** Content that comes to more than is read: told as such, and no reason to end the reader. */
export class TooLarge extends Error {}

/** The files that the running task has written; they are moved out of the cage when it has answered. */
export class Written {
  readonly names: string[] = [];

  async file(name: string, bytes: string | Uint8Array): Promise<void> {
    await writeFile(name, bytes);
    this.names.push(name);
  }

  /** A form for the screen. @throws TooLarge if it comes to more than a screen can be given */
  view(form: unknown): Promise<void> {
    const json = JSON.stringify(form);
    if (json.length > mostViewCharacters) throw new TooLarge();
    return this.file('view', json);
  }
}

const mostViewCharacters = 30_000_000;
