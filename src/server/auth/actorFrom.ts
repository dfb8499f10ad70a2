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
import { auth } from './auth';

interface Session {
  readonly own: Actor;
  readonly sessionId: string;
  /** Whether it has taken on another's sight. */
  readonly seesAsAnother: boolean;
}

/** Who a request's session belongs to, themselves; null where there is none, or its account is switched off. */
async function sessionFrom(headers: Headers): Promise<Session | null> {
  const found = await auth()
    .api.getSession({ headers })
    .catch((error: unknown) => {
      // It hides what happened to the database behind a fault of its own: a session that cannot be read just now.
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
 * Who a request is answered for: the session's own person, whom they look at the library as, or the person in whose name a
 * program asks with a token. A request with a token is that token's, whatever cookies came along.
 */
export async function actorFrom(headers: Headers): Promise<Actor | null> {
  const token = /^Bearer (?<token>\S{20,200})$/iu.exec(headers.get('authorization') ?? '')?.groups?.['token'];
  if (token !== undefined) return tokenActor(token);
  const found = await sessionFrom(headers);
  if (!found?.seesAsAnother) return found?.own ?? null;
  return (await seenAs(found.own, found.sessionId)) ?? found.own;
}

/** The session's own person, whosever sight they have taken on. */
export async function requireSession(headers: Headers): Promise<Session> {
  return (await sessionFrom(headers)) ?? refuse('signed-out');
}

export async function requireActor(headers: Headers): Promise<Actor> {
  return (await actorFrom(headers)) ?? refuse('signed-out');
}

/**
 * Refuses what another site made a browser send (OWASP cross-site request forgery: verifying origin). A browser
 * names the origin of every request that can change something; a program that is no browser names none.
 */
export function requireSameOrigin(request: Request): void {
  const origin = request.headers.get('origin');
  if (origin === null && request.headers.get('sec-fetch-site') === null) return;
  // An opaque origin (a sandboxed frame, a file) names itself `null`: it is none of ours.
  if (origin === null || !URL.canParse(origin) || new URL(origin).host !== hostOf(request)) refuse('wrong-origin');
}

const hostOf = (request: Request): string => request.headers.get('host') ?? new URL(config().EMBRIN_URL).host;
