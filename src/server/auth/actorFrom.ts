import { and, eq, gt, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { tokenActor } from './tokens';
import type { Actor } from '../gate/actor';
import { seenAs } from '../access/seeAs';
import { now } from '../base/clock';
import { config } from '../base/config';
import { askingDb, type Db } from '../db/client';
import { library, person, seeAs, session } from '../db/schema';
import { keepMembershipsCurrent } from '../scopes/memberships';
import { noteCaller } from '../log/request';
import { isToBeRenewed, renewSession } from './auth';
import { sessionToken } from './sessionToken';

interface Session {
  readonly own: Actor;
  readonly sessionId: string;
  /** Whether the session impersonates someone. */
  readonly seesAsAnother: boolean;
}

/** Everything that is asked of a session, in one statement that the database plans once. */
const sessionQuery = () =>
  askingDb()
    .select({
      sessionId: session.id,
      expiresAt: session.expiresAt,
      personId: person.id,
      name: person.name,
      email: person.email,
      keeper: person.keeper,
      sees: seeAs.sessionId,
      timeZone: library.timeZone,
      membershipDay: library.membershipDay,
    })
    .from(session)
    .innerJoin(person, and(eq(person.id, session.userId), eq(person.active, true)))
    .innerJoin(library, eq(library.id, 1))
    .leftJoin(seeAs, eq(seeAs.sessionId, session.id))
    .where(and(eq(session.token, sql.placeholder('token')), gt(session.expiresAt, sql.placeholder('now'))))
    .prepare('session');

const prepared = new WeakMap<Db, ReturnType<typeof sessionQuery>>();

/**
 * The person signed in by a request's session, not whom they impersonate; null without a session, or if the account is
 * switched off. Read here and not by the sign-in library, which takes five times as long for it; the library makes, renews
 * and ends sessions.
 */
async function sessionFrom(headers: Headers): Promise<Session | null> {
  const token = await sessionToken(headers);
  if (token === null) return null;
  const query = prepared.get(askingDb()) ?? sessionQuery();
  prepared.set(askingDb(), query);
  const [row] = await query.execute({ token, now: now() });
  if (!row) return null;
  const { sessionId, expiresAt, sees, timeZone, membershipDay, ...own } = row;
  if (isToBeRenewed(expiresAt)) await renewSession(headers);
  await keepMembershipsCurrent({ timeZone, membershipDay });
  return { own: { ...own, sessionId }, sessionId, seesAsAnother: sees !== null };
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
