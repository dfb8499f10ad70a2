import { and, eq, lt } from 'drizzle-orm';
import { APIError } from 'better-auth/api';
import { now } from '../base/clock';
import { db } from '../db/client';
import { usedCode } from '../db/schema';
import { sha256Hex } from '../base/sha256';

/** Longer than any code is good: its own half minute, and the one before and after for clocks that differ. */
const codeLifeMs = 3 * 60_000;

/** Takes a right code of the second step as used; refuses one that has let this person in before (RFC 6238, section 5.2). */
export async function takeCode(personId: string, code: string): Promise<void> {
  const at = now();
  const codeHash = sha256Hex(code);
  await db()
    .delete(usedCode)
    .where(and(eq(usedCode.personId, personId), lt(usedCode.usedAt, new Date(at.getTime() - codeLifeMs))));
  const taken = await db()
    .insert(usedCode)
    .values({ personId, codeHash, usedAt: at })
    .onConflictDoNothing()
    .returning();
  if (taken.length === 0) throw new APIError('UNAUTHORIZED', { message: 'Invalid code', code: 'INVALID_CODE' });
}
