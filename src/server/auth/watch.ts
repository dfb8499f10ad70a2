import { and, eq, like } from 'drizzle-orm';
import { z } from 'zod';
import type { DoorEvent } from '@/core/people/account';
import { refuse } from '@/core/errors/refusal';
import { db, writableDb } from '../db/client';
import { verification } from '../db/schema';
import { auth } from './auth';
import { beginTry, callerOf, dropTry, endTry, noteAtDoor } from './door';
import { requireUnguessable } from '../passwords/guessable';

/** Routes of the sign-in library whose success is recorded for the person signed in. */
const noted: Readonly<Record<string, DoorEvent>> = {
  'change-password': 'passwordChanged',
  'two-factor/disable': 'twoStepOff',
  'two-factor/generate-backup-codes': 'codesMade',
  'revoke-sessions': 'allEnded',
};

/**
 * The routes we use. The sign-in library has more (renaming oneself, listing session tokens, showing the secret again);
 * those would bypass the journal and are not served.
 */
const password = z.string().max(1000);
const code = z.string().max(100);
const doors = {
  'sign-in/email': z.object({ email: z.string().max(1000), password }),
  'sign-out': z.object({}),
  'request-password-reset': z.object({ email: z.string().max(1000) }),
  'reset-password': z.object({ token: z.string().max(200), newPassword: password }),
  'two-factor/enable': z.object({ password }),
  // No device is trusted: the second step is required every time.
  'two-factor/verify-totp': z.object({ code }),
  'two-factor/verify-backup-code': z.object({ code }),
  'change-password': z
    .object({ currentPassword: password, newPassword: password })
    .transform((given) => ({ ...given, revokeOtherSessions: true })),
  'two-factor/disable': z.object({ password }),
  'two-factor/generate-backup-codes': z.object({ password }),
  'revoke-sessions': z.object({}),
} as const;
type Door = keyof typeof doors;
const isDoor = (path: string): path is Door => Object.hasOwn(doors, path);

/**
 * Wraps the sign-in library's routes: counts attempts, refuses them while paused, and writes the sign-in journal. Passes
 * on only the fields named above, so that a client cannot set other options.
 * @param path the route, without its prefix: `sign-in/email`
 * @param body the request's JSON body; null if empty
 */
export async function watched(path: string, asked: Request, body: unknown): Promise<Response> {
  if (!isDoor(path)) refuse('not-found');
  const given: Record<string, unknown> = doors[path].parse(body ?? {});
  const request = new Request(asked.url, { method: 'POST', headers: headersOf(asked), body: JSON.stringify(given) });
  if (path === 'sign-in/email') return signIn(request, given);
  if (path === 'two-factor/verify-totp' || path === 'two-factor/verify-backup-code') return secondStep(request);
  if (path === 'change-password' || path === 'reset-password') await refuseGuessable(request, given);
  const renews = path === 'reset-password' ? await renewedBy(String(given['token'])) : null;
  const event = noted[path];
  // Read before the request is handled, since the session may change or end.
  const who = event ? await signedIn(request.headers) : null;
  const response = await auth().handler(request);
  if (event && who !== null && response.ok) await noteAtDoor(event, who, callerOf(request.headers));
  if (renews !== null && response.ok) await dropRenewals(renews);
  return response;
}

/** The request's headers, without the length of the body, which has changed. */
function headersOf(request: Request): Headers {
  const headers = new Headers(request.headers);
  headers.delete('content-length');
  headers.set('content-type', 'application/json');
  return headers;
}

const renewal = 'reset-password:';

/** The person whose password a link's token resets, by the sign-in library's table; null if none. */
async function renewedBy(token: string): Promise<string | null> {
  const [row] = await db()
    .select({ personId: verification.value })
    .from(verification)
    .where(eq(verification.identifier, `${renewal}${token}`));
  return row?.personId ?? null;
}

/** Using one link for a new password invalidates all others. */
async function dropRenewals(personId: string): Promise<void> {
  await writableDb()
    .delete(verification)
    .where(and(like(verification.identifier, `${renewal}%`), eq(verification.value, personId)));
}

async function refuseGuessable(request: Request, { newPassword: password }: Record<string, unknown>): Promise<void> {
  const who = (await auth().api.getSession({ headers: request.headers }))?.user;
  if (typeof password === 'string') requireUnguessable('newPassword', password, who ? [who.name, who.email] : []);
}

async function signIn(request: Request, { email }: Record<string, unknown>): Promise<Response> {
  const tryId = await beginTry(email, callerOf(request.headers));
  if (tryId === null) refuse('too-many', 'Too many wrong tries. Wait a quarter of an hour, then try again.');
  const response = await auth().handler(request);
  if (response.ok) await endTry(tryId, (await isHalfIn(response)) ? 'halfIn' : 'signedIn');
  // Refused before the password was checked: not an attempt.
  else if (response.status === 429 || response.status >= 500) await dropTry(tryId);
  return response;
}

async function isHalfIn(response: Response): Promise<boolean> {
  const told = (await response.clone().json()) as unknown;
  return told !== null && typeof told === 'object' && 'twoFactorRedirect' in told;
}

/** Handles a code: of someone who has passed the first step, or of someone signed in who is switching the second step on. */
async function secondStep(request: Request): Promise<Response> {
  const already = await signedIn(request.headers);
  const who = already ?? (await halfIn(request.headers));
  const response = await auth().handler(request);
  if (who === null) return response;
  const failed = response.status === 401;
  if (response.ok) await noteAtDoor(already === null ? 'signedIn' : 'twoStepOn', who, callerOf(request.headers));
  else if (failed && already === null) await noteAtDoor('wrongCode', who, callerOf(request.headers));
  return response;
}

async function signedIn(headers: Headers): Promise<string | null> {
  return (await auth().api.getSession({ headers }))?.user.id ?? null;
}

/** The person whose second step a request is about, by the first step's cookie; used for the sign-in journal only. */
async function halfIn(headers: Headers): Promise<string | null> {
  const cookie = /(?:^|;\s*)(?:__Secure-)?embrin\.two_factor=(?<value>[^;]+)/u.exec(headers.get('cookie') ?? '');
  const identifier = decodeURIComponent(cookie?.groups?.['value'] ?? '').split('.')[0] ?? '';
  if (identifier === '') return null;
  const [row] = await db()
    .select({ personId: verification.value })
    .from(verification)
    .where(eq(verification.identifier, identifier));
  return row?.personId ?? null;
}
