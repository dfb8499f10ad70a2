import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { joinNext } from '@/server/intake/join';
import { arrivalsFolder, readArrivals } from '../arrivals';
import { freshLibrary, furnished, newcomer, passwords } from '../library';
import { placeOn, say } from '../sheets';
import type { Browser } from './browser';
import type { WebServer } from './server';
import { begin, end } from './stage';

let server: WebServer;
let browser: Browser;
let clerk: Actor;
let folder: string;
let remove: () => Promise<void>;

beforeAll(async () => {
  ({ folder, remove } = await arrivalsFolder());
  const keeper = await freshLibrary();
  clerk = await newcomer(keeper, 'Cle Rk');
  const { series } = await furnished(keeper, 'Suppliers');
  const { id } = await createDossier(keeper, { seriesId: series.id, name: 'Lantern Dredging', reference: 'S-017' });
  await say(keeper, placeOn(id), [{ who: clerk, gives: ['see', 'take', 'add', 'amend'] }], false);
  ({ server, browser } = await begin(keeper));
  await browser.driver.manage().deleteAllCookies();
  await browser.signIn(server.url, clerk.email, passwords.others);
});
afterAll(async () => {
  await end();
  await remove();
});

async function pdfSaying(name: string, words: string): Promise<string> {
  const pdf = await PDFDocument.create();
  pdf.addPage().drawText(words, { x: 60, y: 700, size: 20 });
  const at = path.join(folder, name);
  await writeFile(at, await pdf.save());
  return at;
}
const choose = async (label: string, ...files: string[]) =>
  (await browser.driver.findElement({ css: `input[aria-label="${label}"]` })).sendKeys(files.join('\n'));

it('files are put in by hand, wait for whoever put them in, and are joined into one paper', async () => {
  await browser.goTo(`${server.url}/intake`);
  await browser.seesText('Nothing waits.');
  const odd = path.join(folder, 'odd.bin');
  await writeFile(odd, Buffer.from([0, 1, 2, 3, 250, 251]));
  await choose(
    'Files for the intake',
    await pdfSaying('First half.pdf', 'For S-017'),
    await pdfSaying('Second half.pdf', 'And so on'),
    odd,
  );
  await browser.seesText('2 files are in the intake');
  await browser.seesText(/a kind of file the library does not know/u);
  await browser.click('button', 'Let go of odd.bin');
  await readArrivals();
  await browser.click('button', /First half/u);
  await browser.seesText('put in by Cle Rk');
  await browser.click('button', 'Otherwise');
  await browser.click('menuitem', 'Join with others…');
  await browser.click('button', 'Add Second half.pdf');
  await browser.click('button', 'Second half.pdf earlier');
  await browser.click('button', 'Turn First half.pdf');
  await browser.click('button', 'Join these 2');
  await browser.seesText('2 arrivals become one paper');
  await joinNext();
  await readArrivals();
  await browser.click('button', /Second half/u);
  await browser.click('button', /^File 1 paper in Lantern/u);
  await browser.seesText('1 paper filed in');
});

it('pages are photographed one after the other, turned and ordered, and become one paper', async () => {
  await browser.driver.manage().window().setRect({ width: 390, height: 844 });
  await browser.goTo(`${server.url}/intake`);
  const pages = [];
  for (const [at, grey] of [240, 160].entries()) {
    const file = path.join(folder, `IMG_${at}.jpg`);
    await writeFile(
      file,
      await sharp({ create: { width: 300, height: 400, channels: 3, background: { r: grey, g: grey, b: grey } } })
        .jpeg()
        .toBuffer(),
    );
    pages.push(file);
  }
  await browser.click('button', 'Photograph pages…');
  await choose('A page by the camera', pages[0] ?? '');
  await browser.seesText('Page 1');
  await choose('A page by the camera', pages[1] ?? '');
  await browser.click('button', 'Page 2 earlier');
  await browser.click('button', 'Turn page 1');
  await browser.click('button', 'Put in 2 pages as one paper');
  await browser.seesText('2 pages are in the intake, as one paper.');
  expect(await joinNext()).toBe(true);
  await readArrivals(true);
  await browser.click('button', /IMG_1/u);
  await browser.seesText('put in by Cle Rk');
  await browser.driver.manage().window().setRect({ width: 1280, height: 800 });
});
