import { By, Key, type WebElement } from 'selenium-webdriver';
import { eq, sql } from 'drizzle-orm';
import type { Actor } from '@/server/gate/actor';
import { plainFields } from '@/core/columns/contract';
import { defineColumn } from '@/server/columns/define';
import { setGiven } from '@/server/columns/given';
import { writableDb } from '@/server/db/client';
import { document, documentLabel, term } from '@/server/db/schema';
import { createFolder } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { openPlace } from '@/server/places/open';
import { fillWithPapers } from '../../bench/large';
import { freshLibrary, furnished } from '../library';
import { type Browser } from './browser';
import { realFiles } from './papers';
import { type WebServer } from './server';
import { begin, end } from './stage';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let sixty: string;
let server: WebServer;
let browser: Browser;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  await createDossier(keeper, { seriesId: home.series.id, name: 'Full board', reference: 'BRD' });
  sixty = (await createFolder(keeper, { parentId: home.dossier.id, name: 'Sixty papers' })).id;
  await fillWithPapers(keeper, [sixty], 60);
  const given = [];
  for (const [name, type, binding] of [
    ['Committee', 'dossier', 'dossier'],
    ['Year', 'text', 'filingYear'],
    ['Meeting', 'date', 'meetingDay'],
  ] as const) {
    const { id } = await defineColumn(keeper, { ...plainFields, placeId: home.series.id, name, type });
    given.push({ columnId: id, mode: 'fixed' as const, value: null, binding });
  }
  const { place } = await openPlace(keeper, { placeId: home.series.id });
  await setGiven(keeper, { placeId: home.series.id, given, revision: place.revision });
  await createFolder(keeper, { parentId: home.year.id, name: '14 Jul meeting', meetingDay: '2026-07-14' });
  ({ server, browser } = await begin(keeper));
});

afterAll(() => end());

/** How many of the sixty show each value of the column Status, by its name. */
async function statuses(): Promise<Record<string, number>> {
  const terms = await writableDb().select({ id: term.id, name: term.name }).from(term);
  const rows = await writableDb()
    .select({ shown: document.shownValues })
    .from(document)
    .where(eq(document.homeId, sixty));
  const counts: Record<string, number> = {};
  for (const { shown } of rows) {
    const name = terms.find((each) => Object.values(shown).includes(each.id))?.name ?? 'none';
    counts[name] = (counts[name] ?? 0) + 1;
  }
  return counts;
}

const grid = () => browser.driver.findElement(By.css('[role=grid]'));

it('adds a closed choice column with its own list', async () => {
  await browser.goTo(`${server.url}/columns/${home.series.id}`);
  await browser.click('button', 'New column');
  await browser.fill('Name', 'Status');
  await browser.select('Controlled list', 'A new list');
  await browser.fill(/^Its values, one a line/u, 'current\narchived');
  await browser.click('button', /^Make the column for/u);
  await browser.until('the column', async () => (await browser.text()).includes('Status, closed'));
});

it('sets 40 of 60 papers by picking them up and one act in the docket', async () => {
  await browser.goTo(`${server.url}/place/${sixty}`);
  await browser.seesText('60 papers');
  await browser.seesText('Agenda 1');
  await (
    await grid()
  ).sendKeys(Key.HOME, ' ', Key.chord(Key.SHIFT, ...Array.from({ length: 39 }, () => Key.ARROW_DOWN)));
  await browser.seesText('40 papers in hand');
  await browser.click('button', 'Status', await browser.get('region', 'Docket'));
  await browser.until('the values', async () => (await browser.all('option', 'current'))[0] ?? null);
  await browser.press('CURR', Key.ENTER);
  await browser.seesText('Status set on 40 papers');
  expect(await statuses()).toEqual({ current: 40, none: 20 });
});

it('undoes that in one step from its notice, and does it again', async () => {
  await browser.click('button', 'Undo');
  await browser.seesText('40 papers as before');
  expect(await statuses()).toEqual({ none: 60 });
  await browser.click('button', 'Status', await browser.get('region', 'Docket'));
  await browser.until('the values', async () => (await browser.all('option', 'current'))[0] ?? null);
  await browser.press('curr', Key.ENTER);
  await browser.until('them to be set', async () => (await statuses())['current'] === 40);
  await browser.click('button', 'Put down');
});

/** Pastes a text as a spreadsheet would, into whatever grid has the focus. */
const paste = async (text: string): Promise<void> =>
  browser.driver.executeScript(
    `const data = new DataTransfer();
     data.setData('text/plain', arguments[1]);
     arguments[0].dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));`,
    await grid(),
    text,
  );

it('sets the rest by pasting a column from a spreadsheet, refusing one cell with its reason and keeping what was typed', async () => {
  await browser.click('button', 'Edit values');
  await browser.seesText('Editing values');
  const editor = await grid();
  const headings = await browser.driver.findElements(By.css('[role=columnheader]'));
  const names = await Promise.all(headings.map((each) => each.getText()));
  const across = names.indexOf('Status') - 1;
  await editor.sendKeys(
    ...Array.from({ length: across }, () => Key.ARROW_RIGHT),
    ...Array.from({ length: 40 }, () => Key.ARROW_DOWN),
  );
  await paste(
    `${['gone', ...Array.from({ length: 19 }, (_, index) => (index % 2 === 0 ? 'archived ' : 'ARCHIVED'))].join('\r\n')}\r\n`,
  );
  await browser.until('them to be set', async () => (await statuses())['archived'] === 19);
  await editor.sendKeys(
    Key.chord(Key.CONTROL, Key.HOME),
    ...Array.from({ length: across }, () => Key.ARROW_RIGHT),
    ...Array.from({ length: 40 }, () => Key.ARROW_DOWN),
  );
  await browser.seesText('“gone” is not on the list of Status.');
  expect(await browser.driver.findElement(By.css('[aria-invalid=true]')).getText()).toBe('gone');
  // Typed over, with its other half offered by the list.
  await editor.sendKeys('arch');
  await browser.until('the value to be offered', async () => (await browser.all('option', 'archived'))[0] ?? null);
  await browser.press(Key.ARROW_DOWN, Key.ENTER);
  await browser.until('it to be set', async () => (await statuses())['archived'] === 20);
});

it('takes back and brings back whole acts by Ctrl Z and Ctrl Y, and fills down', async () => {
  const editor = await grid();
  await editor.sendKeys(Key.chord(Key.CONTROL, 'z'));
  await browser.until('it to be taken back', async () => (await statuses())['none'] === 1);
  await editor.sendKeys(Key.chord(Key.CONTROL, 'y'));
  await browser.until('it to be brought back', async () => (await statuses())['archived'] === 20);
  await editor.sendKeys(Key.chord(Key.CONTROL, Key.HOME));
  const headings = await Promise.all(
    (await browser.driver.findElements(By.css('[role=columnheader]'))).map((each) => each.getText()),
  );
  for (let step = 1; step < headings.indexOf('Status'); step += 1) await editor.sendKeys(Key.ARROW_RIGHT);
  await editor.sendKeys('archived', Key.ENTER);
  await browser.until('the first to be set', async () => (await statuses())['archived'] === 21);
  await editor.sendKeys(
    Key.ARROW_UP,
    Key.chord(Key.SHIFT, Key.ARROW_DOWN, Key.ARROW_DOWN),
    Key.chord(Key.CONTROL, 'd'),
  );
  await browser.until('two more to be filled', async () => (await statuses())['archived'] === 23);
  await editor.sendKeys(Key.chord(Key.CONTROL, 'z'));
  await browser.until('them to be taken back', async () => (await statuses())['archived'] === 21);
  await editor.sendKeys(Key.chord(Key.CONTROL, 'z'));
  await browser.until('the first too', async () => (await statuses())['archived'] === 20);
});

it('shows a cell that someone else wrote meanwhile as theirs, and loses neither', async () => {
  const terms = await writableDb().select({ id: term.id, name: term.name }).from(term);
  const [first] = await writableDb()
    .select({ id: document.id, own: document.ownValues })
    .from(document)
    .where(eq(document.homeId, sixty))
    .orderBy(document.title)
    .limit(1);
  const current = terms.find((each) => each.name === 'current')?.id ?? '';
  const archived = terms.find((each) => each.name === 'archived')?.id ?? '';
  const columnId = Object.entries(first?.own ?? {}).find(([, value]) => value === current)?.[0] ?? '';
  const theirs = JSON.stringify({ [columnId]: archived });
  await writableDb().execute(sql`
    update document set own_values = own_values || ${theirs}::jsonb, shown_values = shown_values || ${theirs}::jsonb where id = ${first?.id}`);
  const editor = await grid();
  await editor.sendKeys(Key.chord(Key.CONTROL, Key.HOME));
  const headings = await Promise.all(
    (await browser.driver.findElements(By.css('[role=columnheader]'))).map((each) => each.getText()),
  );
  for (let step = 1; step < headings.indexOf('Status'); step += 1) await editor.sendKeys(Key.ARROW_RIGHT);
  await editor.sendKeys(Key.DELETE);
  await browser.seesText('had been changed by someone else meanwhile');
  expect((await statuses())['archived']).toBe(21);
  await browser.click('button', 'Leave editing');
});

it('filters by it, with counts, and keeps that in the address', async () => {
  await browser.click('button', 'Add a condition');
  await browser.until('the columns', async () => (await browser.all('option', 'Status'))[0] ?? null);
  await browser.press('status', Key.ENTER);
  const counts = await browser.until(
    'the values with their counts',
    async () => (await browser.all('option', /archived/u))[0] ?? null,
  );
  expect(await counts.getText()).toMatch(/archived\s*21/u);
  await browser.press('arch', Key.ENTER, Key.ESCAPE);
  await browser.seesText('21 papers');
  const address = await browser.driver.getCurrentUrl();
  await browser.goTo(address);
  await browser.seesText('21 papers');
  await browser.click('button', 'Remove the condition on Status');
  await browser.seesText('60 papers');
});

it('fills in committee, year and meeting of a paper that is dropped into a meeting’s folder, and cannot contradict them', async () => {
  const { children } = await openPlace(keeper, { placeId: home.year.id });
  await browser.goTo(`${server.url}/place/${children[0]?.id}`);
  await browser.seesText('Gives its papers');
  await browser.seesText('Meeting: 14 Jul 2026');
  const files = await realFiles(['Minutes of 14 July.docx']);
  await browser.dropFiles(await browser.driver.findElement(By.css('main')), [...files.values()]);
  await browser.click('button', 'File 1 paper in 14 Jul meeting');
  await browser.seesText('1 of 1 paper filed');
  await browser.click('button', 'Done');
  await browser.until('the paper', async () => (await browser.text()).includes('Minutes of 14 July'));
  await (await grid()).sendKeys(Key.HOME);
  const docket = await browser.get('region', 'Docket');
  await browser.until('its values', async () => /Committee\s*Finance from its place/u.test(await docket.getText()));
  expect(await docket.getText()).toMatch(/Year\s*20\d\d–\d\d from its place/u);
  expect(await docket.getText()).toMatch(/Meeting\s*14 Jul 2026 from its place/u);
  expect(await browser.all('button', 'Committee', docket)).toEqual([]);
  expect(await browser.all('textbox', 'Meeting', docket)).toEqual([]);
});

it('says what moving it to another committee will change, and does so', async () => {
  await browser.click('button', 'More to do with this paper');
  await browser.click('menuitem', 'Move…');
  await browser.get('dialog', /^Move/u);
  await browser.get('option', /Finance/u);
  // Enter comes before the answer to these words does: it speaks to what was typed, not to the lines in sight.
  await browser.slowNetwork(1500);
  await browser.press('full board', Key.ENTER);
  await browser.get('button', /^Move it to Full board/u);
  await browser.slowNetwork(0);
  await browser.seesText(
    'The place gives its own values: Committee of 1 paper, Year of 1 paper, Meeting of 1 paper would change.',
  );
  await browser.click('button', /^Move it to Full board/u);
  await browser.seesText('moved to “Full board”');
  const [moved] = await writableDb()
    .select({ shown: document.shownValues })
    .from(document)
    .where(eq(document.title, 'Minutes of 14 July'));
  const board = (await openPlace(keeper, { placeId: home.series.id })).children.find(
    (each) => each.name === 'Full board',
  );
  expect(Object.values(moved?.shown ?? {})).toEqual([board?.id]);
});

it('makes a label in the panel, which stays open while what is in hand changes, and leads to its papers', async () => {
  await browser.goTo(`${server.url}/place/${sixty}`);
  // In the ledger, not in the journal beside it, which names it too.
  await browser.seesText(/Agenda 1\s+TEXT/u);
  await (await grid()).sendKeys(Key.HOME, ' ');
  await browser.click('button', 'Label');
  await browser.seesText('on 1 paper');
  await browser.press('For approval', Key.ENTER);
  await browser.seesText('“For approval” put on 1 paper');
  await (await grid()).sendKeys(Key.ARROW_DOWN, ' ');
  await browser.seesText('on 2 papers');
  const tick = await browser.get('checkbox', 'For approval');
  await browser.until('one of the two to bear it', async () => (await tick.getAttribute('aria-checked')) === 'mixed');
  await tick.click();
  await browser.seesText('“For approval” put on 1 paper');
  await browser.until('both to bear it', async () => (await tick.getAttribute('aria-checked')) === 'true');
  await browser.click('link', '2 papers with For approval');
  await browser.get('heading', 'For approval');
  await browser.seesText('2 papers, wherever they are filed');
});

it('puts a label on a paper by dragging it there, and by dragging the paper onto it', async () => {
  await browser.goTo(`${server.url}/place/${sixty}`);
  await browser.seesText('Agenda 8');
  await browser.click('button', /^Labels?$/u);
  const panel = await browser.get('region', 'Labels');
  const bearing = async () => (await writableDb().select().from(documentLabel)).length;
  const before = await bearing();
  const drag = async (from: WebElement, to: WebElement) => {
    const actions = browser.driver.actions({ async: true });
    await actions.move({ origin: from }).press().move({ origin: from, x: 12, y: 6 }).perform();
    await browser.driver
      .actions({ async: true })
      .move({ origin: to, duration: 200 })
      .move({ origin: to, x: 3, y: 2 })
      .release()
      .perform();
  };
  const inLedger = async (title: string) => (await grid()).findElement(By.xpath(`.//span[@title="${title}"]`));
  const mark = () => panel.findElement(By.xpath('.//span[contains(text(), "For approval")]'));
  await drag(await mark(), await inLedger('Agenda 15'));
  await browser.until('the label on it', async () => (await bearing()) === before + 1);
  await drag(await inLedger('Agenda 22'), await mark());
  await browser.until('the label on the other', async () => (await bearing()) === before + 2);
});
