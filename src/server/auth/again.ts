import { and, eq } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { db } from '../db/client';
import { account, session } from '../db/schema';
import type { Actor } from '../gate/actor';
import { isPassword } from '../passwords/password';
import { beginTry, endTry, type Caller } from './door';
import { requireOwnSession } from './own';

/**
 * Has somebody who is signed in prove once more that it is they, by their password. Wrong tries count as at the door, and
 * pause it.
 */
export async function requirePasswordAgain(actor: Actor, password: string): Promise<void> {
  requireOwnSession(actor);
  const tryId = await beginTry(actor.email, await callerOfSession(actor.sessionId));
  if (tryId === null) refuse('too-many', 'Too many wrong tries. Wait a quarter of an hour, then try again.');
  const [own] = await db()
    .select({ password: account.password })
    .from(account)
    .where(and(eq(account.userId, actor.personId), eq(account.providerId, 'credential')));
  if (!own?.password || !(await isPassword({ hash: own.password, password })))
    refuse('wrong-password', 'That is not your password. Nothing was signed.', [
      { path: 'password', says: 'That is not your password.' },
    ]);
  await endTry(tryId, 'provenAgain');
}

async function callerOfSession(sessionId: string | undefined): Promise<Caller> {
  const [found] =
    sessionId === undefined
      ? []
      : await db()
          .select({ address: session.ipAddress, agent: session.userAgent })
          .from(session)
          .where(eq(session.id, sessionId));
  return { address: found?.address ?? '', agent: found?.agent ?? '' };
}
