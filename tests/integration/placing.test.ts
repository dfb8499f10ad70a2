import { Chance } from '@/core/chance/chance';
import { sureOfFirst } from '@/core/intake/evidence';
import { writableDb } from '@/server/db/client';
import { arrival } from '@/server/db/schema';
import { createDossier } from '@/server/dossiers/create';
import { storeBytes } from '@/server/blobs/keep';
import { transaction } from '@/server/db/transaction';
import { sha256Hex } from '@/server/base/sha256';
import { candidatesFor } from '@/server/intake/known';
import { dropLibrary, freshLibrary, furnished } from '../library';
import { madeUpArrival, unseen, type Known } from './placing';

const names = [
  ...['Gull Chandlers', 'Lantern Dredging', 'Brine and Sons', 'Marsh Electrical', 'North Quay Rope', 'Tern Divers'],
  ...['Samphire Joinery', 'Ebb Plumbing', 'Cockle Haulage', 'Spar Surveyors', 'Oakum Paints', 'Kedge Engineering'],
];
let known: readonly Known[];

beforeAll(async () => {
  const keeper = await freshLibrary();
  const { series } = await furnished(keeper, 'Suppliers');
  const chance = new Chance(3);
  const mail = Buffer.from('filed before');
  await transaction([], (tx) => storeBytes(tx, sha256Hex(mail), mail));
  const made: Known[] = [];
  for (const [at, name] of names.entries()) {
    const reference = `S-${200 + at}`;
    const { id } = await createDossier(keeper, { seriesId: series.id, name, reference });
    const senders = [`accounts@${name.split(' ')[0]?.toLowerCase()}.example`, `office@s${at}.example`].slice(
      0,
      1 + (at % 2),
    );
    const before = senders.flatMap((senderAddress) => Array.from({ length: chance.whole(1, 9) }, () => senderAddress));
    await writableDb()
      .insert(arrival)
      .values(
        before.map((senderAddress) => ({
          ...{ way: 'mail' as const, arrivedAt: new Date(), sha256: sha256Hex(mail), fileName: 'Mail.eml' },
          ...{ mediaType: 'message/rfc822', envelopeFrom: '', sentTo: [], state: 'filed' as const, dossierId: id },
          senderAddress,
        })),
      );
    made.push({ id, name, reference, senders });
  }
  known = made;
});
afterAll(() => dropLibrary());

it('how sure a place is said to be is how often such a place is right', async () => {
  const chance = new Chance(12);
  const told: { readonly sure: number; readonly right: boolean }[] = [];
  for (let at = 0; at < 800; at += 1) {
    const { read, truth } = madeUpArrival(chance, known, unseen);
    const candidates = await candidatesFor(read);
    if (candidates.length > 0) told.push({ sure: sureOfFirst(candidates), right: candidates[0]?.dossierId === truth });
  }
  const share = (some: typeof told) => some.filter(({ right }) => right).length / some.length;
  const said = (some: typeof told) => some.reduce((sum, { sure }) => sum + sure, 0) / some.length;
  const tenths = Array.from({ length: 10 }, (_none, at) => told.filter(({ sure }) => Math.floor(sure * 10) === at));
  const off = tenths.filter((some) => some.length > 0).map((some) => Math.abs(share(some) - said(some)) * some.length);
  expect(told.length).toBeGreaterThan(600);
  // Of those that are right beyond doubt and those that are not there are enough of each.
  expect(share(told)).toBeLessThan(0.9);
  expect(off.reduce((sum, each) => sum + each, 0) / told.length).toBeLessThan(0.05);
  expect(share(told.filter(({ sure }) => sure > 0.9))).toBeGreaterThan(0.95);
});
