import { z } from 'zod';
import { issueKinds, type Issue, type IssueKind } from './issue';

/**
 * An issue as RFC 9457 problem details (`application/problem+json`). `type` is a relative reference, as
 * section 3.1.1 allows; `fields` is an extension member (section 3.2).
 */
export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  fields: z.array(z.object({ path: z.string(), says: z.string() })).optional(),
});
export type Problem = z.output<typeof problemSchema>;

const typePrefix = '/problems/';

/** An issue as problem details (RFC 9457). */
export function toProblem(issue: Issue): Problem {
  return {
    type: `${typePrefix}${issue.kind}`,
    title: issue.says,
    status: issueKinds[issue.kind].status,
    ...(issue.fields ? { fields: [...issue.fields] } : {}),
  };
}

const isKind = (text: string): text is IssueKind => Object.hasOwn(issueKinds, text);

/** Reads a problem; anything unknown becomes a `fault`, never a success. */
export function fromProblem(body: unknown): Issue {
  const read = problemSchema.safeParse(body);
  if (!read.success) return { kind: 'fault', says: issueKinds.fault.says };
  const kind = read.data.type.slice(typePrefix.length);
  if (!isKind(kind)) return { kind: 'fault', says: issueKinds.fault.says };
  return { kind, says: read.data.title, ...(read.data.fields ? { fields: read.data.fields } : {}) };
}
