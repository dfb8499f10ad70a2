import { issue, type FieldIssue, type Issue, type IssueKind } from './issue';
import type { Result } from './result';

const mark = Symbol.for('embrin.refusal');

/** The one error that carries an issue up through the floors; everything else thrown is a fault. */
export class Refusal extends Error {
  readonly issue: Issue;
  readonly [mark] = true;

  /** Known by its mark, not by its class: a bundler may have loaded this module more than once in one process. */
  static override [Symbol.hasInstance](value: unknown): boolean {
    return typeof value === 'object' && value !== null && mark in value;
  }

  constructor(refused: Issue) {
    super(`${refused.kind}: ${refused.says}`);
    this.name = 'Refusal';
    this.issue = refused;
  }
}

/** Throws the named refusal. */
export function refuse(kind: IssueKind, says?: string, fields?: readonly FieldIssue[]): never {
  throw new Refusal(issue(kind, says, fields));
}

/** Takes the value out of a result, or throws its issue as a refusal. */
export function orRefuse<T>(result: Result<T>): T {
  if (!result.ok) throw new Refusal(result.issue);
  return result.value;
}
