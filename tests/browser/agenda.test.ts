import { By, Key } from 'selenium-webdriver';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { changeItem } from '@/server/agenda/items';
import { fileAgendas } from '@/server/agenda/printed';
import { agendaSheet } from '@/server/agenda/read';
import { makeMeetings, meetingsOf } from '@/server/meetings/meetings';
import { freshLibrary, furnished, newcomer, passwords } from '../library';
import { plainItem } from '../integration/calls';
import { placeOn, say } from '../sheets';
import { anotherBrowser, begin, end } from './stage';
import type { Browser } from './browser';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let other: Browser;
let keeper: Actor;
let chair: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let meetingId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  chair = await newcomer(keeper, 'Cha Ir');
  reader = await newcomer(keeper, 'Rea Der');
  home = await furnished(keeper);
  await say(
    keeper,
    placeOn(home.series.id),
    [chair, reader].map((who) => ({ who, gives: ['see', 'take'] as const })),
  );
  await makeMeetings(keeper, {
    dossierId: home.dossier.id,
    days: ['2027-01-12'],
    title: 'Ordinary meeting',
    venue: 'Net loft',
  });
  meetingId = (await meetingsOf(keeper, { dossierId: home.dossier.id }))[0]?.id ?? '';
  for (const title of ['Tender for piles', 'Letter of claim'])
    await fileBuffer(keeper, home.year.id, `${title}.txt`, Buffer.from(`${title}\n`));
  ({ server, browser } = await begin(keeper));
  other = await anotherBrowser();
});
afterAll(() => end());

const sheet = () => agendaSheet(keeper, { of: { meetingId } });
const titles = async () => (await sheet()).items.map(({ title }) => title);

it('an agenda is written from nothing, by keyboard alone', async () => {
  await browser.goTo(`${server.url}/meeting/${meetingId}`);
  await browser.seesText('There is no agenda yet');
  await browser.click('button', 'Begin the agenda');
  await browser.seesText('No items yet');
  for (const [at, words] of ['Apologies', 'Harbour works', 'Piles', 'Close'].entries()) {
    await browser.fill('Title of a new item', words);
    await browser.press(Key.ENTER);
    await browser.seesText(at === 0 ? '1 item' : `${at + 1} items`);
  }
  expect(await titles()).toEqual(['Apologies', 'Harbour works', 'Piles', 'Close']);

  await (await browser.get('button', /^Move “3 Piles”/u)).sendKeys(Key.chord(Key.ALT, Key.ARROW_RIGHT));
  await browser.until('the number within', async () => (await browser.all('listitem', '2.1 Piles'))[0] ?? null);
  await browser.click('button', 'Change 2.1 Piles');
  await browser.fill('Presented by', 'Cha Ir');
  await browser.fill('Minutes', '1.5');
  await browser.press(Key.ENTER);
  await browser.seesText('Minutes are a whole number.');
  await browser.fill('Minutes', '25');
  await browser.press(Key.ENTER);
  await browser.seesText('Cha Ir · 25 min');
  await browser.driver.findElement(By.css('input[type="time"]')).sendKeys('0630PM', Key.TAB, Key.TAB);
  await browser.seesText('ends at 18:55');
});

it('papers are attached by reference, and an item is confidential to some of those who attend', async () => {
  await browser.click('tab', 'Who attends');
  for (const name of ['Cha Ir', 'Rea Der']) {
    await browser.click('button', 'Add somebody who attends');
    await browser.press(name);
    await browser.until('the person', async () => (await browser.all('option', new RegExp(name, 'u')))[0] ?? null);
    await browser.press(Key.ENTER, Key.ESCAPE);
    await browser.until('them on the list', async () => (await browser.all('button', `Remove ${name}`))[0] ?? null);
  }
  await browser.click('tab', 'Agenda');
  await browser.click('button', 'Attach papers to 2.1 Piles');
  await browser.press('Tender');
  await browser.click('option', /Tender for piles/u);
  await browser.seesText('1 paper attached');
  await browser.click('button', 'Done');
  await browser.click('button', 'Change 2 Harbour works');
  await browser.click('checkbox', 'Confidential');
  await browser.click('checkbox', 'Cha Ir');
  await browser.click('button', 'Save');
  await browser.seesText('confidential: for Cha Ir');

  await other.signIn(server.url, chair.email, passwords.others);
  await other.goTo(`${server.url}/meeting/${meetingId}`);
  await other.seesText('Tender for piles');
  await other.click('tab', 'Who attends');
  await other.click('button', 'I come');
  await other.seesText('You have answered: comes.');
  await other.driver.manage().deleteAllCookies();
  await other.signIn(server.url, reader.email, passwords.others);
  await other.goTo(`${server.url}/meeting/${meetingId}`);
  await other.seesText('Confidential item');
  expect(await other.text()).not.toMatch(/Harbour works|Piles|Tender/u);
  expect(await other.all('button', /^Change/u)).toEqual([]);
});

it('somebody is asked for a paper, has it on the desk, and hands it in', async () => {
  await browser.click('button', 'More to do with 2.1 Piles');
  await browser.click('menuitem', 'Ask for a paper…');
  await browser.click('button', 'Ask for it');
  await browser.seesText('A title is needed.');
  await browser.fill('Which paper', 'Cost of the piles');
  await browser.click('button', 'Who is asked for it');
  await browser.click('option', /Cha Ir/u);
  await browser.click('button', 'Ask for it');
  await browser.seesText('“Cost of the piles” is asked of Cha Ir');
  await other.driver.manage().deleteAllCookies();
  await other.signIn(server.url, chair.email, passwords.others);
  await other.seesText('is asked of you');
  await other.click('link', 'Cost of the piles');
  await other.click('button', 'Hand in “Cost of the piles”');
  await other.press('Letter');
  await other.click('option', /Letter of claim/u);
  await other.seesText('was handed in by Cha Ir');
  await browser.again();
  await browser.seesText('Letter of claim');
});

it('what is taken off comes back by undo, and what another changed meanwhile is not overwritten', async () => {
  await browser.click('button', 'More to do with 2 Harbour works');
  await browser.click('menuitem', 'Take off the agenda');
  await browser.seesText('is off the agenda, with what lies in it');
  expect(await titles()).toEqual(['Apologies', 'Close']);
  await browser.click('button', 'Undo');
  await browser.seesText('4 items');
  await browser.click('button', 'Change 3 Close');
  const close = (await sheet()).items.find(({ title }) => title === 'Close');
  if (!close) throw new Error('There is no such item');
  const { id: itemId, revision } = close;
  await changeItem(keeper, { itemId, ...plainItem, title: 'Date of the next meeting', revision });
  await browser.fill('Title', 'The end');
  await browser.press(Key.ENTER);
  await browser.seesText('Someone else changed this meanwhile.');
  expect(await titles()).toContain('Date of the next meeting');
  await browser.click('button', 'Cancel');
});

it('is filed as papers of the library, without what is confidential', async () => {
  await browser.click('button', 'File the agenda');
  await browser.seesText('It is being filed…');
  expect(await fileAgendas()).toBe(1);
  await browser.click('link', 'Agenda 12 Jan 2027');
  await browser.seesText(/Confidential item/u);
});
