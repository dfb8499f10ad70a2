import { z } from 'zod';
import { issue, type Issue } from '@/core/errors/issue';
import { toProblem } from '@/core/errors/problem';
import { Refusal } from '@/core/errors/refusal';
import { isDatabaseAway } from '@/server/act';

/** The one place where what went wrong becomes an HTTP answer (RFC 9457). */
export function problemResponse(error: unknown): Response {
  const refused = issueOf(error);
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

function issueOf(error: unknown): Issue {
  if (error instanceof Refusal) return error.issue;
  if (error instanceof z.ZodError) {
    const fields = error.issues.map((each) => ({ path: each.path.join('.'), says: each.message }));
    return issue('invalid', fields.length === 1 ? fields[0]?.says : undefined, fields);
  }
  if (isDatabaseAway(error)) return issue('unavailable');
  // The name only: a query's message would carry what people typed into the log.
  console.error('fault', error instanceof Error ? `${error.name}\n${redactedStack(error)}` : typeof error);
  return issue('fault');
}

const redactedStack = (error: Error): string =>
  (error.stack ?? '')
    .split('\n')
    .filter((line) => line.trimStart().startsWith('at '))
    .slice(0, 8)
    .join('\n');

/** Runs a handler; whatever it throws becomes a problem. */
export async function answering(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    return problemResponse(error);
  }
}

export const json = (body: unknown): Response =>
  new Response(JSON.stringify(body), {
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store' },
  });

/** A JSON body of at most 4 MB, or as many bytes as are named; anything else is refused as invalid. */
export async function readJson(request: Request, mostBytes = 4_000_000): Promise<unknown> {
  const text = await request.text();
  if (text.length > mostBytes) throw new Refusal(issue('too-large', 'The request is too large. Nothing was done.'));
  try {
    return JSON.parse(text);
  } catch {
    throw new Refusal(issue('invalid', 'The request could not be read.'));
  }
}
