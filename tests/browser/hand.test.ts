import { execFileSync } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileBuffer } from '@/demo/file';
import { makeNextExport } from '@/server/exports/make';
import type { Actor } from '@/server/gate/actor';
import { freshLibrary, furnished, newcomer, passwords } from '../library';
import { Browser } from './browser';
import { begin, end } from './stage';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let keeper: Actor;
let yearId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  await newcomer(keeper, 'Rea Der');
  yearId = (await furnished(keeper)).year.id;
  for (const name of ['Agenda', 'Budget', 'Chart'])
    await fileBuffer(keeper, yearId, `${name}.txt`, Buffer.from(`${name} of the year`));
  ({ server, browser } = await begin(keeper));
});
afterAll(() => end());

it('keeps what is in hand while one goes elsewhere, over a new page, and on another device', async () => {
  await browser.goTo(`${server.url}/place/${yearId}`);
  await browser.click('checkbox', 'Pick up Agenda');
  await browser.click('checkbox', 'Pick up Chart');
  await browser.seesText('2 papers in hand');
  // A box has the focus, and the key for the find field is not for it.
  await browser.press('/');
  await browser.press('budget of');
  await browser.get('option', /All that is found for budget of/u);
  await browser.seesText('2 papers in hand');
  await browser.goTo(`${server.url}/desk`);
  await browser.seesText('2 papers in hand');
  const other = await Browser.open();
  try {
    await other.signIn(server.url, keeper.email, passwords.keeper);
    await other.seesText('2 papers in hand');
  } finally {
    await other.close();
  }
});

it('says what an export will hold, and makes an archive of it', async () => {
  await browser.click('button', 'Export…');
  const dialog = await browser.get('dialog', 'Export what is in hand');
  await browser.click('button', 'Export', dialog);
  // What the worker does, which does not run beside these tests.
  while (!(await makeNextExport()));
  await browser.seesText(/2 papers, [\d.]+ k?B/u);
  const link = await browser.get('link', 'Download', dialog);
  const address = (await link.getAttribute('href')) ?? '';
  await browser.click('button', 'Close', dialog);
  const cookies = await browser.driver.manage().getCookies();
  const answer = await fetch(address, {
    headers: { cookie: cookies.map(({ name, value }) => `${name}=${value}`).join('; ') },
  });
  expect(answer.headers.get('content-type')).toBe('application/zip');
  const folder = await mkdtemp(path.join(tmpdir(), 'embrin-hand-'));
  try {
    const file = path.join(folder, 'hand.zip');
    await writeFile(file, Buffer.from(await answer.arrayBuffer()));
    const listing = execFileSync('unzip', ['-tq', file], { encoding: 'utf8' });
    expect(listing).toContain('No errors detected');
    expect(execFileSync('unzip', ['-l', file], { encoding: 'utf8' })).toMatch(/Agenda\.txt[\s\S]*Chart\.txt/u);
  } finally {
    await rm(folder, { recursive: true });
  }
  await browser.goTo(`${server.url}/exports`);
  await browser.seesText('Kept until');
});

it('lists it by place, and puts one down, or all of it', async () => {
  await browser.click('button', 'Show');
  await browser.get('dialog', 'In hand');
  await browser.click('button', 'Put down Agenda');
  await browser.seesText('1 paper in hand');
  await browser.click('button', 'Close');
  await browser.click('button', 'Put down');
  await browser.seesText('Nothing in hand');
  await browser.goTo(`${server.url}/desk`);
  await browser.seesText('Nothing in hand');
});
