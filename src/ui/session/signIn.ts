import { createAuthClient } from 'better-auth/react';
import { issue } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';

const client = createAuthClient();

interface Answer {
  readonly error: { readonly status: number } | null;
}

function orRefused({ error }: Answer): void {
  if (!error) return;
  if (error.status === 429) throw new Refusal(issue('too-many'));
  if (error.status === 503 || error.status === 0) throw new Refusal(issue('unavailable'));
  throw new Refusal(issue('wrong-password'));
}

const reached = (answer: Promise<Answer>): Promise<Answer> =>
  answer.catch(() => {
    throw new Refusal(issue('unavailable'));
  });

/** Signs in; refused where address and password do not belong together, without saying which. */
export async function signIn(email: string, password: string): Promise<void> {
  orRefused(await reached(client.signIn.email({ email: email.trim(), password })));
}

export async function signOut(): Promise<void> {
  orRefused(await reached(client.signOut()));
}

/** Ends every session of this person, this one too. */
export async function signOutEverywhere(): Promise<void> {
  orRefused(await reached(client.revokeSessions()));
}

/** Changes the password and ends all other sessions. */
export async function changePassword(currentPassword: string, newPassword: string): Promise<void> {
  orRefused(await reached(client.changePassword({ currentPassword, newPassword, revokeOtherSessions: true })));
}
