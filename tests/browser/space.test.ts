/** Screens that use their space: what folds, what is cut where, and what becomes of it on a narrow window. */
import { By, type WebElement } from 'selenium-webdriver';
import { createFolder } from '@/server/places/create';
import type { Actor } from '@/server/gate/actor';
import { filed } from '../integration/sending';
import { freshLibrary, furnished } from '../library';
import { type Browser } from './browser';
import { type WebServer } from './server';
import { begin, end } from './stage';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let folderId: string;
let server: WebServer;
let browser: Browser;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  folderId = (await createFolder(keeper, { parentId: home.year.id, name: 'Minutes and agendas of the whole year' })).id;
  for (const name of ['Minutes of May', 'Minutes of June', 'Agenda']) await filed(keeper, folderId, `${name}.txt`);
  ({ server, browser } = await begin(keeper));
});

afterAll(() => end());
afterEach(() => browser.resize({ width: 1280, height: 800 }));

const widthOf = async (element: WebElement) => (await element.getRect()).width;
const docket = () => browser.driver.findElement(By.css('aside[aria-label=Docket]'));

it('folds the docket away where nothing is chosen; it comes by itself, and stays for who wants it', async () => {
  await browser.goTo(`${server.url}/place/${folderId}`);
  await browser.seesText('Minutes of May');
  expect(await widthOf(await docket())).toBeLessThan(40);
  await browser.click('gridcell', 'Minutes of May');
  await browser.until('the docket', async () => (await widthOf(await docket())) > 300);
  await browser.click('button', 'Fold this panel', await docket());
  await browser.until('it to fold', async () => (await widthOf(await docket())) < 40);
  await browser.showDocket();
  await browser.goTo(`${server.url}/place/${home.dossier.id}`);
  await browser.until('it to stay', async () => (await widthOf(await docket())) > 300);
  await browser.click('button', 'Fold this panel', await docket());
});

it('shows what lies below at once where a place holds no papers of its own', async () => {
  await browser.goTo(`${server.url}/place/${home.dossier.id}?view=plain`);
  await browser.seesText('3 papers');
  await browser.seesText('Minutes of June');
});

it('cuts a path in front, and never its end', async () => {
  await browser.goTo(`${server.url}/desk`);
  await browser.press('/');
  await browser.press('Minutes of June');
  const end = await browser.until('the end of its path', () =>
    browser.driver.executeScript<{ end: number; box: number; cut: boolean } | null>(`
      const path = [...document.querySelectorAll('[cmdk-item] [dir=rtl]')].at(0);
      if (!path) return null;
      const text = path.querySelector('bdi').firstChild;
      const last = document.createRange();
      last.setStart(text, text.length - 1);
      last.setEnd(text, text.length);
      const [letter, box] = [last.getBoundingClientRect(), path.getBoundingClientRect()];
      return { end: letter.right - box.right, box: box.width, cut: path.scrollWidth > path.clientWidth };`),
  );
  expect(end.cut).toBe(true);
  expect(Math.abs(end.end)).toBeLessThan(3);
});

it('shows whole filing years in the rack', async () => {
  for (const width of [1280, 1024, 1500]) {
    await browser.resize({ width, height: 800 });
    await browser.goTo(`${server.url}/place/${home.series.id}`);
    await browser.get('grid', /dossiers by filing year/u);
    const cut = await browser.until('the years', () =>
      browser.driver.executeScript<number | null>(`
        const [names, ...years] = [...document.querySelectorAll('[role=grid] [role=columnheader]')].map((each) => each.getBoundingClientRect());
        const grid = document.querySelector('[role=grid]').getBoundingClientRect();
        if (years.length === 0) return null;
        return years.filter(({ left, right }) => right > names.right + 2 && left < grid.right - 2 && (left < names.right - 2 || right > grid.right + 2)).length;`),
    );
    expect(cut).toBe(0);
  }
});

it('has the colours of the computer, unless somebody has chosen others', async () => {
  const dark = () =>
    browser.driver.executeScript<boolean>(
      "return getComputedStyle(document.querySelector('h1')).color.match(/\\d+/g).map(Number)[0] > 128",
    );
  const computerIs = (value: 'dark' | 'light') =>
    browser.cdp('Emulation.setEmulatedMedia', { features: [{ name: 'prefers-color-scheme', value }] });
  await browser.goTo(`${server.url}/desk`);
  await browser.seesText('My desk');
  await computerIs('dark');
  expect(await dark()).toBe(true);
  await computerIs('light');
  expect(await dark()).toBe(false);
  await browser.click('button', /my account$/u);
  await browser.click('menuitemcheckbox', 'Dark colours');
  await browser.until('the chosen colours', dark);
  await browser.click('button', /my account$/u);
  await browser.click('menuitemcheckbox', 'Colours as on this computer');
  await browser.until('those of the computer', async () => !(await dark()));
});

it('has two lines for a paper on a telephone, and everything in reach', async () => {
  await browser.resize({ width: 390, height: 844 });
  await browser.goTo(`${server.url}/place/${folderId}`);
  await browser.seesText('Minutes of May');
  const row = await browser.driver.findElement(By.css('[role=row][aria-rowindex="2"]'));
  expect((await row.getRect()).height).toBeGreaterThan(50);
  expect((await row.getRect()).width).toBeLessThanOrEqual(390);
  expect(await row.getText()).toMatch(/Agenda\n.*TEXT/su);
  await browser.click('gridcell', /^Minutes of May/u);
  await browser.get('dialog', 'Docket');
  await browser.click('button', 'Close');
  await browser.get('combobox', /^Find/u);
  await browser.click('button', 'Library');
  await browser.get('menuitem', 'Disposal tray');
});
