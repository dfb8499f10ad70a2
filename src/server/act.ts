import { DrizzleQueryError } from 'drizzle-orm/errors';
import { DatabaseError } from 'pg';
import type { CapabilitySet } from '@/core/access/capability';
import { openingLets } from '@/core/access/resolve';
import type { IssueKind } from '@/core/errors/issue';
import { Refusal, refuse } from '@/core/errors/refusal';
import type { Actor } from './access/actor';
import { db, type Tx } from './db/client';
import { appendToJournal, type JournalEntry } from './journal/append';

/** What the work of an act hands back: its result and the entry that records it. `entry: null` is an act that changed nothing. */
export type Done<T> =
  | { readonly entry: JournalEntry | null; readonly result: T }
  /** Where more is to be kept under the entry's own number, in the same transaction. */
  | { readonly entry: JournalEntry; readonly recorded: (entryId: number) => Promise<T> };

/** What a broken unique constraint means to a person. */
const constraintIssues: Readonly<Record<string, IssueKind>> = {
  place_name_taken: 'name-taken',
  place_reference_taken: 'reference-taken',
  place_year_once: 'name-taken',
  person_email_unique: 'address-taken',
  person_group_name_key_unique: 'name-taken',
  column_name_taken: 'name-taken',
  list_name_taken: 'name-taken',
  term_name_taken: 'name-taken',
  label_name_taken: 'name-taken',
};

/**
 * Runs one act: one transaction with its journal entry inside, so that either both are there or neither. An
 * act cannot leave without saying what to record.
 */
export async function perform<T>(
  actor: Pick<Actor, 'personId' | 'seenBy' | 'narrowed'>,
  work: (tx: Tx) => Promise<Done<T>>,
): Promise<T> {
  requireOwnSight(actor);
  try {
    return await db().transaction(async (tx) => {
      const done = await work(tx);
      if ('recorded' in done) return done.recorded(await appendToJournal(tx, actor.personId, done.entry));
      if (done.entry) await appendToJournal(tx, actor.personId, done.entry);
      return done.result;
    });
  } catch (error) {
    const kind = constraintIssues[constraintOf(error) ?? ''];
    if (kind) refuse(kind);
    throw error;
  }
}

/** Who looks at the library as another would changes nothing, in anybody's name; nor does a token that only reads. */
export function requireOwnSight(actor: Pick<Actor, 'seenBy' | 'narrowed'>): void {
  if (actor.narrowed && !changesAnything(actor.narrowed.to))
    refuse('not-allowed', 'This token only reads. Nothing was changed.');
  if (actor.seenBy)
    refuse(
      'not-allowed',
      'You are seeing the library as someone else would. Nothing was changed; go back to your own sight first.',
    );
}

const changesAnything = (set: CapabilitySet): boolean => (set & ~openingLets) !== 0;

function constraintOf(error: unknown): string | undefined {
  const cause = error instanceof DrizzleQueryError ? error.cause : error;
  return cause instanceof DatabaseError ? cause.constraint : undefined;
}

/** SQLSTATE classes that mean the server is away or going: 08 connection, 57P shutting down, 53300 too many connections. */
const awayCodes = /^(?:08|57P0|53300)/u;
const awayErrors = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT']);

/** Whether an error says that the database cannot be reached just now. */
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
