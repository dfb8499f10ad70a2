/**
 * Holds the library to what people said of it: ways, access, given values, counts, content, the index of words, the tally and
 * the journal's chain. Says what differs, and ends with 1 where anything does.
 *   npm run verify              all but the bytes of content
 *   npm run verify -- --bytes   these as well: every content is read and hashed
 *   npm run verify -- --mend    puts what is derived right in one act, then looks again
 */
import { and, eq } from 'drizzle-orm';
import { db, disconnect } from '@/server/db/client';
import { person } from '@/server/db/schema';
import { startTally, stopTally } from '@/server/tally/host';
import { isThere, mendLibrary, verifyLibrary } from '@/server/verify/verify';

const words = process.argv.slice(2);
const unknown = words.find((word) => word !== '--mend' && word !== '--bytes');
/** More than these are counted only. */
const mostTold = 200;

async function look(): Promise<number> {
  const differences = await verifyLibrary({ contentBytes: words.includes('--bytes') });
  for (const { of, about, says } of differences.slice(0, mostTold)) console.log(`${of}: ${about} ${says}`);
  if (differences.length > mostTold) console.log(`... and ${differences.length - mostTold} more`);
  return differences.length;
}

if (unknown !== undefined) {
  console.error(`verify: unknown word '${unknown}'; --mend and --bytes are the only ones`);
  process.exitCode = 2;
} else if (!(await isThere())) console.log('No library is founded yet: there is nothing to verify.');
else {
  startTally();
  let left = await look();
  if (left > 0 && words.includes('--mend')) {
    const [keeper] = await db()
      .select({ personId: person.id, name: person.name, email: person.email, keeper: person.keeper })
      .from(person)
      .where(and(eq(person.keeper, true), eq(person.active, true)))
      .limit(1);
    if (!keeper) throw new Error('There is no keeper in whose name the library could be mended');
    await mendLibrary(keeper);
    console.log('What is derived has been worked out anew. Looking again:');
    left = await look();
  }
  console.log(left === 0 ? 'Everything is as it should be.' : `${left} things are not as they should be.`);
  process.exitCode = left === 0 ? 0 : 1;
}
await stopTally();
await disconnect();
