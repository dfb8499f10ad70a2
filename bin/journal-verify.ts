/** Walks the journal's chain of hashes; ends with 1 where it is broken. */
import { disconnect } from '@/server/db/client';
import { verifyJournal } from '@/server/journal/verify';

const { entries, brokenAt } = await verifyJournal();
await disconnect();
if (brokenAt === null) console.log(`The journal is whole: ${entries} entries follow from one another.`);
else {
  console.log(`The journal is broken: entry ${brokenAt} does not follow from those before it.`);
  process.exitCode = 1;
}
