import { sql } from 'drizzle-orm';
import { By, Key } from 'selenium-webdriver';
import type { Actor } from '@/server/gate/actor';
import { db } from '@/server/db/client';
import { place } from '@/server/db/schema';
import { openYear } from '@/server/years/years';
import { freshLibrary, newcomer, open, passwords } from '../library';
import { type Browser } from './browser';
import { type WebServer } from './server';
import { begin, end } from './stage';

let keeper: Actor;
let reader: Actor;
let server: WebServer;
let browser: Browser;

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  await openYear(keeper, { startYear: 2025 });
  ({ server, browser } = await begin(keeper));
});

afterAll(() => end());

const newSeries = async (name: string, pattern: string, byYear = true) => {
  await browser.click('button', /Series/u);
  await browser.fill('Name', name);
  if (!byYear) await browser.click('checkbox', 'Filed by year');
  await browser.fill(/pattern/iu, pattern);
  await browser.press(Key.ENTER);
  await browser.get('heading', name);
};
const plan = async (ready: string) => {
  await browser.click('button', 'This place');
  await browser.click('menuitem', 'Filing plan…');
  await browser.click('button', 'Begin with…');
  await browser.click('menuitem', ready);
  await browser.seesText('New ones get these folders.');
  await browser.click('button', 'Save the plan');
  await browser.seesText('The plan is saved');
};
const paste = async (series: string, names: readonly string[]) => {
  await browser.click('link', series);
  await browser.get('heading', series);
  await browser.click('button', 'New');
  await browser.click('menuitem', 'Several dossiers…');
  await browser.fill('Names', names.join('\n'));
  await browser.click('button', `Make ${names.length} dossiers`);
  await browser.seesText(`${names.length} dossiers made`);
};
const folders = async (): Promise<number> => db().$count(place, sql`${place.kind} = 'folder'`);

const committees = ['Full board', 'Finance', 'Navigation', 'Works', 'Nominations'];
const tenants = Array.from({ length: 40 }, (_each, at) => `Tenant ${at + 1}`);

it('takes a person a few clicks from an empty library to five committees and forty tenants with all their folders', async () => {
  const began = Date.now();
  await newSeries('Committees', '');
  await plan('Board or committee');
  await paste('Committees', committees);
  await newSeries('Tenants', 'T-###');
  await plan('Client or tenant');
  await paste('Tenants', tenants);
  // Committees: two once, one in each of two years; tenants: two once, two in each of two years.
  expect(await folders()).toBe(5 * (2 + 2) + 40 * (2 + 4));
  console.log(`Laid out by a browser in ${Math.round((Date.now() - began) / 1000)} s; a person has five minutes`);
  await browser.click('link', /T-001/u);
  await browser.get('heading', 'Tenant 1');
  await browser.seesText('Insurance');
});

it('meetings come round with their folders', async () => {
  const before = await folders();
  await browser.click('link', 'Committees');
  await browser.click('link', /^Finance/u);
  await browser.get('heading', 'Finance');
  await browser.click('button', 'This place');
  await browser.click('menuitem', 'Meetings…');
  await browser.click('combobox', 'When');
  await browser.press('As it comes', Key.ENTER);
  await browser.seesText(/\d+ meetings: /u);
  const told = /Make (?<count>\d+) meetings/u.exec(await browser.text())?.groups?.['count'];
  await browser.click('button', /^Make \d+ meetings$/u);
  await browser.seesText(`${told} meetings made, with`);
  expect(await folders()).toBeGreaterThan(before + 3);
});

it('a change of the plan says what it would do to every dossier, and a name that cannot be is refused where it stands', async () => {
  await browser.goTo(server.url);
  await browser.click('link', 'Tenants');
  await browser.get('heading', 'Tenants');
  await browser.click('button', 'This place');
  await browser.click('menuitem', 'Filing plan…');
  await browser.until('the first name', async () => {
    const [first] = await browser.all('textbox', 'Name of a folder');
    await first?.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Lease of {client}');
    return first !== undefined;
  });
  await browser.seesText('There is no part {client}.');
  const [first] = await browser.all('textbox', 'Name of a folder');
  await first?.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Lease of {dossier}');
  await browser.seesText('40 folders are renamed');
  await browser.click('button', 'Save the plan');
  await browser.seesText('The plan is saved: 0 folders made, 40 renamed, 0 removed');
  await browser.seesText('All 40 dossiers are as the plan says.');
});

it('jobs that run on over the years have no years, and their folders across the rack; filed by year they get them', async () => {
  const years = () =>
    db().$count(
      place,
      sql`${place.kind} = 'year' and ${place.lineage} @> array(
    select id from ${place} as series where series.kind = 'series' and series.name = 'Jobs')`,
    );
  await browser.goTo(server.url);
  await newSeries('Jobs', 'J-##', false);
  await plan('Policies');
  await paste('Jobs', ['Pontoon repair', 'Slipway crane']);
  expect(await years()).toBe(0);
  await browser.get('columnheader', 'Superseded');
  await browser.get('gridcell', 'Pontoon repair, In force, 0 papers');
  await browser.click('link', /Slipway crane/u);
  await browser.get('heading', 'Slipway crane');
  expect(await browser.driver.findElements(By.css('[aria-label="Filing year"]'))).toHaveLength(0);
  await browser.click('link', 'Jobs');
  await browser.get('heading', 'Jobs');
  await browser.click('button', 'This place');
  await browser.click('menuitem', 'Filing plan…');
  await browser.click('checkbox', 'Filed by year');
  await browser.seesText(/\d+ folders are made/u);
  await browser.click('button', 'Save the plan');
  await browser.seesText('The plan is saved');
  await browser.until('its years', async () => (await years()) > 2);
  await browser.seesText('dossiers are as the plan says');
  await browser.click('checkbox', 'Filed by year');
  await browser.seesText(/\d+ empty folders are removed/u);
  await browser.click('button', 'Save the plan');
  await browser.seesText(/removed/u);
  await browser.until('no years', async () => (await years()) === 0);
});

it('is seen and not changed by who may only read', async () => {
  const [series] = await db()
    .select({ id: place.id })
    .from(place)
    .where(sql`${place.name} = 'Tenants'`);
  await open(keeper, series?.id ?? '', reader, 'reader');
  await browser.signIn(server.url, reader.email, passwords.others);
  await browser.goTo(`${server.url}/plan/${series?.id}`);
  await browser.seesText('Lease of {dossier}');
  expect(await browser.all('button', 'Save the plan')).toEqual([]);
  expect(await browser.all('button', 'Add a folder')).toEqual([]);
  // The series whose plan it is stays the open one.
  const tab = await browser.get(
    'link',
    'Tenants',
    await browser.driver.findElement(By.css('nav[aria-label="Series"]')),
  );
  expect(await tab.getAttribute('aria-current')).toBe('page');
});
