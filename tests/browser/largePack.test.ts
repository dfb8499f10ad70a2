import { randomBytes } from 'node:crypto';
import { By } from 'selenium-webdriver';
import { PDFDocument } from '@cantoo/pdf-lib';
import { fileBuffer } from '@/demo/file';
import { makeNextCopy } from '@/server/packs/copies';
import { addPapers } from '@/server/packs/entries';
import { beginPack } from '@/server/packs/fromAgenda';
import { issuePack } from '@/server/packs/issue';
import { makeNextIssue } from '@/server/packs/make';
import { packContent } from '@/server/packs/reading';
import { freshLibrary, furnished } from '../library';
import { readPaper } from '../reading';
import { begin, end } from './stage';
import type { Browser } from './browser';
import type { WebServer } from './server';

const pages = 800;
/** On the slow connection below, beside other tests. */
const patienceMs = 3000;
/** So fast is the telephone’s connection: the whole would take twice as long as there is patience. */
const bytesPerSecond = 450_000;

let server: WebServer;
let browser: Browser;
let documentId: string;
let issueId: string;
/** Of the copy, in bytes. */
let size: number;

async function pdf(): Promise<Buffer> {
  const made = await PDFDocument.create();
  for (let page = 1; page <= pages; page += 1) {
    const drawn = made.addPage([595, 842]);
    for (let line = 0; line < 40; line += 1)
      drawn.drawText(`${page} ${line} ${randomBytes(60).toString('base64')}`, { x: 50, y: 780 - line * 17, size: 10 });
  }
  return Buffer.from(await made.save());
}

beforeAll(async () => {
  const keeper = await freshLibrary();
  const { year } = await furnished(keeper);
  documentId = await fileBuffer(keeper, year.id, 'All papers.pdf', await pdf());
  await readPaper(documentId);
  const { packId } = await beginPack(keeper, { of: { placeId: year.id, name: 'Measured' } });
  await addPapers(keeper, { packId, parentId: null, documentIds: [documentId] });
  ({ issueId } = await issuePack(keeper, { packId, asFiles: false, as: 'whole' }));
  await makeNextIssue();
  while (await makeNextCopy());
  size = (await packContent(keeper, issueId, 'see')).sizeBytes;
  ({ server, browser } = await begin(keeper));
  await browser.resize({ width: 390, height: 800 });
});
afterAll(() => end());

/** Runs in the page before all else: notes when the first page is seen, and when it is drawn, in ms since the page was asked for. */
const watch = `
  const look = () => {
    const picture = document.querySelector('main img[src*="page=1"]');
    if (!window.seenAt && picture && picture.complete && picture.naturalWidth > 0) window.seenAt = performance.now();
    const canvas = document.querySelector('[data-page="1"] canvas');
    if (canvas && canvas.style.visibility !== 'hidden' && canvas.width !== 300) window.drawnAt = performance.now();
    else requestAnimationFrame(look);
  };
  requestAnimationFrame(look);`;

it('the first page of 800 is there soon on a telephone, before the rest could be', async () => {
  // What shows pages is in the browser of whoever has read a paper before.
  await browser.goTo(`${server.url}/paper/${documentId}`);
  await browser.until('a page', async () => (await browser.driver.findElements(By.css('[data-page="1"] canvas')))[0]);
  await browser.cdp('Page.addScriptToEvaluateOnNewDocument', { source: watch });
  await browser.slowNetwork(20, bytesPerSecond);
  await browser.goTo(`${server.url}/issued/${issueId}`);
  const drawnMs = await browser.until('the first page', () =>
    browser.driver.executeScript<number | null>('return window.drawnAt'),
  );
  const { seenMs, bytes } = await browser.driver.executeScript<{ seenMs: number; bytes: number }>(`
    const asked = performance.getEntriesByType('resource').filter(({ name }) => /api.pack.(?!.*page=)/u.test(name));
    return { seenMs: window.seenAt, bytes: asked.reduce((sum, { transferSize }) => sum + transferSize, 0) };`);
  const wholeMs = (size / bytesPerSecond) * 1000;
  expect(wholeMs).toBeGreaterThan(2 * patienceMs);
  expect(seenMs).toBeLessThan(patienceMs);
  expect(drawnMs).toBeLessThan(wholeMs);
  expect(bytes).toBeGreaterThan(0);
  expect(bytes).toBeLessThan(size / 2);
});
