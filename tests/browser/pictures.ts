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

/** Opens a paper that the find field finds, the first for which that holds. */
async function toPaper(words: string, holds: (paper: PaperDocket) => boolean): Promise<PaperDocket> {
  const ask = <T>(operation: string, input: object) =>
    browser.driver.executeAsyncScript<T>(
      `const [operation, input, done] = arguments;
       fetch('/api/call/' + operation, { method: 'POST', headers: { 'content-type': 'application/json' }, body: input })
         .then((response) => response.json()).then(done, () => done([]));`,
      operation,
      JSON.stringify(input),
    );
  for (const { id, kind } of await ask<readonly Found[]>('find', { words })) {
    if (kind !== 'paper') continue;
    const paper = await ask<PaperDocket>('paper.docket', { documentId: id });
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
  hand: async () => {
    await toMeeting();
    const grid = await browser.driver.findElement(By.css('[role=grid]'));
    await grid.sendKeys(Key.ARROW_DOWN, ' ', Key.ARROW_DOWN, ' ', Key.ARROW_DOWN, ' ');
    await browser.seesText(/papers in hand/u);
    await browser.click('button', 'Show');
    await browser.get('dialog', 'In hand');
  },
  across: async () => {
    await browser.goTo(`${base}/across`);
    await browser.click('button', 'Open Board & committees');
    await browser.click('button', /^Open .*Finance & audit/u);
    await browser.click('checkbox', /Finance & audit/u);
    await browser.click('checkbox', /2023–24/u);
    await browser.click('checkbox', 'Berth tenants');
    await browser.seesText(/papers ·/u);
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
  health: async () => {
    await browser.goTo(`${base}/health`);
    await browser.click('button', /Papers with the same content/u);
    await browser.seesText('Invoice 2877 (2)');
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
  versions: async () => {
    const { id } = await toPaper('Minutes', ({ versions, stamp }) => versions.length > 1 && stamp === 'DOC');
    await browser.goTo(`${base}/paper/${id}/versions`);
    await browser.seesText(/They differ on/u);
    await browser.settled();
  },
  find: async () => {
    await browser.goTo(`${base}/desk`);
    await browser.press('/');
    await browser.press('dred');
    await browser.until('something found', async () => (await browser.all('option', /dred/iu)).length > 3);
  },
  access: async () => {
    await tabTo('Board & committees');
    await browser.click('link', /Finance & audit/u);
    await browser.get('heading', 'Finance & audit');
    await browser.seesText('Open to 5 people');
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
  columns: async () => {
    await tabTo('Board & committees');
    await browser.click('button', 'This place');
    await browser.click('menuitem', 'Columns…');
    await browser.get('heading', 'Columns of Board & committees');
    await browser.seesText('Document date');
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
