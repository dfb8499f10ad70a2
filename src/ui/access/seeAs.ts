import { Refusal } from '@/core/errors/refusal';
import { fromProblem } from '@/core/errors/problem';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';

async function send(method: 'POST' | 'DELETE', body?: unknown): Promise<void> {
  const response = await fetch('/api/see-as', {
    method,
    headers: { 'content-type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  if (!response.ok) throw new Refusal(fromProblem(await response.json().catch(() => null)));
}

/** Starts impersonating someone, at their desk. */
export function seeAs(kind: 'person' | 'group', id: string): void {
  send('POST', { kind, id }).then(
    () => window.location.assign('/desk'),
    (error: unknown) => say.refusal(saysOf(error)),
  );
}

/** Goes back to one's own view of the library. */
export function stopSeeingAs(): void {
  send('DELETE').then(
    () => window.location.reload(),
    (error: unknown) => say.refusal(saysOf(error)),
  );
}
