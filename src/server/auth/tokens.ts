import { randomBytes } from 'node:crypto';
import { and, desc, eq, gt, isNull, lt, or } from 'drizzle-orm';
import { has, listOf, setOf } from '@/core/access/capability';
import { refuse } from '@/core/errors/refusal';
import type { TokenRow } from '@/core/people/account';
import { acts } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { now } from '../base/clock';
import { db, writableDb } from '../db/client';
import { apiToken, person } from '../db/schema';
import { lastDay } from '../calendar/lastDay';
import { sha256Hex } from '../base/sha256';
import { requireOwnSession } from './own';

/** A recognisable prefix, so that leaked tokens can be found and identified. */
const mark = 'embrin_';

/** Makes a token for a program. It is shown only once; only its hash is stored. */
export const createToken = acts('token.create', [], async (tx, actor, input) => {
  requireOwnSession(actor);
  const expiresAt = await lastDay(input.until);
  const token = mark + randomBytes(32).toString('base64url');
  const capabilities = setOf(input.capabilities);

  await tx
    .insert(apiToken)
    .values({ personId: actor.personId, name: input.name, tokenHash: sha256Hex(token), capabilities, expiresAt });
  return {
    entry: {
      act: 'token.created',
      subjects: [actor.personId],
      detail: { name: input.name, capabilities: listOf(capabilities).join(', '), until: input.until },
    },
    result: { token },
  };
});

/** Withdraws one of the caller's tokens with immediate effect. */
export const withdrawToken = acts('token.withdraw', [], async (tx, actor, { tokenId }) => {
  requireOwnSession(actor);

  const [gone] = await tx
    .update(apiToken)
    .set({ withdrawnAt: now() })
    .where(and(eq(apiToken.id, tokenId), eq(apiToken.personId, actor.personId), isNull(apiToken.withdrawnAt)))
    .returning();
  if (!gone) refuse('not-found');
  return { entry: { act: 'token.withdrawn', subjects: [gone.personId], detail: { name: gone.name } }, result: null };
});

/** A person's valid tokens, newest first. */
export async function tokensOf(personId: string): Promise<TokenRow[]> {
  const rows = await db()
    .select()
    .from(apiToken)
    .where(and(eq(apiToken.personId, personId), isNull(apiToken.withdrawnAt), gt(apiToken.expiresAt, now())))
    .orderBy(desc(apiToken.createdAt));
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    capabilities: listOf(row.capabilities),
    expiresAt: row.expiresAt.toISOString(),
    usedAt: row.usedAt?.toISOString() ?? null,
  }));
}

/** The time of last use is stored at most this often. */
const usedEveryMs = 60_000;

/** The caller for a token; null if the token is unknown, withdrawn or expired, or its owner is switched off. */
export async function tokenActor(token: string): Promise<Actor | null> {
  const at = now();
  const [row] = await db()
    .select({
      tokenId: apiToken.id,
      to: apiToken.capabilities,
      personId: person.id,
      name: person.name,
      email: person.email,
      keeper: person.keeper,
    })
    .from(apiToken)
    .innerJoin(person, and(eq(person.id, apiToken.personId), eq(person.active, true)))
    .where(and(eq(apiToken.tokenHash, sha256Hex(token)), isNull(apiToken.withdrawnAt), gt(apiToken.expiresAt, at)));
  if (!row) return null;
  const { tokenId, to, keeper, ...who } = row;
  await writableDb()
    .update(apiToken)
    .set({ usedAt: at })
    .where(
      and(
        eq(apiToken.id, tokenId),
        or(isNull(apiToken.usedAt), lt(apiToken.usedAt, new Date(at.getTime() - usedEveryMs))),
      ),
    );
  // A keeper's token acts as a keeper if it may manage.
  return { ...who, keeper: keeper && has(to, 'manage'), narrowed: { to, everywhere: keeper } };
}
