import { DrizzleQueryError } from 'drizzle-orm/errors';
import type { CapabilitySet } from '@/core/access/capability';
import { openingLets } from '@/core/access/resolve';
import { Refusal, refuse } from '@/core/errors/refusal';
import type { Actor } from '../gate/actor';
import type { Tx } from '../db/client';
import { databaseIssue } from '../db/databaseIssue';
import { transaction, type Derived } from '../db/transaction';
import type { JournalEvent } from '@/core/journal/events';
import { appendToJournal } from './append';

/** What an act's work returns: its result and the journal entry that records it. `entry: null` means that nothing was changed. */
export type Done<T> =
  | { readonly entry: JournalEvent | null; readonly result: T }
  /** For work that has to store something under the entry's id, in the same transaction. */
  | { readonly entry: JournalEvent; readonly recorded: (entryId: number) => Promise<T> };

type Acting = Pick<Actor, 'personId' | 'keeper' | 'seenBy' | 'narrowed'>;

/**
 * Runs one act: a transaction that includes its journal entry, so that both are committed or neither. The work has to say
 * what to record.
 * @param changes which derived data the work changes. All other derived data stays as it is until the transaction commits. Default: none.
 * @param work may run several times after conflicts, so it must have no effect outside the transaction.
 */
export async function perform<T>(actor: Acting, work: (tx: Tx) => Promise<Done<T>>): Promise<T>;
export async function perform<T>(
  actor: Acting,
  changes: readonly Derived[],
  work: (tx: Tx) => Promise<Done<T>>,
): Promise<T>;
export async function perform<T>(
  actor: Acting,
  ...rest: [(tx: Tx) => Promise<Done<T>>] | [readonly Derived[], (tx: Tx) => Promise<Done<T>>]
): Promise<T> {
  const [changes, work] = rest.length === 1 ? [[], rest[0]] : rest;
  requireOwnSight(actor);
  try {
    return await transaction(changes, async (tx) => {
      const done = await work(tx);
      if ('recorded' in done) return done.recorded(await appendToJournal(tx, actor, done.entry));
      if (done.entry) await appendToJournal(tx, actor, done.entry);
      return done.result;
    });
  } catch (error) {
    const known = databaseIssue(error);
    if (known) throw new Refusal(known);
    throw error;
  }
}

/** Refuses every act by a read-only token. */
export function requireActing(actor: Pick<Actor, 'narrowed'>): void {
  if (actor.narrowed && !changesAnything(actor.narrowed.to))
    refuse('not-allowed', 'This token only reads. Nothing was changed.');
}

/** Refuses every act while the caller impersonates someone, or holds a read-only token. */
export function requireOwnSight(actor: Pick<Actor, 'seenBy' | 'narrowed'>): void {
  requireActing(actor);
  if (actor.seenBy)
    refuse(
      'not-allowed',
      'You are seeing the library as someone else would. Nothing was changed; go back to your own sight first.',
    );
}

const changesAnything = (set: CapabilitySet): boolean => (set & ~openingLets) !== 0;

/** SQLSTATE classes that mean the server is away or going: 08 connection, 57P shutting down, 53300 too many connections. */
const awayCodes = /^(?:08|57P0|53300)/u;
const awayErrors = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT']);

/** Whether an error means that the database cannot be reached. */
export function isDatabaseAway(error: unknown): boolean {
  const cause = error instanceof DrizzleQueryError ? error.cause : error;
  if (!(cause instanceof Error) || cause instanceof Refusal) return false;
  const code = 'code' in cause && typeof cause.code === 'string' ? cause.code : '';
  return (
    awayCodes.test(code) ||
    awayErrors.has(code) ||
    /connection terminated|timeout exceeded when trying to connect/iu.test(cause.message)
  );
}
