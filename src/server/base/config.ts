import { z } from 'zod';

/** Everything the processes are told by their environment; a missing value stops the process with its name. */
const schema = z.object({
  DATABASE_URL: z.string().min(1),
  /** Where people reach the library, no slash at the end: `http://127.0.0.1:4780`. */
  EMBRIN_URL: z.url(),
  /** Signs session cookies; made at first start and kept in the data folder. */
  EMBRIN_SECRET: z.string().min(32),
  /** Where the outgoing-mail stand-in writes its messages. */
  EMBRIN_OUTBOX: z.string().min(1),
  /** The proxies whose X-Forwarded-For is believed: addresses and networks, commas between. None: nobody's is. */
  EMBRIN_TRUSTED_PROXIES: z.string().default(''),
  /** A file outside the database in which the journal's head is written down; none: it is not. */
  EMBRIN_ANCHORS: z.string().default(''),
  /** Where views are answered: in this thread, which waits for it, or on one of its own, as the web process has it. */
  EMBRIN_TALLY: z.enum(['here', 'thread']).default('here'),
});

export type Config = z.output<typeof schema>;

let read: Config | null = null;

export function config(): Config {
  // Tests go from one database to the next.
  if (read === null || read.DATABASE_URL !== process.env['DATABASE_URL']) read = schema.parse(process.env);
  return read;
}
