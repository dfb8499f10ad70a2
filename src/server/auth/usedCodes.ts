import { and, eq, lt } from 'drizzle-orm';
import { APIError } from 'better-auth/api';
import { now } from '../base/clock';
import { writableDb } from '../db/client';
import { usedCode } from '../db/schema';
import { sha256Hex } from '../base/sha256';

/** Longer than any code is valid: its half minute, and one before and after for clock differences. */
const codeLifeMs = 3 * 60_000;

/** Marks a correct code of the second step as used; refuses one this person has used before (RFC 6238, section 5.2). */
export async function takeCode(personId: string, code: string): Promise<void> {
  const at = now();
  const codeHash = sha256Hex(code);
  await writableDb()
    .delete(usedCode)
    .where(and(eq(usedCode.personId, personId), lt(usedCode.usedAt, new Date(at.getTime() - codeLifeMs))));
  const taken = await writableDb()
    .insert(usedCode)
    .values({ personId, codeHash, usedAt: at })
    .onConflictDoNothing()
    .returning();
  if (taken.length === 0) throw new APIError('UNAUTHORIZED', { message: 'Invalid code', code: 'INVALID_CODE' });
}
