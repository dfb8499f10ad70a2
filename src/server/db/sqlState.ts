import { DrizzleQueryError } from 'drizzle-orm/errors';
import { DatabaseError } from 'pg';

/** The database's own error behind whatever was thrown; null where it is none of the database's. */
export function databaseError(error: unknown): DatabaseError | null {
  const cause = error instanceof DrizzleQueryError ? error.cause : error;
  return cause instanceof DatabaseError ? cause : null;
}

/** The SQLSTATE (PostgreSQL, appendix A) of what was thrown. */
export const sqlState = (error: unknown): string | undefined => databaseError(error)?.code;
