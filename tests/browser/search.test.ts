import { PDFDocument } from '@cantoo/pdf-lib';
import { Key } from 'selenium-webdriver';
import sharp from 'sharp';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { freshLibrary, furnished, newcomer } from '../library';
import { readPaper } from '../reading';
import type { Browser } from './browser';
import { begin, end } from './stage';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let keeper: Actor;
let placeId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  await newcomer(keeper, 'Rea Der');
  placeId = (await furnished(keeper)).year.id;
  const long = await PDFDocument.create();
  const font = await long.embedFont('Helvetica');
  for (let page = 1; page <= 220; page += 1)
    long
      .addPage([400, 300])
      .drawText(
        page === 212 ? 'Here the phalarope rests.' : `On day ${page} the tide was read by the harbour master.`,
        { x: 20, y: 200, size: 12, font },
      );
  await filed('Birds of the bar.pdf', Buffer.from(await long.save()));
  const line = `<svg xmlns="http://www.w3.org/2000/svg" width="1700" height="300"><rect width="100%" height="100%" fill="#fff"/><text x="60" y="160" font-family="Liberation Serif" font-size="48">Received of the bosun, one binnacle.</text></svg>`;
  await filed('Receipt.tif', await sharp(Buffer.from(line)).tiff().toBuffer());
  await filed('Rota.txt', Buffer.from('Nobody is on the quay on Sundays.'));
  ({ server, browser } = await begin(keeper));
});
afterAll(() => end());

async function filed(fileName: string, content: Buffer): Promise<void> {
  await readPaper(await fileBuffer(keeper, placeId, fileName, content));
}

it('finds a word that stands only on page 212 of a PDF, shows it, and opens the paper there with it marked', async () => {
  await browser.goTo(`${server.url}/desk`);
  await browser.settled();
  await browser.press('/');
  await browser.press('phalaropes');
  await browser.seesText('All papers with “phalaropes” in them');
  await browser.chord(Key.SHIFT, Key.ENTER);
  await browser.seesText('Here the phalarope rests');
  await browser.seesText('Page 212');
  await browser.click('link', 'Birds of the bar');
  await browser.seesText('1 of 1 place');
  await browser.seesText(/page 212/u);
});

it('finds a word that stands only in a scan', async () => {
  await browser.goTo(`${server.url}/find`);
  await browser.fill('Words in papers and their titles', 'binnacle');
  await browser.press(Key.ENTER);
  await browser.seesText('Received of the bosun');
  await browser.click('link', 'Receipt');
  await browser.seesText('1 of 1 place');
});

it('says what was looked for where nothing is found', async () => {
  await browser.goTo(`${server.url}/find?words=kittiwake`);
  await browser.seesText('Nothing was found for “kittiwake”');
});
