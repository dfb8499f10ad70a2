import { issue, issueKinds, type Issue } from '@/core/errors/issue';
import { databaseError } from '../db/sqlState';
import { log } from './log';
import { currentNumber } from './request';

/** Where a fault happened, never what it concerned. */
export interface At {
  /** An operation of the contract, a route or a page. */
  readonly where: string;
}

const mostLines = 12;

/** The code locations of a stack trace. Its message is left out, since it may contain what people typed. */
const placesIn = (error: Error): string[] =>
  (error.stack ?? '')
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line.startsWith('at '))
    .slice(0, mostLines);

/**
 * Logs a fault under the number of its request and returns the number. Includes SQLSTATE and constraint of a database error, never its
 * message, which may contain what people typed.
 */
export function logFault(error: unknown, { where }: At, number = currentNumber()): string {
  const failed = databaseError(error);
  log().error(
    {
      fault: number,
      where,
      name: error instanceof Error ? error.name : typeof error,
      ...(failed ? { sqlState: failed.code, constraint: failed.constraint, table: failed.table } : {}),
      ...(error instanceof Error ? { at: placesIn(error) } : {}),
    },
    'fault',
  );
  return number;
}

/** A fault as shown to a person, with its number in the log. */
export const faultIssue = (number: string): Issue =>
  issue('fault', `${issueKinds.fault.says} Its number is ${number}.`);
