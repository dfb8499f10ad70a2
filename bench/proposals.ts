/**
 * Measures what the intake makes of 300 arrivals made as the demo’s are, from mails as they come, with nothing filed between them:
 * how often the place, the number, the day and the amount are right, and how far off it is how sure each place is said to be; and how
 * many proposals a second are made of arrivals that are read. In a library of its own, dropped at the end.
 *   bin/bench proposals [SEED]
 */
import { Chance } from '@/core/chance/chance';
import { sureOfFirst } from '@/core/intake/evidence';
import { proposeNext } from '@/server/intake/propose';
import { furnishSuppliers, judged, oneArrives, type Told } from '../tests/demoArrivals';
import { dropLibrary, freshLibrary, furnished } from '../tests/library';

const arrivals = 300;
process.env['EMBRIN_ANCHORS'] = '';
process.env['EMBRIN_TEST_CLUSTER'] ??= process.env['DATABASE_URL'] ?? '';
const keeper = await freshLibrary();
const { series } = await furnished(keeper, 'Suppliers');
const chance = new Chance(Number(process.argv[2] ?? 20_261_128));
const known = await furnishSuppliers(keeper, series.id, chance);
const told: Told[] = [];
for (let at = 0; at < arrivals; at += 1) told.push(await oneArrives(chance, known));
const began = performance.now();
while (await proposeNext());
const seconds = (performance.now() - began) / 1000;
const all = await Promise.all(told.map(judged));
const percent = (some: readonly boolean[]): string =>
  `${some.filter(Boolean).length} of ${some.length} (${((some.filter(Boolean).length / some.length) * 100).toFixed(1)} %)`;
for (const [says, some] of [
  ['all', all],
  ['suppliers of whom nothing was filed', all.filter(({ isHeldOut }) => isHeldOut)],
  ['looks kept out of the fitting', all.filter(({ isLookHeldOut }) => isLookHeldOut)],
] as const)
  console.log(
    `${says}: place ${percent(some.map(({ place }) => place))}, number ${percent(some.map(({ number }) => number))}, ` +
      `day ${percent(some.map(({ day }) => day))}, amount ${percent(some.map(({ amount }) => amount))}`,
  );
const sure = all.filter(({ candidates }) => candidates.length > 0);
const bands = [0, 0.5, 0.7, 0.8, 0.9, 0.95, 1.01];
for (const [at, from] of bands.slice(0, -1).entries()) {
  const some = sure.filter(({ candidates }) => {
    const is = sureOfFirst(candidates);
    return is >= from && is < (bands[at + 1] ?? 1);
  });
  if (some.length === 0) continue;
  const said = some.reduce((sum, { candidates }) => sum + sureOfFirst(candidates), 0) / some.length;
  console.log(`said to be ${(said * 100).toFixed(1)} % sure: right ${percent(some.map(({ place }) => place))}`);
}
console.log(`Proposals: ${(arrivals / seconds).toFixed(1)} a second`);
for (const each of all.filter(({ place, number }) => !place || !number).slice(0, 25))
  console.log(
    JSON.stringify({ layout: each.layout, place: each.place, number: each.told, first: each.candidates[0]?.evidence }),
  );
await dropLibrary();
process.exit(0);
