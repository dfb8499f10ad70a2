import { APIError } from 'better-auth/api';
import { eq } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import type { Actor } from '../access/actor';
import { config } from '../config';
import { db } from '../db/client';
import { person } from '../db/schema';
import { auth } from './auth';

/** Who a request's session belongs to; null where there is none, or its account is switched off. */
export async function actorFrom(headers: Headers): Promise<Actor | null> {
  const found = await auth()
    .api.getSession({ headers })
    .catch((error: unknown) => {
      // It hides what happened to the database behind a fault of its own: a session that cannot be read just now.
      if (error instanceof APIError && error.statusCode === 500) refuse('unavailable');
      throw error;
    });
  if (!found) return null;
  const [who] = await db()
    .select({
      personId: person.id,
      name: person.name,
      email: person.email,
      keeper: person.keeper,
      active: person.active,
    })
    .from(person)
    .where(eq(person.id, found.user.id));
  if (!who?.active) return null;
  const { active: _active, ...actor } = who;
  return actor;
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
  if (origin === null || new URL(origin).host !== hostOf(request)) refuse('wrong-origin');
}

const hostOf = (request: Request): string => request.headers.get('host') ?? new URL(config().EMBRIN_URL).host;
