import { randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { By, Key } from 'selenium-webdriver';
import { eq } from 'drizzle-orm';
import type { Actor } from '@/server/gate/actor';
import { writableDb } from '@/server/db/client';
import { document, library } from '@/server/db/schema';
import { verifyJournal } from '@/server/journal/verify';
import { freshLibrary, newcomer, passwords } from '../library';
import { type Browser } from './browser';
import { realFiles, writeTo } from './papers';
import { type WebServer } from './server';
import { begin, end } from './stage';

let keeper: Actor;
let colleague: Actor;
let stranger: Actor;
let server: WebServer;
let browser: Browser;

beforeAll(async () => {
  keeper = await freshLibrary();
  colleague = await newcomer(keeper, 'Colin League');
  stranger = await newcomer(keeper, 'Stan Ranger');
  // Small, so that a file over the limit need not be large.
  await writableDb().update(library).set({ maxFileBytes: 1_000_000 });
  ({ server, browser } = await begin());
});

afterAll(() => end());

it('lays out a series and a dossier by clicks', async () => {
  await browser.signIn(server.url, keeper.email, passwords.keeper);
  await browser.click('button', '+ Series');
  await browser.fill('Name', 'Board & committees');
  await browser.click('button', 'Make the series');
  await browser.seesText('Dossiers of Board & committees stand here');
  await browser.click('button', 'New');
  await browser.click('menuitem', 'Dossier…');
  await browser.fill('Name', '   ');
  await browser.click('button', 'Make the dossier');
  await browser.seesText('A name is needed');
  await browser.fill('Name', 'Finance & audit');
  await browser.fill('Reference', 'FAC');
  await browser.click('button', 'Make the dossier');
  await browser.get('heading', 'Finance & audit');
  await browser.seesText('FAC');
});

it('takes twelve dropped files of six kinds: ten arrive, and the others say why not', async () => {
  const names = [
    'Agenda.docx',
    'Minutes of 12 May.docx',
    'Audit findings.pdf',
    'Dues review.pdf',
    'Management accounts.xlsx',
    'Rents.csv',
    'Berth plan.png',
    'Letter from the auditor.eml',
    'Notes.txt',
    'Risk register.pdf',
  ];
  const files = await realFiles(names);
  const agenda = files.get('Agenda.docx') ?? '';
  const folder = path.dirname(agenda);
  const twin = await writeTo(folder, 'Agenda again.docx', await readFile(agenda));
  const large = await writeTo(
    folder,
    'Far too large.pdf',
    Buffer.concat([Buffer.from('%PDF-1.4\n'), randomBytes(1_200_000)]),
  );
  const [year] = await browser.all('button', /^20\d\d–\d\d$/u);
  await year?.click();
  await browser.seesText('belong here');
  const place = await browser.driver.findElement(By.css('h1')).getText();
  await browser.dropFiles(await browser.driver.findElement(By.css('main')), [...files.values(), twin, large]);
  await browser.seesText('Will not be sent. It has 1.2 MB; this library takes files of up to 1.0 MB.');
  await browser.click('button', `File 11 papers in ${place}`);
  await browser.seesText(/10 of 12 papers filed/u);
  await browser.seesText(/The same content is filed already:\s*“Agenda” in Finance & audit, 20/u);
  const asking = await browser.get('listitem', 'Agenda again.docx');
  await browser.click('button', 'Leave it out', asking);
  await browser.seesText('Left out: it is filed already.');
  await browser.click('button', 'Done');
  await browser.seesText(/10 papers · /u);
  const rows = await browser.all('row', /./u);
  const text = (await Promise.all(rows.map((row) => row.getText()))).join('\n');
  for (const stamp of ['DOC', 'PDF', 'SHEET', 'IMAGE', 'MAIL', 'TEXT']) expect(text).toContain(stamp);
});

it('opens the dossier to a colleague on its sheet, saying first what that does', async () => {
  await browser.click('link', 'Finance & audit');
  await browser.get('heading', 'Finance & audit');
  await browser.click('button', /^Open to/u);
  await browser.fill(/^Add a person or a group/u, 'colin');
  await browser
    .until('the colleague to be found', async () => (await browser.all('option', /Colin League/u))[0] ?? null)
    .then((option) => option.click());
  await browser.seesText(/Colin League\s+will see 10 papers\./u);
  await browser.click('button', 'Save for 1 person');
  await browser.seesText('Open to 2 people');
});

it('lets the colleague find one by part of its title and read it', async () => {
  await browser.signIn(server.url, colleague.email, passwords.others);
  await browser.press('/');
  await browser.press('min may');
  await browser.until(
    'the paper to be found',
    async () => (await browser.all('option', /Minutes of 12 May/u))[0] ?? null,
  );
  await browser.press(Key.ARROW_DOWN, Key.ENTER);
  await browser.get('heading', 'Minutes of 12 May');
  await browser.seesText('Download');
  await browser.press('/');
  await browser.press('dues');
  await browser.until('the paper to be found', async () => (await browser.all('option', /Dues review/u))[0] ?? null);
  await browser.press(Key.ARROW_DOWN, Key.ENTER);
  await browser.until(
    'the page to be drawn',
    async () => (await browser.driver.findElements(By.css('canvas')))[0] ?? null,
  );
});

it('shows someone without access nothing, by search or by address: the same as for a made-up id', async () => {
  const [paper] = await writableDb()
    .select({ id: document.id, homeId: document.homeId })
    .from(document)
    .where(eq(document.title, 'Minutes of 12 May'));
  const made = '00000000-0000-4000-8000-000000000000';
  await browser.signIn(server.url, stranger.email, passwords.others);
  await browser.seesText('Nothing is open to you yet');
  await browser.press('/');
  await browser.press('minutes');
  await browser.seesText('Nothing found for “minutes”.');
  const cookies = await browser.driver.manage().getCookies();
  const headers = {
    cookie: cookies.map(({ name, value }) => `${name}=${value}`).join('; '),
    'content-type': 'application/json',
  };
  const answer = async (address: string, body?: object) => {
    const response = await fetch(server.url + address, {
      headers,
      ...(body ? { method: 'POST', body: JSON.stringify(body) } : {}),
    });
    return {
      status: response.status,
      type: response.headers.get('content-type'),
      body: address.startsWith('/api') ? await response.text() : '',
    };
  };
  for (const [real, false_] of [
    [`/paper/${paper?.id}`, `/paper/${made}`],
    [`/place/${paper?.homeId}`, `/place/${made}`],
    [`/api/paper/${paper?.id}/content`, `/api/paper/${made}/content`],
    [`/api/paper/${paper?.id}/content?copy`, `/api/paper/${made}/content?copy`],
    [`/api/paper/${paper?.id}/picture`, `/api/paper/${made}/picture`],
  ]) {
    const answered = await answer(real ?? '');
    expect(answered).toEqual(await answer(false_ ?? ''));
    expect(answered.status).toBe(404);
  }
  expect(await answer('/api/call/paper.docket', { documentId: paper?.id })).toEqual(
    await answer('/api/call/paper.docket', { documentId: made }),
  );
  expect(await answer('/api/call/place.open', { placeId: paper?.homeId })).toEqual(
    await answer('/api/call/place.open', { placeId: made }),
  );
  await browser.goTo(`${server.url}/paper/${paper?.id}`);
  await browser.seesText('Nothing is kept at this address, or it is not open to you.');
});

it('leaves a journal whose chain is whole', async () => {
  const { brokenAt, entries } = await verifyJournal();
  expect(brokenAt).toBeNull();
  // Papers that were sent together have one entry.
  expect(entries).toBeGreaterThan(7);
});
