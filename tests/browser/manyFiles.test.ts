import { randomBytes } from 'node:crypto';
import { copyFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By, Key } from 'selenium-webdriver';
import { count, eq } from 'drizzle-orm';
import { db } from '@/server/db/client';
import { document, place } from '@/server/db/schema';
import { createFolder } from '@/server/places/create';
import type { Actor } from '@/server/gate/actor';
import { dropLibrary, freshLibrary, furnished, newcomer, open } from '../library';
import { type Browser } from './browser';
import { type WebServer } from './server';
import { begin, end } from './stage';

const [folders, inEach] = [80, 10];
const files = folders * inEach;

let keeper: Actor;
let placeId: string;
let server: WebServer;
let browser: Browser;
const cabinet = mkdtempSync(path.join(tmpdir(), 'embrin-cabinet-'));

beforeAll(async () => {
  keeper = await freshLibrary();
  const { year } = await furnished(keeper);
  placeId = (await createFolder(keeper, { parentId: year.id, name: 'Cabinet' })).id;
  const reader = await newcomer(keeper, 'Rea Der');
  await open(keeper, placeId, reader, 'reader');
  for (let drawer = 0; drawer < folders; drawer += 1) {
    const folder = path.join(cabinet, 'All of it', `Drawer ${drawer}`);
    mkdirSync(folder, { recursive: true });
    for (let each = 0; each < inEach; each += 1)
      writeFileSync(
        path.join(folder, `Paper ${drawer}-${each}.txt`),
        `${drawer} ${each} ${randomBytes(1500).toString('hex')}`,
      );
  }
  ({ server, browser } = await begin(keeper));
});

afterAll(async () => {
  rmSync(cabinet, { recursive: true, force: true });
  await end(dropLibrary);
});

const filedSoFar = async () => {
  const [told] = await db().select({ papers: count() }).from(document);
  return told?.papers ?? 0;
};

/** Waits as long as it goes on. */
const untilFiled = async (papers: number) => {
  for (let filed = await filedSoFar(); filed < papers;) {
    const before = filed;
    await browser.until('more to be filed', async () => (filed = await filedSoFar()) > before);
  }
};

const drop = async () => {
  await browser.goTo(`${server.url}/place/${placeId}`);
  await browser.seesText('Cabinet');
  await browser.dropFiles(await browser.driver.findElement(By.css('main')), [path.join(cabinet, 'All of it')]);
};

it('are shown as folders before they are sent, and filed though the page was closed half-way, each once', async () => {
  await drop();
  await browser.seesText('800 files');
  await browser.seesText(`${folders + 1} folders will be made`);
  await browser.seesText('All of it/Drawer 7');
  await browser.click('button', 'File 800 papers in Cabinet');
  await untilFiled(files / 4);
  await browser.seesText(/[\d,]+ of 800 papers filed/u);

  // The page is closed, as by a computer that goes to sleep and does not come back.
  await browser.driver.executeScript('window.onbeforeunload = null');
  await browser.goTo('about:blank');
  await browser.driver
    .switchTo()
    .alert()
    .accept()
    .catch(() => undefined);
  const atHalf = await filedSoFar();
  expect(atHalf).toBeLessThan(files);
  await browser.goTo(`${server.url}/desk`);
  await browser.seesText('was broken off');

  await drop();
  const began = performance.now();
  await untilFiled(files);
  console.log(
    `${files - atHalf} files of 3 kB, the rest of ${files}: ${Math.round((files - atHalf) / ((performance.now() - began) / 1000))} a second`,
  );
  await browser.seesText('800 of 800 papers filed');
  const made = await db()
    .select({ name: place.name, papers: count(document.id) })
    .from(place)
    .innerJoin(document, eq(document.homeId, place.id))
    .groupBy(place.id);
  expect(made).toHaveLength(folders);
  expect(made.every((each) => each.papers === inEach)).toBe(true);
  await browser.click('button', 'Done');
  await browser.goTo(`${server.url}/desk`);
  await browser.seesText('My desk');
  expect(await browser.driver.findElements(By.css('[aria-label="Filing that was broken off"]'))).toHaveLength(0);
});

it('that cannot be filed are named before, and listed after, and nothing else is in their way', async () => {
  const odd = path.join(cabinet, 'Odd');
  const name = 'x'.repeat(120);
  for (const folder of ['..hidden', 'CON', 'a b\u202Ec', name, 'emoji 🗂'])
    mkdirSync(path.join(odd, folder), { recursive: true });
  const put = (file: string, content: string | Buffer) => writeFileSync(path.join(odd, file), content);
  put('..hidden/one.txt', 'one in a folder with dots');
  put('CON/two.txt', 'two in a folder of a device');
  put('a b\u202Ec/three.txt', 'three in a folder that turns round');
  put(`${name}/four.txt`, 'four in a long one');
  put('emoji 🗂/five.txt', 'five with a picture');
  copyFileSync(path.join(cabinet, 'All of it', 'Drawer 3', 'Paper 3-1.txt'), path.join(odd, 'CON', 'again.txt'));
  put('CON/empty.txt', '');
  put('CON/program.exe', Buffer.from('MZ program'));
  put('CON/not text.txt', Buffer.from('7f454c4602010100000000000000000002003e0001', 'hex'));
  await browser.goTo(`${server.url}/place/${placeId}`);
  await browser.seesText('Cabinet');
  // Beside the folder that is there by now: a drop on its row would file into it.
  await browser.dropFiles(await browser.driver.findElement(By.css('h1')), [odd]);
  await browser.seesText('2 will not be sent');
  await browser.seesText('The file is empty.');
  await browser.seesText('This library takes no files whose name ends in “.exe”.');
  await browser.seesText('1 file has the content of a paper that is in the library already');
  await browser.click('button', 'Leave it out');
  await browser.click('button', 'Whom to tell');
  await browser.press('Rea');
  await browser.get('option', /^Rea/u);
  await browser.press(Key.ENTER, Key.ESCAPE);
  await browser.click('button', 'File 6 papers in Cabinet');
  await browser.seesText('5 of 8 papers filed');
  await browser.seesText('3 need a look');
  await browser.seesText('1 colleague was told');
  await browser.seesText('By its content this is a kind of file the library does not know.');
  await browser.get('button', 'Download the list of what was not filed');
  await browser.click('button', 'Done');
  expect(await filedSoFar()).toBe(files + 5);
});
