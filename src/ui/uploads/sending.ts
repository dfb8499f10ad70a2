import type { DetailedError } from 'tus-js-client';
import { issue, type Issue } from '@/core/errors/issue';
import { fromProblem } from '@/core/errors/problem';

/** Files up to this size go up whole with their first request. */
export const smallBytes = 4 * 1024 * 1024;
/** How long is waited before a part is sent again, in milliseconds. */
export const retryDelays = [0, 1000, 2000, 4000, 8000, 15_000];

/** Whether a part that was not taken is sent again. */
export function mayRetry(error: DetailedError): boolean {
  const status = error.originalResponse?.getStatus() ?? 0;
  return status === 0 || status >= 500 || status === 409 || status === 423;
}

/** Why a file was not taken. */
export function issueOfSending(error: Error | DetailedError): Issue {
  const response = 'originalResponse' in error ? error.originalResponse : null;
  return response
    ? problemIn(response.getBody())
    : issue('unavailable', 'The connection was lost. What has arrived is kept; continue when it is back.');
}

function problemIn(body: string): Issue {
  try {
    return fromProblem(JSON.parse(body));
  } catch {
    return issue('fault', 'The server refused this part. What has arrived is kept; try again.');
  }
}
