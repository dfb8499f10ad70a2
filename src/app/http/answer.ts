import { z } from 'zod';
import { issue, type Issue } from '@/core/errors/issue';
import { toProblem } from '@/core/errors/problem';
import { Refusal } from '@/core/errors/refusal';
import { isDatabaseAway } from '@/server/acts/act';
import { databaseIssue } from '@/server/db/databaseIssue';
import { faultIssue, logFault } from '@/server/log/fault';
import { logged } from '@/server/log/request';

/** The one place where what went wrong becomes an HTTP answer (RFC 9457). `where` is what the log calls the place. */
export function problemResponse(error: unknown, where: string): Response {
  const refused = issueOf(error, where);
  const problem = toProblem(refused);
  return new Response(JSON.stringify(problem), {
    status: problem.status,
    headers: {
      'content-type': 'application/problem+json',
      'cache-control': 'no-store',
      ...(refused.kind === 'unavailable' ? { 'retry-after': '2' } : {}),
    },
  });
}

function issueOf(error: unknown, where: string): Issue {
  if (error instanceof Refusal) return error.issue;
  if (error instanceof z.ZodError) {
    const fields = error.issues.map((each) => ({ path: each.path.join('.'), says: each.message }));
    return issue('invalid', fields.length === 1 ? fields[0]?.says : undefined, fields);
  }
  if (isDatabaseAway(error)) return issue('unavailable');
  return databaseIssue(error) ?? faultIssue(logFault(error, { where }));
}

/** Runs a handler and logs the request; whatever it throws becomes a problem. */
export const answering = (where: string, work: () => Promise<Response>): Promise<Response> =>
  logged(where, async () => {
    try {
      return await work();
    } catch (error) {
      return problemResponse(error, where);
    }
  });

export const json = (body: unknown): Response =>
  new Response(JSON.stringify(body), {
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store' },
  });
