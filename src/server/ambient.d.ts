declare module 'mbox-reader' {
  import type { Readable } from 'node:stream';

  /** Yields the mails of an mbox file, one after the other. Only what is used here. */
  export function mboxReader(source: Readable): AsyncGenerator<{ readonly content: Buffer }>;
}
