import { lt, sql } from 'drizzle-orm';
import { db } from '../db/client';
import { tallyChange } from '../db/schema';

/** Twice as long as a tally goes without a look at the changes: after that it reads everything again. */
const keptFor = '60 minutes';

/** Lets go of traces of changes that every tally has seen, or will not look for. */
export async function sweepChanges(): Promise<void> {
  await db()
    .delete(tallyChange)
    .where(lt(tallyChange.at, sql`now() - ${keptFor}::interval`));
}
