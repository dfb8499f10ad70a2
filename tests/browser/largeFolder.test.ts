import { By } from 'selenium-webdriver';
import { plainFields } from '@/core/columns/contract';
import { defineColumn } from '@/server/columns/define';
import { createFolder } from '@/server/places/create';
import type { Actor } from '@/server/gate/actor';
import { fillWithPapers } from '../../bench/large';
import { dropPlanted, freshLibrary, furnished } from '../library';
import { type Browser } from './browser';
import { blankAt } from './scrolling';
import { type WebServer } from './server';
import { begin, end } from './stage';

const papers = 20_000;
let keeper: Actor;
let folderId: string;
let server: WebServer;
let browser: Browser;

beforeAll(async () => {
  keeper = await freshLibrary();
  const { dossier } = await furnished(keeper);
  folderId = (await createFolder(keeper, { parentId: dossier.id, name: 'Everything' })).id;
  await fillWithPapers(keeper, [folderId], papers);
  ({ server, browser } = await begin(keeper));
});

afterAll(() => end(dropPlanted));

it('scrolls through 20,000 papers from top to bottom, in steps and in leaps, without a blank row', async () => {
  await browser.goTo(`${server.url}/place/${folderId}`);
  await browser.seesText('20,000 papers');
  const grid = await browser.driver.findElement(By.css('[role=grid]'));
  await browser.until('all rows to be there', async () => {
    await browser.driver.executeScript('arguments[0].scrollTop = arguments[0].scrollHeight', grid);
    return (await grid.getText()).includes('Survey report 19995');
  });
  expect(await blankAt(browser, grid, 60)).toEqual([]);
});

it('answers a sort with the right first rows; how long that took is said, not judged', async () => {
  // Once the top is drawn, and in one step: between finding the row and reading it, scrolling may have put another in its place.
  const first = () =>
    browser.until('the first row', () =>
      browser.driver.executeScript<string | null>(
        "return document.querySelector('[role=row][aria-rowindex=\"2\"]')?.innerText.split('\\n')[0] ?? null",
      ),
    );
  const times: number[] = [];
  for (const [column, expected] of [
    ['Sort by pages', /./u],
    ['Sort by title', /^Agenda 1$/u],
    ['Sort by title, now ascending', /^Survey report 19995$/u],
  ] as const) {
    await browser.driver.executeScript('document.querySelector("[role=grid]").scrollTop = 0');
    const before = await first();
    times.push(
      await browser.driver.executeAsyncScript<number>(
        `const [label, before, done] = arguments;
         const began = performance.now();
         document.querySelector('button[aria-label="' + label + '"]').click();
         const look = () => {
           const row = document.querySelector('[role=row][aria-rowindex="2"]');
           if (row && row.innerText.split('\\n')[0] !== before) requestAnimationFrame(() => done(performance.now() - began));
           else requestAnimationFrame(look);
         };
         look();`,
        column,
        before,
      ),
    );
    expect(await first()).toMatch(expected);
  }
  console.log(`A sort of 20,000 papers: click to new rows ${times.map((ms) => `${Math.round(ms)} ms`).join(', ')}`);
});

it('scrolls without a blank row while its values are edited', async () => {
  await defineColumn(keeper, { ...plainFields, placeId: folderId, name: 'Remark', type: 'text' });
  await browser.goTo(`${server.url}/place/${folderId}`);
  await browser.seesText('20,000 papers');
  await browser.click('button', 'Edit values');
  await browser.seesText('Editing values');
  const grid = await browser.driver.findElement(By.css('[role=grid]'));
  await browser.until('all rows to be there', async () => (await grid.getAttribute('aria-rowcount')) === '20001');
  expect(await blankAt(browser, grid, 60)).toEqual([]);
});
