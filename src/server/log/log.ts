import pino from 'pino';

const held = globalThis as typeof globalThis & { embrinLog?: pino.Logger };

/**
 * The log: lines of JSON on standard output. Never contains values, titles, addresses or queries, since whoever
 * administers the machine need not be allowed to read papers.
 */
export function log(): pino.Logger {
  held.embrinLog ??= pino({ base: { pid: process.pid }, timestamp: pino.stdTimeFunctions.isoTime });
  return held.embrinLog;
}
