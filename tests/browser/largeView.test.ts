import { By } from 'selenium-webdriver';
import { sql } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import type { Actor } from '@/server/gate/actor';
import { defineColumn } from '@/server/columns/define';
import { createList, listOf } from '@/server/columns/lists';
import { writableDb } from '@/server/db/client';
import { createFolder } from '@/server/places/create';
import { fillWithPapers } from '../../bench/large';
import { dropPlanted, freshLibrary, furnished } from '../library';
import { type Browser } from './browser';
import { blankAt } from './scrolling';
import { type WebServer } from './server';
import { begin, end } from './stage';

const papers = 100_000;
const folders = 20;
let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let terms: readonly { readonly id: string; readonly name: string }[];
let server: WebServer;
let browser: Browser;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  const ids: string[] = [];
  for (let at = 1; at <= folders; at += 1)
    ids.push((await createFolder(keeper, { parentId: home.dossier.id, name: `Folder ${at}` })).id);
  await fillWithPapers(keeper, ids, papers);
  const { id: listId } = await createList(keeper, {
    name: 'States',
    terms: ['Current', 'Draft', 'Superseded', 'Void'],
  });
  ({ terms } = await listOf(keeper, listId));
  const { id } = await defineColumn(keeper, {
    ...plainFields,
    placeId: home.series.id,
    name: 'Status',
    type: 'choice',
    listId,
  });
  // Past the use-cases: setting a hundred thousand values as people do is measured elsewhere.
  for (const [at, term] of terms.entries())
    await writableDb().execute(sql`
      update document set shown_values = ${JSON.stringify({ [id]: term.id })}::jsonb, own_values = ${JSON.stringify({ [id]: term.id })}::jsonb
      where hashtext(id::text) % 5 = ${at}`);
  ({ server, browser } = await begin(keeper));
});

afterAll(() => end(dropPlanted));

it('serves at once after a start, and counts as soon as the library has been read', async () => {
  await server.end('SIGKILL');
  await server.again();
  await browser.goTo(`${server.url}/place/${home.series.id}?below=true`);
  // Rows are there whether it has been counted yet or not.
  await browser.seesText('Agenda 1');
  await browser.seesText('100,000 papers');
});

it('scrolls through 100,000 papers by steps without a blank row, and fills what a leap comes to', async () => {
  const grid = await browser.driver.findElement(By.css('[role=grid]'));
  expect(await blankAt(browser, grid, 0)).toEqual([]);
  await browser.driver.executeScript('arguments[0].scrollTop = arguments[0].scrollHeight', grid);
  await browser.until('the last papers', async () => (await grid.getText()).includes('Survey report 99998'));
  await browser.driver.executeScript('arguments[0].scrollTop = 0', grid);
});

it('answers a chosen condition with just its papers; how long that took is said, not judged', async () => {
  await browser.click('button', 'Add a condition');
  await browser.click('option', 'Status');
  await browser.until('the values', async () => (await browser.all('option', /^Current/u))[0] ?? null);
  const times: number[] = [];
  for (const term of [...terms, ...terms]) {
    const { ms } = await browser.driver.executeAsyncScript<{ ms: number }>(
      `const [name, done] = arguments;
       const option = [...document.querySelectorAll('[role=option]')].find((each) => each.innerText.startsWith(name));
       const status = () => [...document.querySelectorAll('[role=status]')].map((each) => each.innerText).join();
       const before = status();
       const began = performance.now();
       option.click();
       const look = () => (status() === before ? requestAnimationFrame(look) : requestAnimationFrame(() => done({ ms: performance.now() - began })));
       look();`,
      term.name,
    );
    times.push(ms);
  }
  await browser.seesText('100,000 papers');
  const sorted = [...times].sort((a, b) => a - b);
  console.log(
    `A condition at 100,000 papers: click to new rows, median ${Math.round(sorted[Math.floor(sorted.length / 2)] ?? 0)} ms of ${times.map((ms) => Math.round(ms)).join(', ')}`,
  );
});
