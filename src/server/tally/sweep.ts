import { lt, sql } from 'drizzle-orm';
import { writableDb } from '../db/client';
import { tallyChange } from '../db/schema';

/** Twice as long as a tally may go without reading changes before it reads everything again. */
const keptFor = '60 minutes';

/** Deletes changes that every tally has read, or will not ask for. */
export async function sweepChanges(): Promise<void> {
  await writableDb()
    .delete(tallyChange)
    .where(lt(tallyChange.at, sql`now() - ${keptFor}::interval`));
}
