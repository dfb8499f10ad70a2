import { DrizzleQueryError } from 'drizzle-orm/errors';
import { DatabaseError } from 'pg';

/** The database's error inside whatever was thrown; null if there is none. */
export function databaseError(error: unknown): DatabaseError | null {
  const cause = error instanceof DrizzleQueryError ? error.cause : error;
  return cause instanceof DatabaseError ? cause : null;
}

/** The SQLSTATE (PostgreSQL, appendix A) of an error; undefined if it has none. */
export const sqlState = (error: unknown): string | undefined => databaseError(error)?.code;
