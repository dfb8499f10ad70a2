import type { InputOf, OperationName, OutputOf } from '@/core/contract';
import { issue } from '@/core/errors/issue';
import { fromProblem } from '@/core/errors/problem';
import { Refusal } from '@/core/errors/refusal';
import { signedInAgain } from './signedOut';

/** Sends JSON to one of our own addresses and reads the answer; a refusal of any kind is thrown as one. */
export async function sendJson(path: string, body: unknown): Promise<unknown> {
  const response = await fetch(path, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  }).catch(() => {
    throw new Refusal(issue('unavailable'));
  });
  const answer: unknown = await response.json().catch(() => null);
  if (!response.ok) throw new Refusal(fromProblem(answer));
  return answer;
}

/**
 * Asks the server an operation of the contract. Where the session has ended, waits for the person to sign in
 * again and then asks once more: nothing that was typed is lost.
 */
export async function call<N extends OperationName>(name: N, input: InputOf<N>): Promise<OutputOf<N>> {
  const ask = () => sendJson(`/api/call/${name}`, input);
  // The contract ties the answer's type to the name; the server is ours.
  return (await ask().catch(async (error: unknown) => {
    if (error instanceof Refusal && error.issue.kind === 'signed-out' && (await signedInAgain())) return ask();
    throw error;
  })) as OutputOf<N>;
}

/** What a refusal says, in words for a person; anything else thrown is a fault. */
export const saysOf = (error: unknown): string => (error instanceof Refusal ? error.issue : issue('fault')).says;
