import { By, Key } from 'selenium-webdriver';
import type { Actor } from '@/server/gate/actor';
import { createFolder } from '@/server/places/create';
import { fileBuffer } from '@/demo/file';
import { readPaper } from '../reading';
import { freshLibrary, furnished, newcomer, passwords } from '../library';
import { type Browser } from './browser';
import { type WebServer } from './server';
import { begin, end } from './stage';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let server: WebServer;
let browser: Browser;

beforeAll(async () => {
  keeper = await freshLibrary();
  await newcomer(keeper, 'Colin League');
  home = await furnished(keeper);
  for (const name of ['Agenda', 'Letter', 'Minutes'])
    await readPaper(await fileBuffer(keeper, home.year.id, `${name}.txt`, Buffer.from(`${name} of the meeting\n`)));
  await createFolder(keeper, { parentId: home.dossier.id, name: 'Archive' });
  ({ server, browser } = await begin());
});

afterAll(() => end());

/** The name of what has the focus, or of the active line of a grid. */
async function focused(): Promise<string> {
  const element = await browser.driver.switchTo().activeElement();
  return element.getAccessibleName();
}

/** Goes from control to control with Tab until the wanted one has the focus. */
async function tabTo(name: string | RegExp): Promise<void> {
  for (let steps = 0; steps < 90; steps += 1) {
    const now = await focused().catch(() => '');
    if (typeof name === 'string' ? now === name : name.test(now)) return;
    await browser.press(Key.TAB);
  }
  throw new Error(`Tab never came to ${String(name)}`);
}

const titles = async (): Promise<string[]> => {
  const [_headings, ...rows] = await browser.all('row', /./u);
  return Promise.all(rows.map(async (row) => (await row.getText()).split('\n')[0] ?? ''));
};

it('signs in, finds a place and goes there', async () => {
  await browser.goTo(`${server.url}/sign-in`);
  await tabTo('E-mail address');
  await browser.press(keeper.email, Key.TAB, passwords.keeper, Key.ENTER);
  await browser.get('heading', /desk$/u);
  await browser.press('/');
  await browser.press('finance');
  await browser.until('the dossier to be found', async () => (await browser.all('option', /Finance/u))[0] ?? null);
  await browser.press(Key.ARROW_DOWN, Key.ENTER);
  await browser.get('heading', 'Finance');
});

it('goes to a filing year, sorts, opens a paper to read it, and steps back with Esc', async () => {
  await tabTo(/^20\d\d–\d\d$/u);
  await browser.press(Key.ENTER);
  await browser.get('heading', /^20\d\d–\d\d$/u);
  await tabTo(/^Sort by title/u);
  await browser.press(Key.ENTER);
  await browser.until('the other way round', async () => (await titles())[0] === 'Minutes');
  await tabTo(/^Papers in/u);
  await browser.press(Key.HOME, Key.ENTER);
  await browser.seesText('Minutes of the meeting');
  await browser.press(Key.ESCAPE);
  await browser.until('the ledger again', async () => (await browser.path()) === `/place/${home.year.id}`);
});

it('gives access on the sheet', async () => {
  await tabTo('This place');
  await browser.press(Key.ENTER);
  await browser.get('menuitem', 'Who can open it…');
  // The first letters of an entry lead to it, however long the menu is.
  await browser.press('Who');
  await browser.until('the entry', async () => /Who can open/u.test(await focused()));
  await browser.press(Key.ENTER);
  await browser.seesText('Keepers manage all');
  await tabTo(/^Add a person/u);
  await browser.press('colin');
  await browser.until('the colleague', async () => (await browser.all('option', /Colin/u))[0] ?? null);
  await browser.press(Key.ENTER);
  await browser.seesText('Colin League will see');
  await tabTo('Save for 1 person');
  await browser.press(Key.ENTER);
  await browser.seesText('Open to 2 people');
});

const grid = async () => browser.driver.findElement(By.css('[role=grid]'));
const there = async (title: string): Promise<boolean> => (await titles()).includes(title);

it('renames a paper with F2, and leaves it with Esc', async () => {
  await (await grid()).sendKeys(Key.HOME, Key.F2);
  await browser.get('textbox', 'Title');
  await browser.press('Never kept', Key.ESCAPE);
  await browser.until('the old title', async () => there('Minutes'));
  await (await grid()).sendKeys(Key.HOME, Key.F2);
  await browser.get('textbox', 'Title');
  await browser.press('Minutes of May', Key.ENTER);
  await browser.until('the new title', async () => there('Minutes of May'));
});

it('picks up one, a run and all, and puts them down', async () => {
  await (await grid()).sendKeys(Key.HOME, ' ');
  await browser.seesText('1 paper in hand');
  await (await grid()).sendKeys(Key.chord(Key.SHIFT, Key.ARROW_DOWN));
  await browser.seesText('2 papers in hand');
  await (await grid()).sendKeys(Key.chord(Key.CONTROL, 'a'));
  await browser.seesText('3 papers in hand');
  await tabTo('Put down');
  await browser.press(Key.ENTER);
  await browser.seesText('Nothing in hand');
});

it('disposes of a paper, and puts it back from the notice', async () => {
  await (await grid()).sendKeys(Key.HOME, Key.DELETE);
  await browser.until('it to be gone', async () => !(await there('Minutes of May')));
  await tabTo('Undo');
  await browser.press(Key.ENTER);
  await browser.until('it to be back', async () => there('Minutes of May'));
});

it('moves a paper into a folder, told first who gains and loses by it', async () => {
  await (await grid()).sendKeys(Key.END, ' ');
  await tabTo('Move…');
  await browser.press(Key.ENTER);
  await browser.get('dialog', /^Move/u);
  await browser.press('archive');
  await browser.until('the folder', async () => (await browser.all('option', /Archive/u))[0] ?? null);
  await browser.press(Key.ENTER);
  await browser.seesText('1 paper would move');
  await tabTo(/^Move it to Finance, Archive/u);
  await browser.press(Key.ENTER);
  await browser.until('it to be gone', async () => !(await there('Agenda')));
});

it('makes a folder, puts it in another order, and steps into it', async () => {
  await tabTo('New');
  await browser.press(Key.ENTER);
  await browser.get('menuitem', 'Folder…');
  await browser.press(Key.ENTER);
  await browser.get('dialog', /^New folder/u);
  await browser.press('Zebra', Key.ENTER);
  await browser.until('the folder', async () => (await browser.all('link', /Zebra/u))[0] ?? null);
  await tabTo('New');
  await browser.press(Key.ENTER);
  await browser.get('menuitem', 'Folder…');
  await browser.press(Key.ENTER);
  await browser.get('dialog', /^New folder/u);
  await browser.press('Yak', Key.ENTER);
  await browser.until('the folder', async () => (await browser.all('link', /Yak/u))[0] ?? null);
  await tabTo(/^Yak/u);
  await browser.chord(Key.ALT, Key.ARROW_UP);
  const names = async () => {
    const nav = await browser.get('region', 'Where');
    return (await nav.getText()).split('\n').filter((line) => /^(?:Yak|Zebra)$/u.test(line));
  };
  await browser.until('the other order', async () => (await names()).join() === 'Yak,Zebra');
});

it('changes who is shown what: rows, colours, the account, signing out', async () => {
  await tabTo(/my account$/u);
  await browser.press(Key.ENTER);
  await browser.get('menuitem', 'My account');
  await browser.press(Key.ENTER);
  await browser.seesText('Sign out everywhere');
  await browser.goTo(`${server.url}/place/${home.year.id}`);
  await browser.get('heading', /20\d\d–\d\d/u);
});

it('lists the keys', async () => {
  await browser.press('?');
  await browser.get('dialog', 'Keys');
  await browser.press(Key.ESCAPE);
  await browser.until('the list to be gone', async () => (await browser.all('dialog', 'Keys')).length === 0);
});
