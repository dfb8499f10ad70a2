/** Makes a large library for measuring: `npm run bench:seed -- --papers 100000`. */
import { eq } from 'drizzle-orm';
import type { Actor } from '@/server/gate/actor';
import { db, disconnect } from '@/server/db/client';
import { person } from '@/server/db/schema';
import { createFolder, createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { fillWithPapers } from './large';

const at = process.argv.indexOf('--papers');
const papers = Number(process.argv[at + 1]);
if (at === -1 || !Number.isInteger(papers) || papers < 1) throw new Error('Say how many: --papers 100000');
const [row] = await db().select().from(person).where(eq(person.keeper, true)).limit(1);
if (!row) throw new Error('The library has no keeper yet: start it once, or sign up its first keeper');
const keeper: Actor = { personId: row.id, name: row.name, email: row.email, keeper: true };

const began = performance.now();
const series = await createSeries(keeper, {
  name: `Measured ${new Date().toISOString().slice(0, 19)}`,
  referencePattern: 'M-####',
});
const placeIds: string[] = [];
for (let number = 1; number <= 40; number += 1) {
  const dossier = await createDossier(keeper, { seriesId: series.id, name: `Dossier ${number}`, reference: null });
  for (const name of ['Correspondence', 'Invoices', 'Reports']) {
    placeIds.push((await createFolder(keeper, { parentId: dossier.id, name })).id);
  }
}
// One folder that is far too full, as there always is; the rest lies spread.
const full = Math.min(20_000, Math.floor(papers / 2));
const overfull = await createFolder(keeper, { parentId: series.id, name: 'Everything' });
if (full > 0) await fillWithPapers(keeper, [overfull.id], full);
await fillWithPapers(keeper, placeIds, papers - full);
console.log(
  `${papers} papers in ${((performance.now() - began) / 1000).toFixed(1)} s; ${full} of them in one folder: /place/${overfull.id}`,
);
await disconnect();
