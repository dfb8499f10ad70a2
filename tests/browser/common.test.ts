import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By, Key, type WebElement } from 'selenium-webdriver';
import type { Actor } from '@/server/gate/actor';
import { setPlan } from '@/server/plans/plans';
import { createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { freshLibrary, newcomer, open, passwords } from '../library';
import { type Browser } from './browser';
import { type WebServer } from './server';
import { anotherBrowser, begin, end } from './stage';

let keeper: Actor;
let reader: Actor;
let series: string;
let server: WebServer;
let browser: Browser;
const letters = '00000000-0000-4000-9000-00000000c001';

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  series = (await createSeries(keeper, { name: 'Tenants', referencePattern: 'T-###' })).id;
  await createSeries(keeper, { name: 'Works', referencePattern: null });
  for (const name of ['Samphire', 'Ardent']) await createDossier(keeper, { seriesId: series, name, reference: null });
  const folders = [{ id: letters, parentId: null, timing: 'once' as const, pattern: 'Letters' }];
  await setPlan(keeper, { seriesId: series, folders, revision: 0 });
  await open(keeper, series, reader, 'reader');
  ({ server, browser } = await begin(keeper));
});

afterAll(() => end());

const inPanel = async (name: RegExp): Promise<WebElement[]> => {
  const [panel] = await browser.driver.findElements(By.css('nav[aria-label="Where"]'));
  return panel ? browser.all('link', name, panel) : [];
};
const inWhere = (name: RegExp): Promise<WebElement> =>
  browser.until(`${String(name)} at the left`, async () => (await inPanel(name))[0] ?? null);
/** Opens a place from the panel at the left, and waits for its page. */
async function go(name: RegExp): Promise<void> {
  await browser.until(`going to ${String(name)}`, async () => {
    const [link] = await inPanel(name);
    await link?.click();
    return link !== undefined;
  });
  await browser.until(`the page of ${String(name)}`, async () => name.test(await browser.driver.getTitle()));
}
const seriesNames = async (): Promise<string[]> => {
  const tabs = await browser.driver.findElements(By.css('nav[aria-label="Series"] a[href^="/place/"]'));
  return Promise.all(tabs.map((tab) => tab.getText()));
};
const dossierNames = async (): Promise<string[]> => {
  const rows = await inPanel(/^T-\d+/u);
  return Promise.all(rows.map(async (row) => /Samphire|Ardent/u.exec(await row.getText())?.[0] ?? ''));
};
const closed = () =>
  browser.until('the dialogue to be gone', async () => (await browser.all('dialog', /./u)).length === 0);

it('makes a common folder from one dossier, and files into it from another: it is the same, counted once', async () => {
  await browser.click('link', 'Tenants');
  await go(/Ardent/u);
  await browser.click('button', 'New');
  await browser.click('menuitem', 'Folder…');
  await browser.fill('Name', 'Forms');
  await browser.click('radio', /^Common: kept once/u);
  await browser.click('button', 'Make the common folder');
  await browser.seesText('common to all 2');
  await browser.seesText(/Tenants\s*\/\s*Ardent\s*\//u);

  await go(/Samphire/u);
  await go(/Forms/u);
  await browser.seesText(/Tenants\s*\/\s*Samphire\s*\//u);
  await browser.click('button', 'File papers');
  const folder = await mkdtemp(path.join(tmpdir(), 'embrin-common-'));
  await writeFile(path.join(folder, 'Form of lease.txt'), 'Form of lease\n');
  await browser.driver
    .findElement(By.css('input[type=file][aria-label="Files from this computer"]'))
    .sendKeys(path.join(folder, 'Form of lease.txt'));
  await browser.click('button', 'File 1 paper in Forms');
  await go(/Ardent/u);
  await browser.until('its one paper, seen from here', async () =>
    /1$/u.test(await (await inWhere(/Forms/u)).getText()),
  );
  expect(await (await inWhere(/T-002/u)).getText()).toMatch(/0$/u);
});

it('is seen in the folder that the plan says', async () => {
  await browser.goTo(`${server.url}/plan/${series}`);
  const select = await browser.get('combobox', 'Where “Forms” is seen');
  await select.sendKeys('Letters', Key.TAB);
  await browser.goTo(`${server.url}/place/${series}?view=plain`);
  await go(/Ardent/u);
  await go(/Letters/u);
  await go(/Forms/u);
  await browser.seesText(/Ardent\s*\/\s*Letters\s*\//u);
});

it('becomes one dossier’s only, after what that means was said, and common again by taking it back', async () => {
  await browser.click('button', 'This place');
  await browser.click('menuitem', 'Make it one dossier’s only…');
  await browser.seesText('1 other dossier would show it no more.');
  await browser.click('button', 'Make it that dossier’s only');
  await closed();
  await browser.click('button', 'Undo');
  await browser.seesText('common to all 2');
  expect(await browser.driver.findElements(By.css('[role=alert]'))).toHaveLength(0);
});

it('has series in the order that a keeper puts them in by keys, and dossiers in one’s own', async () => {
  expect(await seriesNames()).toEqual(['Tenants', 'Works']);
  await (await browser.get('link', 'Works')).sendKeys(Key.chord(Key.ALT, Key.ARROW_LEFT));
  await browser.until('the new order', async () => (await seriesNames())[0] === 'Works');

  await browser.goTo(`${server.url}/place/${series}?view=plain`);
  await inWhere(/Ardent/u);
  expect(await dossierNames()).toEqual(['Samphire', 'Ardent']);
  await browser.click('button', /^Order of the dossiers/u);
  await browser.click('menuitemcheckbox', 'By name');
  await browser.press(Key.ESCAPE);
  await browser.until('the dossiers by name', async () => (await dossierNames())[0] === 'Ardent');
  await browser.goTo(`${server.url}/place/${series}?view=plain`);
  await browser.until('them still so', async () => (await dossierNames())[0] === 'Ardent');
});

it('gives a reader the same folders, in the same order, and nothing to change', async () => {
  browser = await anotherBrowser();
  await browser.signIn(server.url, reader.email, passwords.others);
  await browser.goTo(`${server.url}/place/${series}?view=plain`);
  await inWhere(/Ardent/u);
  await browser.until('the series', async () => (await seriesNames()).length > 0);
  expect(await seriesNames()).toEqual(['Tenants']);
  expect(await dossierNames()).toEqual(['Samphire', 'Ardent']);
  await go(/Ardent/u);
  await go(/Letters/u);
  await go(/Forms/u);
  await browser.seesText('common to all 2');
  await browser.click('button', 'This place');
  expect(await browser.all('menuitem', /dossier’s only/u)).toEqual([]);
});
