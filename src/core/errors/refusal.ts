import { issue, type FieldIssue, type Issue, type IssueKind } from './issue';
import type { Result } from './result';

/** The one error that carries an issue up through the floors; everything else thrown is a fault. */
export class Refusal extends Error {
  readonly issue: Issue;

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
