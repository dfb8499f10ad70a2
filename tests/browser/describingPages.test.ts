import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By, Key } from 'selenium-webdriver';
import { eq } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import { readCsv, writeCsv } from '@/core/interchange/block';
import { readSkos } from '@/core/columns/skos';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { defineColumn } from '@/server/columns/define';
import { createList, listOf } from '@/server/columns/lists';
import { setValues } from '@/server/columns/setValues';
import { db } from '@/server/db/client';
import { columnDef, document } from '@/server/db/schema';
import { createLabel } from '@/server/labels/labels';
import { createFolder } from '@/server/places/create';
import { freshLibrary, furnished, newcomer, open, passwords } from '../library';
import { type Browser } from './browser';
import { writeTo } from './papers';
import { type WebServer } from './server';
import { begin, end } from './stage';

let keeper: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let folder: string;
let listId: string;
let typeColumn: string;
let server: WebServer;
let browser: Browser;
const papers = new Map<string, string>();

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  home = await furnished(keeper);
  folder = (await createFolder(keeper, { parentId: home.year.id, name: 'Outside' })).id;
  listId = (await createList(keeper, { name: 'Paper type', terms: ['Minutes', 'Minuets', 'Agenda'] })).id;
  typeColumn = (
    await defineColumn(keeper, {
      ...plainFields,
      placeId: home.series.id,
      name: 'Paper type',
      type: 'choice',
      listId,
      required: true,
    })
  ).id;
  await defineColumn(keeper, { ...plainFields, placeId: home.series.id, name: 'Berths', type: 'text' });
  for (const name of ['Minutes of 12 May', 'Agenda of 9 June', 'Survey'])
    papers.set(name, await fileBuffer(keeper, folder, `${name}.txt`, Buffer.from(`${name}\n`)));
  await createLabel(keeper, { name: 'For approval', hue: 'rust', shared: true });
  await open(keeper, home.series.id, reader, 'reader');
  ({ server, browser } = await begin(keeper));
});

afterAll(() => end());

const shown = async (title: string) => {
  const [row] = await db()
    .select({ shown: document.shownValues })
    .from(document)
    .where(eq(document.id, papers.get(title) ?? ''));
  return row?.shown ?? {};
};
const termId = async (name: string) =>
  (await listOf(keeper, listId)).terms.find((each) => each.name === name)?.id ?? '';
const headers = async (): Promise<Record<string, string>> => ({
  cookie: (await browser.driver.manage().getCookies()).map(({ name, value }) => `${name}=${value}`).join('; '),
});
/** Chooses a file where the page would open the computer's own dialogue. */
const choose = async (label: string, file: string): Promise<void> =>
  browser.driver.findElement(By.css(`input[type=file][aria-label="${label}"]`)).sendKeys(file);

it('picks up the papers that lack a needed value, in one click, and describes them from suggestions with their reasons', async () => {
  await browser.goTo(`${server.url}/place/${folder}`);
  await browser.click('button', '3 papers need a paper type');
  await browser.seesText('3 papers in hand');
  await browser.click('button', 'Suggest values');
  await browser.seesText('the title says “Minutes”');
  await browser.seesText('the title says “Agenda”');
  expect(await shown('Minutes of 12 May')).toEqual({});
  await browser.click('button', 'Take 2 suggestions');
  await browser.seesText('2 suggested values taken');
  expect(await shown('Minutes of 12 May')).toEqual({ [typeColumn]: await termId('Minutes') });
  expect(await shown('Survey')).toEqual({});
  await browser.seesText('1 paper needs a paper type');
  await browser.click('button', 'Put down');
});

it('undoes what was set from the journal, later', async () => {
  await browser.goTo(`${server.url}/place/${folder}`);
  await browser.showDocket();
  await browser.click('button', /^Undo: set Paper type/u);
  await browser.seesText('wherever it is filed');
  expect(Object.keys(await shown('Minutes of 12 May'))).toHaveLength(1);
  await browser.click('button', 'Take it back');
  await browser.seesText('2 papers as before');
  expect(await shown('Minutes of 12 May')).toEqual({});
  await browser.click('button', /^Undo: undid/u);
  await browser.click('button', 'Take it back');
  await browser.until('them to be set again', async () => Object.keys(await shown('Minutes of 12 May')).length === 1);
});

it('says for whom a private and a shared label are, and finds by any part of the name', async () => {
  await browser.goTo(`${server.url}/place/${folder}?paper=${papers.get('Survey')}`);
  await browser.click('button', 'Put a label on it');
  await browser.seesText('on 1 paper');
  await browser.press('appro');
  await browser.get('checkbox', 'For approval');
  await browser.press(Key.ENTER);
  await browser.seesText('“For approval” put on 1 paper');
  await browser.fill('Find or make a label', 'Look again');
  await browser.click('button', 'Make it for me alone');
  await browser.seesText('“Look again” put on 1 paper');
  await browser.seesText('mine');
  await browser.press(Key.ESCAPE);
  await browser.click('button', 'Put down');
});

it('takes values out as a table, and brings a corrected one in after showing each change and each fault', async () => {
  const response = await fetch(`${server.url}/api/table/${folder}`, {
    method: 'POST',
    headers: await headers(),
    body: new URLSearchParams({ form: 'csv', mark: 'yes' }),
  });
  expect(response.headers.get('content-type')).toBe('text/csv; charset=utf-8');
  expect(response.headers.get('content-disposition')).toContain('Outside, values.csv');
  const rows = readCsv(new TextDecoder('utf-8', { ignoreBOM: true }).decode(await response.arrayBuffer()));
  expect(rows).toHaveLength(4);
  const at = (name: string) => rows[0]?.indexOf(name) ?? -1;
  for (const row of rows.slice(1)) {
    row[at('Berths')] = row[at('Title')] === 'Survey' ? '12' : '=2+2';
    if (row[at('Title')] === 'Survey') row[at('Paper type')] = 'Surveyed';
  }
  const file = await writeTo(
    await mkdtemp(path.join(tmpdir(), 'embrin-table-')),
    'corrected.csv',
    Buffer.from(writeCsv(rows)),
  );
  await browser.goTo(`${server.url}/place/${folder}`);
  await browser.click('button', 'This place');
  await browser.click('menuitem', 'Values as a table…');
  await browser.seesText('Import again');
  await choose('The corrected table', file);
  await browser.seesText('“Surveyed” is not on the list of Paper type.');
  await browser.seesText('=2+2');
  expect(await shown('Survey')).toEqual({});
  await browser.click('button', 'Import only the valid cells: 3 changes of 3 papers');
  await browser.seesText('3 papers changed from “corrected.csv”');
  expect(Object.values(await shown('Survey'))).toEqual(['12']);
});

it('takes a table out as a workbook too, chosen papers and columns alone', async () => {
  const response = await fetch(`${server.url}/api/table/${folder}`, {
    method: 'POST',
    headers: await headers(),
    body: new URLSearchParams({ form: 'xlsx', papers: papers.get('Survey') ?? '', columns: typeColumn }),
  });
  const { default: ExcelJS } = await import('exceljs');
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(await response.arrayBuffer());
  const rows: unknown[] = [];
  book.worksheets[0]?.eachRow((row) => rows.push((row.values as unknown[]).slice(1)));
  expect(rows).toEqual([
    ['Paper id', 'Path', 'Title', 'Paper type'],
    [papers.get('Survey'), expect.stringContaining('/ Outside / Survey'), 'Survey', ''],
  ]);
});

it('changes the type of a column after saying what converts and what would be lost', async () => {
  await browser.goTo(`${server.url}/columns/${home.series.id}`);
  await browser.click('button', 'Change the column Berths');
  await browser.click('menuitem', 'Its type…');
  await browser.select('New type', 'Number');
  await browser.seesText(/The values of 1 paper convert;\s*those of 2 papers would be lost\./u);
  await browser.seesText('“=2+2” on 2 papers');
  await browser.click('button', 'Change the type');
  await browser.seesText('has its new type');
  await browser.seesText(/Berths\s+Number/u);
  expect(Object.values(await shown('Survey'))).toEqual([12]);
});

it('renames, retires and brings back a column, and puts it in another order', async () => {
  await browser.click('button', 'Change the column Berths');
  await browser.click('menuitem', 'Name, help, default…');
  await browser.fill('Name', 'Paper type');
  await browser.click('button', 'Save the column');
  await browser.seesText('Another column in force here already has that name.');
  await browser.fill('Name', 'Number of berths');
  await browser.click('button', 'Save the column');
  await browser.seesText('Number of berths');
  await browser.click('button', 'Change the column Number of berths');
  await browser.click('menuitem', 'Move it up');
  const order = async () =>
    (await db().select({ name: columnDef.name }).from(columnDef).orderBy(columnDef.position)).map((row) => row.name);
  await browser.until('the other order', async () => (await order())[0] === 'Number of berths');
  await browser.click('button', 'Change the column Number of berths');
  await browser.click('menuitem', 'Retire it');
  await browser.seesText('is retired; its values are kept');
  await browser.click('button', 'Change the column Number of berths');
  await browser.click('menuitem', 'Restore it');
  await browser.until(
    'it to be back',
    async () => (await db().select().from(columnDef).where(eq(columnDef.retired, true))).length === 0,
  );
  expect(Object.values(await shown('Survey'))).toEqual([12]);
});

it('merges a misspelt value into the right one after a count, so that its spelling leads there', async () => {
  await setValues(keeper, {
    documentIds: [papers.get('Survey') ?? ''],
    values: { [typeColumn]: await termId('Minuets') },
  });
  await browser.goTo(`${server.url}/lists`);
  await browser.seesText('Minuets');
  await browser.click('button', 'Change Minuets');
  await browser.click('menuitem', 'Names, level, merging…');
  await browser.select('Merge it into', 'Minutes');
  await browser.seesText('1 paper and 0 places would get “Minutes”.');
  await browser.click('button', 'Merge into Minutes');
  await browser.seesText('1 paper now say “Minutes”');
  expect((await shown('Survey'))[typeColumn]).toBe(await termId('Minutes'));
  await browser.seesText('also Minuets');
});

it('adds values in levels, refuses one that leads elsewhere already, and retires one', async () => {
  await browser.fill('A new value', 'minuets');
  await browser.click('button', 'Add to Paper type');
  await browser.seesText('“minuets” leads to “Minutes” already.');
  await browser.fill('A new value', 'Signed minutes');
  await browser.click('button', 'Add to Paper type');
  await browser.get('button', 'Change Signed minutes');
  await browser.click('button', 'Change Signed minutes');
  await browser.click('menuitem', 'Names, level, merging…');
  await browser.select('Stands under', 'Minutes');
  await browser.click('button', 'Save the value');
  await browser.until('it to stand under the other', async () => {
    const { terms } = await listOf(keeper, listId);
    return terms.find((each) => each.name === 'Signed minutes')?.parentId === (await termId('Minutes'));
  });
  await browser.click('button', 'Change Agenda');
  await browser.click('menuitem', /^Retire it/u);
  await browser.seesText('retired');
});

it('takes a list out as SKOS and CSV, and brings values in', async () => {
  const skos = await fetch(`${server.url}/api/lists/${listId}?as=skos`, { headers: await headers() });
  expect(skos.headers.get('content-type')).toBe('application/ld+json');
  const read = readSkos(await skos.text());
  expect(read.ok && read.value).toContainEqual({ way: ['Minutes', 'Signed minutes'], otherNames: [], retired: false });
  const file = await writeTo(
    await mkdtemp(path.join(tmpdir(), 'embrin-list-')),
    'types.csv',
    Buffer.from('Value;Other names\r\nLetter;Correspondence\r\n'),
  );
  await choose('Import values from CSV or SKOS', file);
  await browser.seesText('1 value added');
  await browser.seesText('also Correspondence');
  expect((await fetch(`${server.url}/api/lists/${listId}?as=csv`)).status).toBe(401);
  expect((await fetch(`${server.url}/api/lists/${listId}?as=xml`, { headers: await headers() })).status).toBe(404);
});

it('says what a place gives before it gives it, and gives it', async () => {
  await browser.goTo(`${server.url}/place/${folder}`);
  await browser.click('button', 'This place');
  await browser.click('menuitem', 'What it gives its papers…');
  await browser.select('How Paper type is given', 'fixed');
  await browser.click('button', 'Paper type', await browser.get('dialog', /gives its papers$/u));
  await browser.until('the values', async () => (await browser.all('option', 'Letter'))[0] ?? null);
  await browser.press('letter', Key.ENTER);
  await browser.seesText('3 papers would change');
  await browser.click('button', 'Save what Outside gives');
  await browser.seesText('Outside gives these from now on');
  expect((await shown('Survey'))[typeColumn]).toBe(await termId('Letter'));
  await browser.seesText('Paper type: Letter');
});

it('lets a reader look and filter, and offers them nothing that they may not do', async () => {
  await browser.signIn(server.url, reader.email, passwords.others);
  await browser.goTo(`${server.url}/place/${folder}?paper=${papers.get('Survey')}`);
  await browser.seesText('from its place');
  for (const name of ['Edit values', 'Suggest values', 'File papers', 'New'])
    expect(await browser.all('button', name)).toEqual([]);
  expect(await browser.all('button', /^Undo/u)).toEqual([]);
  await browser.click('button', 'This place');
  await browser.get('menuitem', 'Columns…');
  expect(await browser.all('menuitem', 'What it gives its papers…')).toEqual([]);
  await browser.click('menuitem', 'Columns…');
  await browser.seesText('Number of berths');
  expect(await browser.all('button', 'New column')).toEqual([]);
  expect(await browser.all('button', /^Change the column/u)).toEqual([]);
  await browser.goTo(`${server.url}/lists`);
  await browser.seesText('Nothing here');
});
