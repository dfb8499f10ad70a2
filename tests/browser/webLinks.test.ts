import type { Actor } from '@/server/gate/actor';
import { db } from '@/server/db/client';
import { document } from '@/server/db/schema';
import { eq } from 'drizzle-orm';
import { freshLibrary, furnished } from '../library';
import { readPaper } from '../reading';
import type { Browser } from './browser';
import { begin, end } from './stage';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let keeper: Actor;
let yearId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  yearId = (await furnished(keeper)).year.id;
  ({ server, browser } = await begin(keeper));
});
afterAll(() => end());

it('files a web link from the find field, refuses what is no web address, and opens it without telling from where', async () => {
  await browser.goTo(`${server.url}/place/${yearId}`);
  await browser.settled();
  await browser.press('/');
  await browser.press('new web');
  await browser.click('option', /^New web link/u);
  await browser.fill('Web address', 'javascript:alert(1)');
  await browser.fill('Title', 'Tide tables');
  await browser.click('button', 'File it');
  await browser.seesText('Only addresses that begin with https:// or http:// are kept.');
  await browser.fill('Web address', 'tides.example/table');
  await browser.click('button', 'File it');
  await browser.seesText('“Tide tables” is filed in');
  const [paper] = await db().select({ id: document.id }).from(document).where(eq(document.title, 'Tide tables'));
  await readPaper(paper?.id ?? '');
  await browser.goTo(`${server.url}/paper/${paper?.id}`);
  const link = await browser.get('link', 'https://tides.example/table');
  expect(await link.getAttribute('rel')).toBe('noopener noreferrer');
  expect(await link.getAttribute('target')).toBe('_blank');
  expect(await link.getAttribute('referrerpolicy')).toBe('no-referrer');
});
