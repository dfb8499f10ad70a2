import { Chance } from '@/core/chance/chance';
import { sureOfFirst } from '@/core/intake/evidence';
import { proposeNext } from '@/server/intake/propose';
import { furnishSuppliers, judged, oneArrives, type Told } from '../demoArrivals';
import { dropLibrary, freshLibrary, furnished } from '../library';

afterAll(dropLibrary);

// The same as bin/bench proposals measures on more of them; from a seed that nothing was fitted to.
it('of mails as the demo has them, of whose suppliers a third is new, place, number, day and amount are right for 95 of 100', async () => {
  const keeper = await freshLibrary();
  const { series } = await furnished(keeper, 'Suppliers');
  const chance = new Chance(9091);
  const known = await furnishSuppliers(keeper, series.id, chance);
  const told: Told[] = [];
  for (let at = 0; at < 40; at += 1) told.push(await oneArrives(chance, known));
  while (await proposeNext());
  const all = await Promise.all(told.map(judged));
  const share = (of: (each: (typeof all)[number]) => boolean) => all.filter(of).length / all.length;
  expect(all.filter(({ isHeldOut }) => isHeldOut).length).toBeGreaterThan(7);
  expect(all.filter(({ isLookHeldOut }) => isLookHeldOut).length).toBeGreaterThan(10);
  expect(share(({ place }) => place)).toBeGreaterThanOrEqual(0.95);
  expect(share(({ number }) => number)).toBeGreaterThanOrEqual(0.95);
  expect(share(({ day }) => day)).toBeGreaterThanOrEqual(0.95);
  expect(share(({ amount }) => amount)).toBeGreaterThanOrEqual(0.95);
  const said = all.reduce((sum, { candidates }) => sum + sureOfFirst(candidates), 0) / all.length;
  expect(Math.abs(said - share(({ place }) => place))).toBeLessThan(0.05);
});
