import { and, eq, like } from 'drizzle-orm';
import { z } from 'zod';
import type { DoorEvent } from '@/core/people/account';
import { refuse } from '@/core/errors/refusal';
import { db } from '../db/client';
import { verification } from '../db/schema';
import { auth } from './auth';
import { beginTry, callerOf, dropTry, endTry, noteAtDoor } from './door';
import { requireUnguessable } from '../passwords/guessable';

/** What of the sign-in library's own doors is written down when it was done, by whoever is signed in. */
const noted: Readonly<Record<string, DoorEvent>> = {
  'change-password': 'passwordChanged',
  'two-factor/disable': 'twoStepOff',
  'two-factor/generate-backup-codes': 'codesMade',
  'revoke-sessions': 'allEnded',
};

/**
 * The doors that are used. The sign-in library has more (changing one's own name, listing session tokens, asking for the
 * secret again): those lead past the journal, and are not there.
 */
const password = z.string().max(1000);
const code = z.string().max(100);
const doors = {
  'sign-in/email': z.object({ email: z.string().max(1000), password }),
  'sign-out': z.object({}),
  'request-password-reset': z.object({ email: z.string().max(1000) }),
  'reset-password': z.object({ token: z.string().max(200), newPassword: password }),
  'two-factor/enable': z.object({ password }),
  // No device is trusted: the second step is asked for each time.
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
 * Stands at the sign-in library's doors: counts tries, lets nobody try who is paused, and writes the sign-in journal.
 * Of what comes in only the fields named above go on, so that nobody sets a flag that is ours to set.
 * @param path the door, without its beginning: `sign-in/email`
 * @param body what the request brought, read as JSON; null where it brought nothing
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
  // Asked before: afterwards the session may be another, or gone.
  const who = event ? await signedIn(request.headers) : null;
  const response = await auth().handler(request);
  if (event && who !== null && response.ok) await noteAtDoor(event, who, callerOf(request.headers));
  if (renews !== null && response.ok) await dropRenewals(renews);
  return response;
}

/** What the request said, but for the length of a body that is now another. */
function headersOf(request: Request): Headers {
  const headers = new Headers(request.headers);
  headers.delete('content-length');
  headers.set('content-type', 'application/json');
  return headers;
}

const renewal = 'reset-password:';

/** Whose password a link's token renews, by the sign-in library's own table; null for none. */
async function renewedBy(token: string): Promise<string | null> {
  const [row] = await db()
    .select({ personId: verification.value })
    .from(verification)
    .where(eq(verification.identifier, `${renewal}${token}`));
  return row?.personId ?? null;
}

/** All other links for a new password die with the first that is used. */
async function dropRenewals(personId: string): Promise<void> {
  await db()
    .delete(verification)
    .where(and(like(verification.identifier, `${renewal}%`), eq(verification.value, personId)));
}

async function refuseGuessable(request: Request, { newPassword: password }: Record<string, unknown>): Promise<void> {
  const who = (await auth().api.getSession({ headers: request.headers }))?.user;
  if (typeof password === 'string') requireUnguessable('newPassword', password, who ? [who.name, who.email] : []);
}

async function signIn(request: Request, { email }: Record<string, unknown>): Promise<Response> {
  const tryId = await beginTry(email, callerOf(request.headers));
  if (tryId === null)
    refuse('too-many', 'Too many tries went wrong. The door is shut for a quarter of an hour; after that, try again.');
  const response = await auth().handler(request);
  if (response.ok) await endTry(tryId, (await isHalfIn(response)) ? 'halfIn' : 'signedIn');
  // Turned away before anything was looked at: no try at all.
  else if (response.status === 429 || response.status >= 500) await dropTry(tryId);
  return response;
}

async function isHalfIn(response: Response): Promise<boolean> {
  const told = (await response.clone().json()) as unknown;
  return told !== null && typeof told === 'object' && 'twoFactorRedirect' in told;
}

/** The code of someone who is half in; or of someone signed in, who switches the second step on with it. */
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

/** Whose second step a request is about, by the cookie of the first; only to write down what became of it. */
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
