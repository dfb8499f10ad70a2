/** Walks the journal's chain of hashes; ends with 1 where it is broken. */
import { db, disconnect } from '@/server/db/client';
import { brokenAnchors, readAnchors } from '@/server/anchors/anchor';
import { verifyJournal } from '@/server/journal/verify';

const { entries, brokenAt } = await verifyJournal();
const { anchors, broken } = await brokenAnchors(db(), await readAnchors());
await disconnect();
if (broken[0]) {
  console.log(`The journal was cut off or changed: entry ${broken[0].entryId} is not what was written down of it.`);
  process.exitCode = 1;
} else if (brokenAt === null) console.log(`It agrees with ${anchors.length} times that its head was written down.`);
if (brokenAt === null) console.log(`The journal is whole: ${entries} entries follow from one another.`);
else {
  console.log(`The journal is broken: entry ${brokenAt} does not follow from those before it.`);
  process.exitCode = 1;
}
