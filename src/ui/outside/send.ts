import { fromProblem } from '@/core/errors/problem';
import { issue } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';

/** Sends what someone outside entered. @throws Refusal */
export async function send(address: string, body: unknown): Promise<void> {
  const response = await fetch(address, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  }).catch(() => {
    throw new Refusal(issue('unavailable'));
  });
  if (!response.ok) throw new Refusal(fromProblem(await response.json().catch(() => null)));
}
