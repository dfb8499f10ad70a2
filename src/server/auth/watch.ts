import { eq } from 'drizzle-orm';
import type { DoorEvent } from '@/core/people/account';
import { refuse } from '@/core/errors/refusal';
import { db } from '../db/client';
import { verification } from '../db/schema';
import { auth } from './auth';
import { beginTry, callerOf, dropTry, endTry, noteAtDoor } from './door';
import { requireUnguessable } from './guessable';

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
const doors: ReadonlySet<string> = new Set([
  'sign-in/email',
  'sign-out',
  'request-password-reset',
  'reset-password',
  'two-factor/enable',
  'two-factor/verify-totp',
  'two-factor/verify-backup-code',
  ...Object.keys(noted),
]);

/**
 * Stands at the sign-in library's doors: counts tries, lets nobody try who is paused, and writes the sign-in journal.
 * @param path the door, without its beginning: `sign-in/email`
 */
export async function watched(path: string, request: Request): Promise<Response> {
  if (!doors.has(path)) refuse('not-found');
  if (path === 'sign-in/email') return signIn(request);
  if (path === 'two-factor/verify-totp' || path === 'two-factor/verify-backup-code') return secondStep(request);
  if (path === 'change-password' || path === 'reset-password') await refuseGuessable(request);
  const event = noted[path];
  // Asked before: afterwards the session may be another, or gone.
  const who = event ? await signedIn(request.headers) : null;
  const response = await auth().handler(request);
  if (event && who !== null && response.ok) await noteAtDoor(event, who, callerOf(request.headers));
  return response;
}

async function refuseGuessable(request: Request): Promise<void> {
  const password = await fieldOf(request, 'newPassword');
  const who = (await auth().api.getSession({ headers: request.headers }))?.user;
  if (typeof password === 'string') requireUnguessable('newPassword', password, who ? [who.name, who.email] : []);
}

/** One field of what a request brings; the request can still be read afterwards. */
async function fieldOf(request: Request, name: string): Promise<unknown> {
  const asked: unknown = await request
    .clone()
    .json()
    .catch(() => null);
  return asked !== null && typeof asked === 'object' ? (asked as Record<string, unknown>)[name] : undefined;
}

async function signIn(request: Request): Promise<Response> {
  const email = await fieldOf(request, 'email');
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
