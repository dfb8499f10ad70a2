import { randomBytes } from 'node:crypto';
import { issue, issueKinds, type Issue } from '@/core/errors/issue';
import { databaseError } from '../db/sqlState';
import { log } from './log';

/** Where a fault happened: never what it was about. */
export interface At {
  /** An operation of the contract, a route or a page. */
  readonly where: string;
}

const mostLines = 12;

/** The lines of a stack that name places in the code. Its first line would carry what people typed. */
const placesIn = (error: Error): string[] =>
  (error.stack ?? '')
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line.startsWith('at '))
    .slice(0, mostLines);

/** A number for one fault, short enough to be read out on the telephone. */
export const faultNumber = (): string => randomBytes(4).toString('hex');

/**
 * Writes a fault down under a number, and answers the number: with the database's SQLSTATE and constraint where it came from
 * there, and never with its message, which holds what people typed.
 */
export function logFault(error: unknown, { where }: At, number = faultNumber()): string {
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

/** A fault as it is told to a person: with the number under which the log has it. */
export const faultIssue = (number: string): Issue =>
  issue('fault', `${issueKinds.fault.says} Its number is ${number}.`);
