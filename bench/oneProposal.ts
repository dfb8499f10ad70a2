/**
 * Measures how long one proposal takes in a large library: what speaks for which dossier, for 60 arrivals made of real sentences, half of
 * them naming a dossier, after ten others. Beside it, in the same run, one count over the library's papers by SQL. In a library of its own.
 *   bin/bench oneProposal [PAPERS]
 */
import { sql } from 'drizzle-orm';
import { Chance } from '@/core/chance/chance';
import { db, disconnect } from '@/server/db/client';
import { document, place } from '@/server/db/schema';
import { candidatesFor } from '@/server/intake/known';
import { manualPages } from './manual';
import { givenTexts } from './searchLibrary';
import { measuredLibrary } from './viewLibrary';

const papers = Number(process.argv[2] ?? 100_000);
if (!Number.isInteger(papers) || papers < 1000) throw new Error('Say how many papers: bin/bench oneProposal 100000');
await measuredLibrary(papers, 'search');
await givenTexts(papers, process.env['DATABASE_URL'] ?? '');
const dossiers = await db()
  .select({ name: place.name, reference: place.reference })
  .from(place)
  .where(sql`${place.kind} = 'dossier'`);
const chance = new Chance(41);
const sentences = manualPages()
  .flatMap(({ text }) => text.replace(/\s+/gu, ' ').split(/(?<=[.!?])\s+(?=\p{Lu})/u))
  .filter((text) => text.length > 30 && text.length < 400);
const times: number[] = [];
const bare: number[] = [];
for (let at = 0; at < 70; at += 1) {
  const named = at % 2 === 0 && dossiers.length > 0 ? chance.pick(dossiers) : null;
  const text = [named?.name ?? '', ...chance.some(sentences, 18)].join('\n');
  const began = performance.now();
  await candidatesFor({
    ...{ id: crypto.randomUUID(), sender: `bills@s${at}.example`, sentTo: ['intake@library.example'], sheet: null },
    ...{ references: named?.reference ? [named.reference] : [], identifiers: [], contents: [], text },
  });
  if (at >= 10) times.push(performance.now() - began);
  const counted = performance.now();
  await db().$count(document);
  if (at >= 10) bare.push(performance.now() - counted);
}
const middle = (all: readonly number[], part: number): string =>
  `${(all.toSorted((one, other) => one - other)[Math.floor(all.length * part)] ?? 0).toFixed(0)} ms`;
console.log(`${papers} papers in ${dossiers.length} dossiers`);
console.log(`One proposal: ${middle(times, 0.5)}, of twenty the slowest ${middle(times, 0.95)}`);
console.log(`One count of all papers by SQL: ${middle(bare, 0.5)}`);
await disconnect();
process.exit(0);
