import { z } from 'zod';

/** Everything the processes are told by their environment. Read once; a missing value stops the process with its name. */
const schema = z.object({
  DATABASE_URL: z.string().min(1),
  /** Where people reach the library, no slash at the end: `http://127.0.0.1:4780`. */
  EMBRIN_URL: z.url(),
  /** Signs session cookies; made at first start and kept in the data folder. */
  EMBRIN_SECRET: z.string().min(32),
  /** Where the outgoing-mail stand-in writes its messages. */
  EMBRIN_OUTBOX: z.string().min(1),
});

export type Config = z.output<typeof schema>;

let read: Config | null = null;

export function config(): Config {
  read ??= schema.parse(process.env);
  return read;
}
