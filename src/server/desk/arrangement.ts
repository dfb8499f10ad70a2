import { eq } from 'drizzle-orm';
import { completed } from '@/core/desk/arrangement';
import { actsInSteps, asks } from '../acts/operation';
import { db, writableDb } from '../db/client';
import { deskArrangement } from '../db/schema';
import { ownOf } from '../gate/visible';

/** How the caller has their desk. */
export const arrangementOf = asks('desk.arrangement', async (actor) => {
  const personId = ownOf(actor);
  if (personId === null) return completed(null);
  const [stored] = await db()
    .select({ arrangement: deskArrangement.arrangement })
    .from(deskArrangement)
    .where(eq(deskArrangement.personId, personId));
  return completed(stored?.arrangement ?? null);
});

/** Arranges the caller's desk. Has no journal entry: it is theirs alone. */
export const arrangeDesk = actsInSteps('desk.arrange', async ({ personId }, arrangement) => {
  await writableDb()
    .insert(deskArrangement)
    .values({ personId, arrangement })
    .onConflictDoUpdate({ target: deskArrangement.personId, set: { arrangement } });
  return null;
});
