import { APIError } from 'better-auth/api';
import { eq } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { tokenActor } from './tokens';
import type { Actor } from '../gate/actor';
import { seenAs } from '../access/seeAs';
import { config } from '../base/config';
import { db } from '../db/client';
import { library, person, seeAs } from '../db/schema';
import { keepMembershipsCurrent } from '../scopes/memberships';
import { noteCaller } from '../log/request';
import { auth } from './auth';

interface Session {
  readonly own: Actor;
  readonly sessionId: string;
  /** Whether the session impersonates someone. */
  readonly seesAsAnother: boolean;
}

/** The person signed in by a request's session, not whom they impersonate; null without a session, or if the account is switched off. */
async function sessionFrom(headers: Headers): Promise<Session | null> {
  const found = await auth()
    .api.getSession({ headers })
    .catch((error: unknown) => {
      // The sign-in library turns database errors into a 500: the session cannot be read right now.
      if (error instanceof APIError && error.statusCode === 500) refuse('unavailable');
      throw error;
    });
  if (!found) return null;
  const [row] = await db()
    .select({
      personId: person.id,
      name: person.name,
      email: person.email,
      keeper: person.keeper,
      active: person.active,
      sees: seeAs.sessionId,
      timeZone: library.timeZone,
      membershipDay: library.membershipDay,
    })
    .from(person)
    .innerJoin(library, eq(library.id, 1))
    .leftJoin(seeAs, eq(seeAs.sessionId, found.session.id))
    .where(eq(person.id, found.user.id));
  if (!row?.active) return null;
  const { active: _active, sees, timeZone, membershipDay, ...own } = row;
  await keepMembershipsCurrent({ timeZone, membershipDay });
  return { own: { ...own, sessionId: found.session.id }, sessionId: found.session.id, seesAsAnother: sees !== null };
}

/**
 * The caller of a request: the person signed in, whom they impersonate, or the owner of the token. A token takes
 * precedence over cookies.
 */
export async function actorFrom(headers: Headers): Promise<Actor | null> {
  const token = /^Bearer (?<token>\S{20,200})$/iu.exec(headers.get('authorization') ?? '')?.groups?.['token'];
  if (token !== undefined) return tokenActor(token);
  const found = await sessionFrom(headers);
  if (!found?.seesAsAnother) return found?.own ?? null;
  return (await seenAs(found.own, found.sessionId)) ?? found.own;
}

/** The person signed in, even while impersonating. */
export async function requireSession(headers: Headers): Promise<Session> {
  const session = (await sessionFrom(headers)) ?? refuse('signed-out');
  noteCaller(session.own.personId);
  return session;
}

/** The caller by the headers of a request; refused as signed out if there is none. */
export async function requireActor(headers: Headers): Promise<Actor> {
  const actor = (await actorFrom(headers)) ?? refuse('signed-out');
  noteCaller(actor.personId);
  return actor;
}

/**
 * Refuses cross-site requests (OWASP cross-site request forgery: verifying origin). Browsers send an origin with every
 * request that can change something; other programs send none.
 */
export function requireSameOrigin(request: Request): void {
  const origin = request.headers.get('origin');
  if (origin === null && request.headers.get('sec-fetch-site') === null) return;
  // An opaque origin (a sandboxed frame, a file) is sent as `null`, and is not ours.
  if (origin === null || !URL.canParse(origin) || new URL(origin).host !== hostOf(request)) refuse('wrong-origin');
}

const hostOf = (request: Request): string => request.headers.get('host') ?? new URL(config().EMBRIN_URL).host;
