import { createHash } from 'node:crypto';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { zipSync } from 'fflate';
import { By } from 'selenium-webdriver';
import { plainFields } from '@/core/columns/contract';
import { defineColumn } from '@/server/columns/define';
import type { Actor } from '@/server/gate/actor';
import { valuesTable } from '@/server/interchange/table';
import { freshLibrary, furnished } from '../library';
import type { Browser } from './browser';
import { begin, end } from './stage';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let folder: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  await defineColumn(keeper, { ...plainFields, name: 'Subject', type: 'text', placeId: home.series.id });
  await defineColumn(keeper, { ...plainFields, name: 'Signed', type: 'date', placeId: home.series.id });
  folder = await mkdtemp(path.join(tmpdir(), 'embrin-unpacking-'));
  ({ server, browser } = await begin(keeper));
});
afterAll(async () => {
  await rm(folder, { recursive: true });
  await end();
});

async function choose(name: string, files: Readonly<Record<string, string | Uint8Array>>): Promise<void> {
  const bytes = (content: string | Uint8Array) => (typeof content === 'string' ? Buffer.from(content) : content);
  const zipped = zipSync(Object.fromEntries(Object.entries(files).map(([each, content]) => [each, bytes(content)])));
  await writeFile(path.join(folder, name), zipped);
  await browser.goTo(`${server.url}/place/${home.year.id}`);
  await browser.click('button', 'File papers');
  const input = By.css('input[type=file][aria-label="Files from this computer"]');
  await browser.driver.findElement(input).sendKeys(path.join(folder, name));
}

it('an archive becomes a tree of what will be filed, with the titles and values of its list', async () => {
  const sum = createHash('sha256').update('the tender').digest('hex');
  await choose('Works.zip', {
    'Works/Bids/Tender.txt': 'the tender',
    'Works/Bids/Plan.txt': 'the plan',
    'Works/Letters/Note.txt': 'a note',
    'Works/../../Out.txt': 'leads out',
    'Works/swells.txt': new Uint8Array(4_000_000),
    'Papers.csv':
      'Path,Title,Subject,Signed\r\nWorks/Bids/Tender.txt,Tender of May,Quay,2026-05-12\r\nWorks/Bids/Plan.txt,,Quay,someday\r\n',
    SHA256SUMS: `${sum}  Works/Bids/Tender.txt\n`,
  });
  await browser.click('button', 'Unpack Works.zip');
  await browser.seesText('2 will not be sent');
  await browser.seesText('1 file was compared with the sums in the archive.');
  await browser.seesText('Take over the values that its list gives for 2 papers');
  await browser.seesText('Its path leads out of the archive.');
  await browser.seesText('It would swell to more than 1,000 times its size.');
  await browser.click('button', /^File 3 papers in/u);
  await browser.seesText('3 of 5 papers filed');
  await browser.seesText(/Not taken over: Signed: “someday”/u);
  await browser.seesText('3 need a look');
  const { rows } = await valuesTable(keeper, home.year.id, undefined, []);
  const found = rows.slice(1).map(([, where = '', , ...values]) => [where.split(' / ').slice(-2).join('/'), ...values]);
  expect(found.sort()).toEqual([
    ['Bids/Plan', 'Quay', ''],
    ['Bids/Tender of May', 'Quay', '2026-05-12'],
    ['Letters/Note', '', ''],
  ]);
});

it('says of what is no archive that it is none, and keeps the rest of the choice', async () => {
  await choose('Damaged.zip', { 'a.txt': 'a' });
  await writeFile(path.join(folder, 'No archive.zip'), 'only words');
  const input = By.css('input[type=file][aria-label="Files from this computer"]');
  await browser.driver.findElement(input).sendKeys(path.join(folder, 'No archive.zip'));
  await browser.click('button', 'Unpack No archive.zip');
  await browser.seesText('No archive.zip was not unpacked. It is no ZIP archive, or it is damaged.');
  await browser.click('button', 'Unpack Damaged.zip');
  await browser.seesText('a.txt');
  await browser.click('button', /^File 1 paper in/u);
  await browser.seesText('1 of 2 papers filed');
});
