import { z } from 'zod';

/** Everything the processes read from their environment; a missing value stops the process and is named. */
const schema = z.object({
  DATABASE_URL: z.string().min(1),
  /** The address of the library, without a slash at the end: `http://127.0.0.1:4780`. */
  EMBRIN_URL: z.url(),
  /** Signs session cookies; made at first start and kept in the data folder. */
  EMBRIN_SECRET: z.string().min(32),
  /** The folder to which the stand-in for a mail server writes messages. */
  EMBRIN_OUTBOX: z.string().min(1),
  /** The folder of papers' content, where the library keeps it in a directory. */
  EMBRIN_CONTENT: z.string().min(1),
  /** The folder in which the folders lie from which the library takes what arrives. */
  EMBRIN_ARRIVALS: z.string().min(1),
  /** The port on which mail is taken, on loopback. 0: none is taken. */
  EMBRIN_MAIL_PORT: z.coerce.number().int().min(0).max(65_535).default(0),
  /** The port, on loopback, and the folder of the stand-in for a store on another server. 0: there is none. */
  EMBRIN_STORE_PORT: z.coerce.number().int().min(0).max(65_535).default(0),
  EMBRIN_STORE: z.string().default(''),
  /** Proxies whose X-Forwarded-For is trusted: addresses and networks, separated by commas. Empty: none. */
  EMBRIN_TRUSTED_PROXIES: z.string().default(''),
  /** The file for journal anchors, outside the database. Empty: no anchors are written. */
  EMBRIN_ANCHORS: z.string().default(''),
  /** The folder of archives that people asked for. */
  EMBRIN_EXPORTS: z.string().min(1),
  /** The folder into which the library backs itself up. Empty: it makes no backups by itself. */
  EMBRIN_BACKUPS: z.string().default(''),
  /** Where views are answered: in the calling thread, or, as in the web process, on a thread of their own. */
  EMBRIN_TALLY: z.enum(['here', 'thread']).default('here'),
});

export type Config = z.output<typeof schema>;

let read: Config | null = null;

/** The configuration from the environment; throws if it is wrong. */
export function config(): Config {
  // Tests change these while they run.
  const { DATABASE_URL, EMBRIN_CONTENT } = process.env;
  if (read === null || read.DATABASE_URL !== DATABASE_URL || read.EMBRIN_CONTENT !== EMBRIN_CONTENT)
    read = schema.parse(process.env);
  return read;
}
