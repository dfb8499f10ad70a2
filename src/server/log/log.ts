import pino from 'pino';

const held = globalThis as typeof globalThis & { embrinLog?: pino.Logger };

/**
 * What the processes say, a line of JSON each, on standard output. Never a value, a title, an address or a query: what people
 * wrote belongs to the library, and not to who keeps the machine.
 */
export function log(): pino.Logger {
  held.embrinLog ??= pino({ base: { pid: process.pid }, timestamp: pino.stdTimeFunctions.isoTime });
  return held.embrinLog;
}
