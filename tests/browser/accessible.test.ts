import { By } from 'selenium-webdriver';
import { AxeBuilder } from '@axe-core/webdriverjs';
import type { Actor } from '@/server/gate/actor';
import { fileBuffer } from '@/demo/file';
import { readPaper } from '../reading';
import { plainFields } from '@/core/columns/contract';
import { addAttendees } from '@/server/agenda/attendance';
import { beginAgenda } from '@/server/agenda/begin';
import { addItems } from '@/server/agenda/items';
import { attachPapers } from '@/server/agenda/papers';
import { makeMeetings, meetingsOf } from '@/server/meetings/meetings';
import { makeNextCopy } from '@/server/packs/copies';
import { keepMail } from '@/server/intake/keep';
import { recordOutcome } from '@/server/minutes/record';
import { beginPack } from '@/server/packs/fromAgenda';
import { issuePack } from '@/server/packs/issue';
import { makeNextIssue } from '@/server/packs/make';
import { defineColumn } from '@/server/columns/define';
import { createList } from '@/server/columns/lists';
import { createLabel, putLabel } from '@/server/labels/labels';
import { disposePapers } from '@/server/disposal/dispose';
import { readArrivals } from '../arrivals';
import { freshLibrary, furnished, newcomer, open, passwords } from '../library';
import { type Browser } from './browser';
import { type WebServer } from './server';
import { begin, end } from './stage';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let paper: string;
let label: string;
let server: WebServer;
let browser: Browser;
let meetingId: string;
let packId: string;
let issueId: string;
let arrivalId: string;
let colours = 'light';

beforeAll(async () => {
  keeper = await freshLibrary();
  const colleague = await newcomer(keeper, 'Colin League');
  home = await furnished(keeper);
  await open(keeper, home.series.id, colleague, 'reader');
  paper = await fileBuffer(keeper, home.year.id, 'Minutes.txt', Buffer.from('Minutes of the meeting\n'));
  await readPaper(paper);
  const gone = await fileBuffer(keeper, home.year.id, 'Draft.txt', Buffer.from('A draft\n'));
  await disposePapers(keeper, { documentIds: [gone] });
  const list = await createList(keeper, { name: 'Types', terms: ['Agenda', 'Minutes'] });
  await defineColumn(keeper, {
    ...plainFields,
    placeId: home.series.id,
    name: 'Paper type',
    type: 'choice',
    listId: list.id,
    help: 'What it is.',
    required: true,
  });
  label = (await createLabel(keeper, { name: 'For approval', hue: 'rust', shared: true })).id;
  await putLabel(keeper, { labelId: label, documentIds: [paper], on: true });
  ({ meetingId, packId, issueId } = await aMeeting());
  const mail = Buffer.from('From: a@b.example\r\nSubject: Rope\r\n\r\nThe rope comes on Thursday.\r\n');
  ({ arrivalId } = await keepMail(mail, { from: 'c@d.example', to: ['intake@e.example'] }));
  await readArrivals();
  ({ server, browser } = await begin());
});

/** A meeting with an agenda, somebody who attends, and a pack of it that is issued. */
async function aMeeting() {
  const dossierId = home.dossier.id;
  await makeMeetings(keeper, { dossierId, days: ['2027-01-12'], title: 'Ordinary meeting', venue: 'Net loft' });
  const of = { meetingId: (await meetingsOf(keeper, { dossierId }))[0]?.id ?? '' };
  const { agendaId } = await beginAgenda(keeper, { of });
  const { itemIds } = await addItems(keeper, { agendaId, parentId: null, beforeId: null, titles: ['Apologies'] });
  await attachPapers(keeper, { itemId: itemIds[0] ?? '', documentIds: [paper] });
  const people = [{ personId: null, name: 'Harbour engineer', part: 'inAttendance' as const }];
  await addAttendees(keeper, { ...of, people });
  const says = { itemId: itemIds[0] ?? '', personId: null, who: 'Harbour engineer', dueOn: '2026-07-01' };
  await recordOutcome(keeper, { ...says, kind: 'decision', text: 'The pier is closed' });
  await recordOutcome(keeper, { ...says, kind: 'action', text: 'Close the pier' });
  const { packId: pack } = await beginPack(keeper, { of });
  const issued = await issuePack(keeper, { packId: pack, asFiles: true, as: 'whole' });
  await makeNextIssue();
  while (await makeNextCopy());
  return { ...of, packId: pack, ...issued };
}

afterAll(() => end());

/**
 * Violations that axe-core calls serious or critical, by WCAG 2.2 A and AA among its rules. In dark colours only contrast is
 * looked at: all else is the same page. No page has frames of other origins, so one run in the page itself sees it all.
 */
async function violations(): Promise<string[]> {
  const axe = new AxeBuilder(browser.driver).setLegacyMode(true);
  const { violations: found } = await (
    colours === 'dark'
      ? axe.withRules(['color-contrast'])
      : axe.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])
  ).analyze();
  return found
    .filter((each) => each.impact === 'serious' || each.impact === 'critical')
    .map((each) => `${each.id}: ${each.nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`);
}

const screens: readonly (readonly [name: string, path: () => string, ready: string])[] = [
  ['my desk', () => '/desk', 'Changed lately'],
  ['a rack', () => `/place/${home.series.id}`, '1 dossier'],
  ['a dossier at a glance', () => `/place/${home.dossier.id}?view=glance`, 'Years and folders'],
  ['the gaps', () => '/gaps', 'There are none'],
  ['a meeting', () => `/meeting/${meetingId}`, 'Apologies'],
  ['who attends', () => `/meeting/${meetingId}?part=people`, 'Harbour engineer'],
  ['the minutes of a meeting', () => `/meeting/${meetingId}?part=minutes`, 'The pier is closed'],
  ['decisions and actions', () => `/decisions/${home.dossier.id}?kind=action`, 'Close the pier'],
  ['the packs of a place', () => `/packs/${home.dossier.id}`, 'Begin the pack'],
  ['a pack put together', () => `/pack/${packId}`, 'with cover and contents'],
  ['a pack that is read', () => `/issued/${issueId}`, 'in all'],
  ['a filing plan', () => `/plan/${home.series.id}`, 'Expected papers'],
  ['a ledger with its docket', () => `/place/${home.year.id}?paper=${paper}`, 'Download'],
  ['a paper', () => `/paper/${paper}`, 'Minutes of the meeting'],
  ['the disposal tray', () => '/tray', 'Put back'],
  ['across dossiers', () => '/across', 'Nothing ticked.'],
  ['the intake', () => `/intake?arrival=${arrivalId}`, 'The mail itself'],
  ['the ways in', () => '/intake?show=ways', 'Separator sheets'],
  ['the numbers of the intake', () => '/intake?show=numbers', 'Filed just as proposed'],
  ['the filing rules', () => '/intake?show=rules', 'New rule…'],
  ['the journal', () => '/journal', 'Check the journal'],
  ['the health of the library', () => '/health', 'Looked for and not found'],
  ['the backups', () => '/backups', 'By hand'],
  ['the signatures', () => '/signatures', 'Nothing waits for your signature.'],
  ['the duties', () => '/duties', 'My reviews as a calendar'],
  ['the retention schedule', () => '/retention', 'No class is set yet'],
  ['the holds', () => '/retention?show=holds', 'No hold has been put on anything'],
  ['the disposals', () => '/retention?show=disposals', 'No disposal has been prepared'],
  ['the exports', () => '/exports', 'None.'],
  ['people', () => '/people', 'Colin League'],
  ['the settings', () => '/settings', 'Filing years'],
  ['the account', () => '/account', 'Sign out everywhere'],
  ['the columns of a place', () => `/columns/${home.series.id}`, 'Paper type'],
  ['the controlled lists', () => '/lists', 'Agenda'],
  ['a label', () => `/label/${label}`, 'Minutes'],
  ['who sees what', () => `/access/${home.series.id}`, 'Download as CSV'],
  ['what is not there', () => '/place/nowhere', 'Nothing here'],
];

describe.each(['light', 'dark'])('in %s colours', (scheme) => {
  beforeAll(() => {
    colours = scheme;
  });
  afterAll(() => {
    colours = 'light';
  });

  it('the sign-in has nothing serious against it', async () => {
    await browser.goTo(`${server.url}/sign-in`);
    await browser.driver.manage().deleteAllCookies();
    await browser.driver.manage().addCookie({ name: 'embrin-scheme', value: scheme });
    await browser.goTo(`${server.url}/sign-in`);
    expect(await violations()).toEqual([]);
    await browser.fill('E-mail address', keeper.email);
    await browser.fill('Password', passwords.keeper);
    await browser.click('button', 'Sign in');
    await browser.seesText('Changed lately');
  });

  it.each(screens)('%s has nothing serious against it', async (_name, path, ready) => {
    await browser.goTo(server.url + path());
    await browser.seesText(ready);
    expect(await violations()).toEqual([]);
  });

  it('the dialogues have nothing serious against them', async () => {
    await browser.goTo(`${server.url}/place/${home.year.id}`);
    await browser.click('button', /^Open to/u);
    await browser.seesText('Keepers manage all');
    await (await browser.get('combobox', /Add a person/u)).sendKeys('colin');
    await browser.click('option', /Colin League/u);
    await browser.click('button', /^Colin League, take copies: given/u);
    await browser.seesText('Nobody else is affected');
    expect(await violations()).toEqual([]);
    await browser.press('\uE00C');
    await browser.click('button', 'File papers');
    await browser.seesText('Drop files or folders here');
    expect(await violations()).toEqual([]);
    await browser.press('\uE00C');
    for (const [item, ready] of [
      ['What it gives its papers…', 'Offered: filled in'],
      ['Values as a table…', 'Import again'],
    ] as const) {
      await browser.click('button', 'This place');
      await browser.click('menuitem', item);
      await browser.seesText(ready);
      expect(await violations()).toEqual([]);
      await browser.press('\uE00C');
      await browser.until('the dialogue to be gone', async () => (await browser.all('dialog', /./u)).length === 0);
    }
  });

  it('the dialogues of the intake have nothing serious against them', async () => {
    for (const [path, button, ready] of [
      ['/intake', 'Photograph pages…', 'No page yet.'],
      ['/intake?show=rules', 'New rule…', 'Whom to tell'],
      ['/intake?show=ways', 'New way in…', 'A blank page begins a new paper'],
    ] as const) {
      await browser.goTo(`${server.url}${path}`);
      await browser.click('button', button);
      await browser.seesText(ready);
      expect(await violations()).toEqual([]);
    }
  });

  it('the label panel, a condition and the editor have nothing serious against them', async () => {
    await browser.goTo(`${server.url}/place/${home.year.id}?paper=${paper}`);
    await browser.click('button', 'Change');
    await browser.seesText('on 1 paper');
    expect(await violations()).toEqual([]);
    await browser.press('\uE00C');
    await browser.click('button', 'Put down');
    await browser.click('button', 'Add a condition');
    await browser.until('the columns', async () => (await browser.all('option', 'Paper type'))[0] ?? null);
    expect(await violations()).toEqual([]);
    await browser.press('\uE00C');
    await browser.click('button', 'Edit values');
    await browser.seesText('Editing values');
    await browser.press('m');
    expect(await violations()).toEqual([]);
    await browser.press('\uE00C');
  });
});

it('a grouped ledger, covers, a cross-table and the dialogues of views have nothing serious against them', async () => {
  const by = encodeURIComponent(JSON.stringify([{ of: 'kind', by: 'value', order: 'own', direction: 'up' }]));
  await browser.goTo(`${server.url}/place/${home.series.id}?below=true&by=${by}`);
  await browser.until(
    'a group',
    async () => (await browser.driver.findElements(By.css('[role=row][aria-expanded]')))[0],
  );
  expect(await violations()).toEqual([]);
  for (const [menu, item, ready] of [
    ['View', /^Save as a view/u, 'For whom'],
    ['Group', /^Groups within groups/u, 'Order of papers'],
    ['Group', /^Cross-table/u, 'Cells show'],
    ['Columns', /^Order, widths/u, 'keep the title'],
  ] as const) {
    await browser.click('button', menu);
    await browser.click('menuitem', item);
    await browser.seesText(ready);
    expect(await violations()).toEqual([]);
    await browser.press('\uE00C');
    await browser.until('the dialogue to be gone', async () => (await browser.all('dialog', /./u)).length === 0);
  }
  await browser.goTo(`${server.url}/place/${home.series.id}?below=true&layout=covers`);
  await browser.until('a cover', async () => (await browser.driver.findElements(By.css('[id^=cover-]')))[0]);
  expect(await violations()).toEqual([]);
  await browser.goTo(`${server.url}/all`);
  await browser.seesText('Of the whole library');
  expect(await violations()).toEqual([]);
});

it('keeps all acts within reach of a narrow window', async () => {
  await browser.resize({ width: 480, height: 800 });
  await browser.goTo(`${server.url}/place/${home.year.id}?paper=${paper}`);
  await browser.get('dialog', 'Docket');
  await browser.seesText('Download');
  await browser.click('button', 'Close');
  await browser.click('button', 'Where');
  await browser.get('dialog', 'Where');
  expect(await violations()).toEqual([]);
  for (const [path, ready] of [
    [`/place/${home.year.id}?paper=${paper}`, 'Download'],
    ['/people', 'Colin League'],
    [`/access/${home.series.id}`, 'Download as CSV'],
    ['/desk', 'Changed lately'],
  ] as const) {
    await browser.goTo(server.url + path);
    await browser.seesText(ready);
    // What is wider than the window scrolls inside its own frame, never the page; what sticks out is named.
    const out = await browser.driver.executeScript<string[]>(`
    if (document.documentElement.scrollWidth <= 480) return [];
    const framed = (each) => each !== document.body && (/auto|scroll|hidden/u.test(getComputedStyle(each).overflowX) || framed(each.parentElement));
    return [...document.body.querySelectorAll('*')]
      .filter((each) => each.getBoundingClientRect().right > 481 && !framed(each.parentElement))
      .map((each) => each.tagName + ' ' + each.innerText?.slice(0, 40));`);
    expect([path, ...out]).toEqual([path]);
  }
});
