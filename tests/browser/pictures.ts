/**
 * Takes the pictures of docs/screenshots/ from the demo library of a running `npm start`: `npm run pictures`, or only
 * those named: `npm run pictures -- desk ledger`. Filing and editing are shown under way and then left undone.
 */
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { By, Key } from 'selenium-webdriver';
import { demoPassword, keeper } from '@/demo/people';
import type { PaperDocket } from '@/core/documents/model';
import type { Found } from '@/core/search/contract';
import { Browser } from './browser';
import { realFiles } from './papers';

const base = process.env['EMBRIN_URL'] ?? '';
const only = process.argv.slice(2);
const folder = path.join(process.cwd(), 'docs/screenshots');

const browser = await Browser.open();

const tabTo = async (series: string): Promise<void> => {
  await browser.click('link', series);
  await browser.get('heading', series);
};

async function toMeeting(): Promise<void> {
  await tabTo('Board & committees');
  await browser.click('link', /Finance & audit/u);
  await browser.get('heading', 'Finance & audit');
  await browser.click('button', '2026–27');
  await browser.get('heading', '2026–27');
  await browser.click('link', /Jul meeting/u);
  await browser.get('heading', /Jul meeting/u);
}

/** The answer to a question, as the page would ask it. */
const asked = <T>(operation: string, input: object): Promise<T> =>
  browser.driver.executeAsyncScript<T>(
    `const [operation, input, done] = arguments;
     fetch('/api/call/' + operation, { method: 'POST', headers: { 'content-type': 'application/json' }, body: input })
       .then((response) => response.json()).then(done, () => done([]));`,
    operation,
    JSON.stringify(input),
  );

async function boardId(): Promise<string> {
  const found = await asked<readonly Found[]>('find', { words: 'Full board' });
  return found.find(({ kind, name }) => kind === 'dossier' && name === 'Full board')?.id ?? '';
}

/** The board's next meeting. */
async function toNextMeeting(): Promise<void> {
  const meetings = await asked<readonly { id: string; day: string }[]>('meetings.of', { dossierId: await boardId() });
  const next = meetings.find(({ day }) => day > '2026-11-20');
  await browser.goTo(`${base}/meeting/${next?.id ?? ''}`);
}

/** A part of the page of the board's last meeting. */
async function toLastMeeting(part: string): Promise<void> {
  const meetings = await asked<readonly { id: string; day: string }[]>('meetings.of', { dossierId: await boardId() });
  const last = meetings.findLast(({ day }) => day < '2026-11-20');
  await browser.goTo(`${base}/meeting/${last?.id ?? ''}?part=${part}`);
}

async function toLastPack(): Promise<void> {
  await toLastMeeting('packs');
  await browser.get('link', 'Issue 1');
}

/** Opens a paper that the find field finds, the first for which that holds. */
async function toPaper(words: string, holds: (paper: PaperDocket) => boolean): Promise<PaperDocket> {
  for (const { id, kind } of await asked<readonly Found[]>('find', { words })) {
    if (kind !== 'paper') continue;
    const paper = await asked<PaperDocket>('paper.docket', { documentId: id });
    if (!holds(paper)) continue;
    await browser.goTo(`${base}/paper/${id}`);
    return paper;
  }
  throw new Error(`No such paper: ${words}`);
}

/** Each picture: what to do to see it. Any act it begins is left before the next. */
const pictures: Readonly<Record<string, () => Promise<void>>> = {
  desk: async () => {
    await browser.goTo(`${base}/desk`);
    await browser.seesText('Passed on by me');
    await browser.seesText(/is missing in/u);
    await browser.seesText('Changed lately');
  },
  intake: async () => {
    await browser.goTo(`${base}/intake`);
    await browser.click('button', /Accounts.*Invoice INV/su);
    await browser.seesText('It names the reference');
    await browser.until('the marks', async () => (await browser.driver.findElements(By.css('[data-mark]'))).length > 2);
  },
  'filing-rule': async () => {
    await browser.goTo(`${base}/intake?show=rules`);
    await browser.click('button', /^Bills of/u);
    await browser.seesText(/it would have been right for/u);
  },
  duties: async () => {
    await browser.goTo(`${base}/duties`);
    await browser.seesText(/d past/u);
    const [row] = await browser.all('row', /Expenses policy/u);
    await row?.click();
    await browser.seesText('Every 2 years, by Maren Tolliver');
  },
  disposal: async () => {
    await browser.goTo(`${base}/retention?show=disposals`);
    await browser.click('button', /Disposal of 20 Nov/u);
    await browser.seesText('under the hold “Ombudsman inquiry”');
  },
  agenda: async () => {
    await toNextMeeting();
    await browser.seesText('Dredging of the Cockle Hard');
  },
  pack: async () => {
    await toLastPack();
    await browser.click('link', /^Put/u);
    await browser.seesText('For reading');
    await browser.fill('Words in the papers to add', 'ferry');
    await browser.seesText('in the pack');
  },
  issued: async () => {
    await toLastPack();
    await browser.click('link', 'Issue 1');
    await browser.click('button', /^Ferry landing terms/u);
    await browser.seesText(/Pack page \d+ of \d+/u);
    await browser.click('button', 'Notes');
    await browser.fill(/^A note on page/u, 'Is the ferry company bound by this?');
  },
  signing: async () => {
    await browser.goTo(`${base}/signatures`);
    await browser.click('link', 'Minutes of 15 Sep');
    await browser.seesText('You are asked to sign version 2');
    await browser.seesText('Isolde Carew');
    await browser.seesText('The tide gauge at Cockle Hard');
    await browser.driver.executeScript(
      `for (const heading of document.querySelectorAll('aside h3'))
        if (heading.textContent === 'Signatures') heading.closest('aside').scrollTop += heading.getBoundingClientRect().top - 420;`,
    );
  },
  rack: async () => {
    await tabTo('Board & committees');
    const cell = await browser.get('gridcell', /^Navigation & safety, 2024–25/u);
    await browser.driver.executeScript('arguments[0].focus()', cell);
    await browser.get('region', 'Missing');
  },
  dossier: async () => {
    await tabTo('Board & committees');
    await browser.click('link', /Navigation & safety/u);
    await browser.click('tab', 'At a glance');
    await browser.get('region', /^Gaps/u);
    await browser.seesText(/Latest of/u);
  },
  'filing-plan': async () => {
    await tabTo('Board & committees');
    await browser.click('button', 'This place');
    await browser.click('menuitem', 'Filing plan…');
    await browser.seesText('dossiers are as the plan says');
  },
  ledger: async () => {
    await toMeeting();
    await browser.get('row', /Agenda/u);
    await browser.settled();
    await browser.driver.findElement(By.css('[role=grid]')).sendKeys(Key.ARROW_DOWN, Key.ARROW_DOWN, ' ');
    await browser.seesText('Download');
  },
  note: async () => {
    const { id } = await toPaper('Meeting with the harbour users', () => true);
    await browser.goTo(`${base}/paper/${id}/write`);
    await browser.seesText('All is kept');
    await browser.settled();
  },
  results: async () => {
    await browser.goTo(`${base}/find?words=${encodeURIComponent('dredging invoice')}`);
    await browser.seesText(/Lantern Dredging/u);
    await browser.seesText(/papers ·/u);
    await browser.settled();
  },
  access: async () => {
    await tabTo('Board & committees');
    await browser.click('link', /Finance & audit/u);
    await browser.get('heading', 'Finance & audit');
    await browser.seesText(/Open to \d+ people/u);
    await browser.click('button', /^Open to/u);
    await browser.get('heading', 'Who can open “Finance & audit”');
    await browser.click('button', 'Sunniva Dale, take copies: given');
    await (await browser.get('combobox', /Add a person/u)).sendKeys('oona');
    await browser.click('option', /Oona Marsh/u);
    await browser.seesText(/Oona Marsh\s+will see/u);
    await browser.seesText('may no longer take copies');
  },
  'who-sees-what': async () => {
    await browser.goTo(`${base}/people`);
    await browser.click('link', 'Who sees what');
    await browser.seesText('stands alone');
  },
  minutes: async () => {
    await toLastMeeting('minutes');
    await browser.seesText('The lamps of Marsh Quay');
    await browser.driver.executeScript(`document.querySelector('main').scrollTop = 215`);
  },
  upload: async () => {
    await toMeeting();
    const files = await realFiles(['Tide tables.pdf', 'Berth plan.png', 'Dues 2027.xlsx', 'Site notes.txt']);
    // A slow line, so that the files are seen on their way.
    await browser.cdp('Network.enable', {});
    await browser.cdp('Network.emulateNetworkConditions', {
      offline: false,
      latency: 300,
      downloadThroughput: 1_000_000,
      uploadThroughput: 3000,
    });
    await browser.dropFiles(await browser.driver.findElement(By.css('main')), [...files.values()]);
    await browser.click('button', /^File 4 papers in/u);
    await browser.seesText(/\d (?:s|min) left/u);
  },
};

async function signIn(): Promise<void> {
  await browser.goTo(`${base}/sign-in`);
  await browser.signIn(base, keeper.email, demoPassword);
}

await signIn();
for (const [name, reach] of Object.entries(pictures)) {
  if (only.length > 0 && !only.includes(name)) continue;
  await reach();
  await browser.settled();
  await browser.picture(path.join(folder, `${name}.png`));
  const size = (await readFile(path.join(folder, `${name}.png`))).length;
  console.log(`docs/screenshots/${name}.png, ${Math.round(size / 1000)} kB`);
  for (const back of await browser.all('button', 'Return to your own view')) await back.click();
  // What was being typed goes with a new page; what is in hand stays until it is put down.
  for (const down of await browser.all('button', 'Put down')) await down.click();
  await browser.driver.executeScript('sessionStorage.clear()');
  if (name !== 'upload') await browser.goTo(`${base}/desk`);
}
await browser.close();
