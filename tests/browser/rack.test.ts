import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By, Key } from 'selenium-webdriver';
import type { Actor } from '@/server/gate/actor';
import { setFields } from '@/server/dossiers/details';
import { makeMeetings } from '@/server/meetings/meetings';
import { setPlan } from '@/server/plans/plans';
import { createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { listChildren } from '@/server/places/open';
import { librarySettings } from '@/server/library/settings';
import { freshLibrary, newcomer, open, passwords } from '../library';
import { type Browser } from './browser';
import { type WebServer } from './server';
import { begin, end } from './stage';

let keeper: Actor;
let reader: Actor;
let series: string;
let server: WebServer;
let browser: Browser;
let year: number;
const id = (at: number): string => `00000000-0000-4000-9000-00000000000${at}`;

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  series = (await createSeries(keeper, { name: 'Committees', referencePattern: 'C-##' })).id;
  const board = await createDossier(keeper, { seriesId: series, name: 'Board', reference: null });
  await createDossier(keeper, { seriesId: series, name: 'Audit', reference: null });
  await setFields(keeper, {
    seriesId: series,
    fields: [{ id: id(5), name: 'Status', kind: 'choice', choices: ['Sitting', 'Resting'] }],
    revision: 0,
  });
  await setPlan(keeper, {
    seriesId: series,
    folders: [{ id: id(1), parentId: null, timing: 'meeting', pattern: '{meeting:d MMM} meeting' }],
    expected: ['Agenda', 'Minutes'].map((name, at) => ({
      id: id(2 + at),
      timing: 'meeting' as const,
      name,
      folderId: null,
      conditions: [{ of: 'title' as const, text: 'starts' as const, words: name }],
      dueDays: 0,
      dueFrom: 'start' as const,
    })),
    revision: 1,
  });
  year = (await librarySettings()).filingYears[0] ?? 0;
  await makeMeetings(keeper, { dossierId: board.id, days: [`${year}-04-02`], title: 'Meeting', venue: '' });
  await open(keeper, series, reader, 'reader');
  ({ server, browser } = await begin(keeper));
});

afterAll(() => end());

const cell = (words: RegExp) => browser.get('gridcell', words);
const focused = () => browser.driver.switchTo().activeElement().getAccessibleName();

it('is the first thing a series shows, and goes by keys alone from cell to cell', async () => {
  await browser.click('link', 'Committees');
  await cell(/^Board, .*0 papers, 2 missing$/u);
  await browser.seesText('2 dossiers · 2 gaps');
  await (await browser.get('rowheader', /Board/u)).sendKeys(Key.ARROW_RIGHT);
  await browser.until('the year', async () => /^Board, .*2 missing/u.test(await focused()));
  await browser.press(Key.ARROW_DOWN);
  await browser.until('the next dossier', async () => /^Audit, .*0 papers/u.test(await focused()));
  await browser.press(Key.HOME, Key.ARROW_UP, Key.END);
  await browser.until('the first year again', async () => /^Board, /u.test(await focused()));
  await browser.get('region', 'Missing');
  await browser.press(Key.ENTER);
  await browser.until('the year’s own page', async () => !(await browser.path()).endsWith(series));
  await browser.driver.navigate().back();
  await cell(/^Board, /u);
});

it('files what is missing from the docket, into the meeting’s own folder; the square is full at once', async () => {
  // Not by a click in its middle: that is a square, which opens the act of filing by itself.
  await browser.driver.executeScript('arguments[0].focus()', await cell(/^Board, /u));
  await browser.click('button', /^File it now: Minutes/u);
  await browser.seesText('File papers in 2 Apr meeting');
  const folder = await mkdtemp(path.join(tmpdir(), 'embrin-rack-'));
  await writeFile(path.join(folder, 'Minutes of April.txt'), 'Minutes of April\n');
  await browser.driver
    .findElement(By.css('input[type=file][aria-label="Files from this computer"]'))
    .sendKeys(path.join(folder, 'Minutes of April.txt'));
  await browser.click('button', 'File 1 paper in 2 Apr meeting');
  await cell(/^Board, .*1 paper, 1 there, 1 missing$/u);
  await browser.get('link', 'Minutes of April');
});

it('opens the act of filing, or the paper, by a press on its square', async () => {
  const press = async (at: number) => {
    const squares = await browser.driver.findElement(By.css('[aria-label^="Board, "] svg'));
    // Squares stand eleven pixels apart, from the left; a pointer is moved from the middle of the drawing.
    const { width } = await squares.getRect();
    await browser.driver
      .actions()
      .move({ origin: squares, x: Math.round(11 * at + 5 - width / 2), y: 0 })
      .click()
      .perform();
  };
  // Also a second time, after it was left.
  for (let times = 0; times < 2; times += 1) {
    await press(0);
    await browser.seesText('File papers in 2 Apr meeting');
    await browser.press(Key.ESCAPE);
    await browser.until('the dialogue to be gone', async () => (await browser.all('dialog', /./u)).length === 0);
  }
  await press(1);
  await browser.until('the paper', async () => (await browser.path()).startsWith('/paper/'));
  await browser.driver.navigate().back();
  await browser.driver.executeScript('arguments[0].focus()', await cell(/^Board, /u));
});

it('takes a reason for what is not needed, and takes it back', async () => {
  await browser.click('button', /^More to do with Agenda/u);
  await browser.click('menuitem', 'Not needed here…');
  await browser.fill('Reason', 'It was called at a day’s notice');
  await browser.click('button', 'Not needed here');
  await cell(/^Board, .*1 there, 1 not needed$/u);
  await browser.seesText('It was called at a day’s notice (Kea Keeper)');
  await browser.click('button', /^More to do with Agenda/u);
  await browser.click('menuitem', 'Needed after all');
  await cell(/1 missing$/u);
});

it('finds a dossier by a detail that was filled in at a glance', async () => {
  await browser.click('link', 'Audit');
  await browser.click('tab', 'At a glance');
  await browser.click('button', 'Change the details');
  await browser.click('combobox', 'Status');
  await browser.press('Rest', Key.ENTER);
  await browser.click('button', 'Save the details');
  await browser.until('the dialogue to be gone', async () => (await browser.all('dialog', /./u)).length === 0);
  await browser.seesText('Resting');
  await browser.click('link', 'Committees');
  await browser.fill('Find a dossier', 'resting');
  await browser.seesText('1 dossier · 0 gaps');
  await browser.fill('Find a dossier', '');
  await browser.seesText('2 dossiers');
});

it('says what a year leaves unfinished before it is closed, and hatches it after', async () => {
  await browser.goTo(`${server.url}/settings`);
  await browser.click('button', /^Close \d/u);
  await browser.seesText('1 expected paper is missing: Committees 1.');
  await browser.click('button', /^Close \d{4}/u, await browser.get('dialog', /Close filing year/u));
  await browser.seesText('is closed in 2 dossiers');
  await browser.click('link', 'Committees');
  await cell(/^Board, .*closed, 1 paper/u);
});

it('lists the gaps that are open to a reader, who is offered nothing that is not theirs to do', async () => {
  await browser.signIn(server.url, reader.email, passwords.others);
  await browser.goTo(`${server.url}/gaps`);
  await browser.seesText('1 gap');
  await browser.click('link', 'Open Board');
  await browser.seesText('Gaps: 1');
  expect(await browser.all('button', /File it now|More to do with|Change the details/u)).toEqual([]);
});

it('offers no way to what is not open to who comes to a series only on the way to a dossier', async () => {
  const guest = await newcomer(keeper, 'Gue St');
  const audit = (await listChildren(keeper, { placeId: series })).find((each) => each.name === 'Audit');
  await open(keeper, audit?.id ?? '', guest, 'reader');
  await browser.signIn(server.url, guest.email, passwords.others);
  await browser.goTo(`${server.url}/place/${series}`);
  await browser.seesText('Shown only as a step to what is open to you');
  await browser.get('grid', /Committees/u);
  await browser.click('button', 'This place');
  const acts = await browser.driver.findElements(By.css('[role="menuitem"]'));
  expect(await Promise.all(acts.map((act) => act.getText()))).toEqual(['Columns…', 'Values as a table…']);
});
