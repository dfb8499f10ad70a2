import { eq } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import { fileBuffer } from '@/demo/file';
import { atMoment } from '@/server/base/clock';
import { defineColumn } from '@/server/columns/define';
import { createList, listOf } from '@/server/columns/lists';
import { setValues } from '@/server/columns/setValues';
import { writableDb } from '@/server/db/client';
import { person } from '@/server/db/schema';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { placeHold } from '@/server/holds/holds';
import { createSeries } from '@/server/places/create';
import { endRuns } from '@/server/retention/certificate';
import { listRuns } from '@/server/retention/runs';
import { reviewOf } from '@/server/reviews/paper';
import { freshLibrary, furnished, newcomer, open, passwords } from '../library';
import { anotherBrowser, begin, end } from './stage';
import type { Browser } from './browser';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let keeper: Actor;
let second: Actor;
let reader: Actor;
let seriesId: string;
let yearId: string;
const papers = new Map<string, string>();

beforeAll(async () => {
  keeper = await freshLibrary();
  second = await newcomer(keeper, 'Kit Second');
  await writableDb().update(person).set({ keeper: true }).where(eq(person.id, second.personId));
  reader = await newcomer(keeper, 'Rea Der');
  const home = await furnished(keeper);
  seriesId = home.series.id;
  yearId = home.year.id;
  await open(keeper, home.series.id, reader, 'reader');
  const { id: listId } = await createList(keeper, { name: 'Types', terms: ['Policy', 'Letter'] });
  const [policy, letter] = (await listOf(keeper, listId)).terms.map(({ id }) => id);
  const { id: column } = await defineColumn(keeper, {
    ...plainFields,
    placeId: home.series.id,
    name: 'Type',
    type: 'choice',
    listId,
  });
  const file = (name: string, day: string, type: string | undefined) =>
    atMoment(new Date(`${day}T10:00:00Z`), async () => {
      const id = await fileBuffer(keeper, yearId, `${name}.txt`, Buffer.from(`${name}, of ${day}`));
      await setValues(keeper, { documentIds: [id], values: { [column]: type ?? '' } });
      papers.set(name, id);
    });
  await file('Fire policy', '2023-05-01', policy);
  await file('Letter A', '2020-05-01', letter);
  await file('Letter B', '2020-06-01', letter);
  const records = await createSeries(keeper, { name: 'Records', referencePattern: null });
  await createDossier(keeper, { seriesId: records.id, name: 'Certificates', reference: null });
  ({ server, browser } = await begin(keeper));
});
afterAll(() => end());

const id = (name: string): string => papers.get(name) ?? '';

it('a place has its policies reviewed; one that is past its review is reviewed, and that is undone and done again', async () => {
  await browser.goTo(`${server.url}/place/${seriesId}`);
  await browser.click('button', 'This place');
  await browser.click('menuitem', 'Reviews…');
  await browser.seesText('This place says nothing of reviews');
  await browser.click('button', 'New rule…');
  await browser.select('Of which papers', 'Policy');
  await browser.click('button', 'Save the rule');
  await browser.seesText('every 2 years, by the keepers, announced 30 days before');
  await browser.goTo(`${server.url}/desk`);
  await browser.seesText(/Fire policy comes up for review, in Finance/u);
  await browser.goTo(`${server.url}/duties`);
  await browser.seesText(/\d+ d past/u);
  await browser.goTo(`${server.url}/duties?paper=${id('Fire policy')}`);
  await browser.click('button', 'Review…');
  await browser.fill('Note', 'Still right');
  await browser.click('button', 'Note the review');
  await browser.seesText('“Fire policy” is reviewed');
  await browser.click('button', 'Undo');
  await browser.driver.wait(
    async () => (await reviewOf(keeper, { documentId: id('Fire policy') })).done.length === 0,
    10_000,
  );
  await browser.click('button', 'Review…');
  await browser.click('button', 'Note the review');
  // The docket may still show the first one: it counts once it is kept.
  await browser.driver.wait(
    async () => (await reviewOf(keeper, { documentId: id('Fire policy') })).done.length === 1,
    10_000,
  );
  await browser.seesText(/version 1, kept as it is/u);
  const { next } = await reviewOf(keeper, { documentId: id('Fire policy') });
  expect(Number(next?.due.slice(0, 4))).toBe(new Date().getFullYear() + 2);
});

it('someone who reads sees when a paper is reviewed and how long it is kept, and may change neither', async () => {
  const other = await anotherBrowser();
  await other.signIn(server.url, reader.email, passwords.others);
  await other.goTo(`${server.url}/place/${yearId}?paper=${id('Fire policy')}`);
  await other.seesText('Every 2 years, by the keepers');
  expect(await other.all('button', 'Review…')).toEqual([]);
  expect(await other.all('button', 'How often…')).toEqual([]);
  await other.goTo(`${server.url}/retention`);
  await other.seesText('Nothing here');
  await other.goTo(`${server.url}/duties`);
  await other.seesText('Fire policy');
  expect(await other.all('link', 'Schedule, holds and disposals')).toEqual([]);
});

it('a disposal by the schedule is stopped by a hold, then done by two keepers, with its certificate', async () => {
  await browser.goTo(`${server.url}/retention`);
  await browser.click('button', 'New class…');
  await browser.fill('Name', 'Old letters');
  await browser.fill('Authority', 'Records policy');
  await browser.fill('Kept for', '2');
  await browser.click('button', 'Save');
  await browser.click('button', 'Say where');
  await browser.fill('Place', 'committees');
  await browser.settled();
  await browser.click('option', /Committees/u);
  await browser.select('Of which papers', 'Letter');
  await browser.click('button', 'Give it to these papers');
  await browser.seesText('2 papers');

  await placeHold(keeper, {
    name: 'Dispute',
    reason: 'In court',
    on: { placeIds: [], documentIds: [id('Letter A')], views: [] },
  });
  await browser.click('tab', 'Disposals');
  await browser.click('button', 'Prepare a disposal…');
  await browser.fill('Where the certificate will be filed', 'certificates');
  await browser.settled();
  await browser.click('option', /Certificates/u);
  await browser.click('button', 'List what is due');
  await browser.seesText('1 to be destroyed, 1 under a hold');
  await browser.seesText('under the hold “Dispute”');
  await browser.seesText('another keeper looks through it and approves');
  expect(await browser.all('button', 'Approve…')).toEqual([]);

  const other = await anotherBrowser();
  await other.signIn(server.url, second.email, passwords.others);
  await other.goTo(await browser.driver.getCurrentUrl());
  await other.click('button', 'Approve…');
  await other.click('button', 'Approve 1 paper');
  await other.seesText('1 paper in the disposal tray');
  await other.seesText('1 under a hold, 1 in the disposal tray');
  await other.click('button', 'Destroy what is in the tray now…');
  await other.fill('Type 1 to go on', '2');
  expect(await (await other.get('button', 'Destroy 1 paper')).isEnabled()).toBe(false);
  await other.fill('Type 1 to go on', '1');
  await other.click('button', 'Destroy 1 paper');
  await other.seesText('1 paper destroyed. The certificate follows by itself.');
  // What the worker does, which does not run beside these tests.
  expect(await endRuns()).toBe(1);
  await other.goTo(`${server.url}/retention?show=disposals`);
  await other.seesText('1 under a hold, 1 destroyed');
  await other.click('link', 'Certificate');
  await other.seesText(/Certificate of destruction/u);
  expect((await listRuns(keeper))[0]).toMatchObject({ state: 'ended' });

  // The hold is lifted, with a reason; the paper that was under it is free again.
  await browser.goTo(`${server.url}/retention?show=holds`);
  await browser.click('button', 'Lift…');
  await browser.fill('Why', 'Settled');
  await browser.click('button', 'Lift it');
  await browser.seesText(/lifted by Kea Keeper/u);
});

it('a paper is put under a hold from its docket, and says so', async () => {
  await browser.goTo(`${server.url}/place/${yearId}?paper=${id('Letter A')}`);
  await browser.click('button', 'More to do with this paper');
  await browser.click('menuitem', 'Hold…');
  await browser.fill('Name', 'Audit');
  await browser.fill('Reason', 'Asked for');
  await browser.click('button', 'Hold “Letter A”');
  await browser.seesText('Under the hold “Audit”: Asked for');
});
