import { issue, type FieldIssue, type Issue, type IssueKind } from './issue';
import type { Result } from './result';

const mark = Symbol.for('embrin.refusal');

/** The error that carries an issue to the edge; any other error is a fault. */
export class Refusal extends Error {
  readonly issue: Issue;
  readonly [mark] = true;

  /** Recognised by a marker and not by its class, since a bundler may load this module more than once. */
  static override [Symbol.hasInstance](value: unknown): boolean {
    return typeof value === 'object' && value !== null && mark in value;
  }

  constructor(refused: Issue) {
    super(`${refused.kind}: ${refused.says}`);
    this.name = 'Refusal';
    this.issue = refused;
  }
}

/** Throws a refusal. */
export function refuse(kind: IssueKind, says?: string, fields?: readonly FieldIssue[]): never {
  throw new Refusal(issue(kind, says, fields));
}

/** Returns the value of a result, or throws its issue as a refusal. */
export function orRefuse<T>(result: Result<T>): T {
  if (!result.ok) throw new Refusal(result.issue);
  return result.value;
}
