import { Key } from 'selenium-webdriver';
import { fileBuffer } from '@/demo/file';
import { disposedPapers } from '@/server/disposal/list';
import { docketOf } from '@/server/documents/docket';
import { makeNextExport } from '@/server/exports/make';
import type { Actor } from '@/server/gate/actor';
import { pickUp, putDown } from '@/server/hand/hand';
import { createFolder } from '@/server/places/create';
import { setLock } from '@/server/standstill/standstill';
import { freshLibrary, furnished, newcomer, open, passwords } from '../library';
import { Browser } from './browser';
import { begin, end } from './stage';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let keeper: Actor;
let reader: Actor;
let yearId: string;
const papers = new Map<string, string>();

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  await newcomer(keeper, 'No Body');
  const home = await furnished(keeper);
  yearId = home.year.id;
  await open(keeper, home.series.id, reader, 'reader');
  for (const name of ['Agenda', 'Budget', 'Chart', 'Draft', 'Estimate'])
    papers.set(name, await fileBuffer(keeper, yearId, `${name}.txt`, Buffer.from(`${name} of the year`)));
  for (const name of ['North', 'South']) await createFolder(keeper, { parentId: yearId, name });
  ({ server, browser } = await begin(keeper));
});
afterAll(() => end());

const id = (name: string): string => papers.get(name) ?? '';
async function hold(...names: string[]): Promise<void> {
  await putDown(keeper, { documentIds: null });
  await pickUp(keeper, { documentIds: names.map(id) });
  await browser.goTo(`${server.url}/place/${yearId}`);
  await browser.seesText(`${names.length} paper${names.length === 1 ? '' : 's'} in hand`);
}
async function choosePlace(words: string): Promise<void> {
  await browser.fill(/Where/u, words);
  await browser.settled();
  await browser.press(Key.ENTER);
}

describe('what is in hand', () => {
  it('is copied into several places in one act, and that is undone in one', async () => {
    await hold('Agenda', 'Budget');
    await browser.click('button', 'Copy…');
    await choosePlace('north');
    await browser.click('button', 'Another place as well…');
    await choosePlace('south');
    await browser.click('button', 'Make 4 copies in 2 places');
    await browser.seesText('2 papers copied to 2 places');
    await browser.click('button', 'Undo');
    const all = { words: '', order: 'newest', most: 10 } as const;
    await browser.driver.wait(async () => (await disposedPapers(keeper, all)).total === 4, 10_000);
    await browser.goTo(`${server.url}/tray`);
    await browser.seesText('4 papers');
  });

  it('is moved by going down from place to place, into a folder made on the way', async () => {
    await hold('Draft');
    await browser.click('button', 'Move…');
    await browser.get('option', /Committees/u);
    await browser.fill(/Where/u, 'committees');
    // What stands there before the answer is not gone into: the key is pressed until it is.
    const inside = (way: string, ...keys: string[]) =>
      browser.until(`the places in ${way}`, async () => {
        await browser.press(...keys);
        return (await browser.text()).includes(`In ${way}\n`);
      });
    await inside('Committees', Key.ARROW_RIGHT);
    await inside('Committees / Finance', Key.ARROW_DOWN, Key.ARROW_RIGHT);
    await inside('Committees', Key.ARROW_LEFT);
    // What stood there while an answer was awaited is gone.
    await browser.until(
      'the one line of the place itself',
      async () => (await browser.all('option', /^Here: /u)).length === 1,
    );
    await browser.until('the folder to be made in Finance', async () => {
      await browser.press(Key.ARROW_DOWN);
      return (await browser.all('button', 'New folder in Finance…'))[0] ?? null;
    });
    await browser.click('button', 'New folder in Finance…');
    await browser.fill('Name of the new folder in Finance', 'West');
    await browser.press(Key.ENTER);
    await browser.seesText('To Finance, West');
    await browser.click('button', /^Move/u);
    const isInWest = async () => (await docketOf(keeper, { documentId: id('Draft') })).homePath.at(-1)?.name === 'West';
    await browser.driver.wait(isInWest, 10_000);
    await browser.click('button', 'Undo');
    await browser.driver.wait(async () => !(await isInWest()), 10_000);
  });

  it('is filed in several places as well, and taken out of them again', async () => {
    await hold('Chart');
    await browser.click('button', 'File elsewhere as well…');
    await choosePlace('north');
    await browser.click('button', 'Another place as well…');
    await choosePlace('south');
    await browser.click('button', 'File it in 2 places as well');
    await browser.seesText('filed in 2 places as well');
    expect((await docketOf(keeper, { documentId: id('Chart') })).filings).toHaveLength(2);
    await browser.click('button', 'Undo');
    await browser.driver.wait(
      async () => (await docketOf(keeper, { documentId: id('Chart') })).filings.length === 0,
      10_000,
    );
  });

  it('is locked together, and what cannot be moved is said before the rest is', async () => {
    await hold('Agenda', 'Budget');
    await browser.click('button', 'Lock…');
    await browser.click('button', 'Lock 2 papers');
    await browser.seesText('2 papers are locked');
    await hold('Agenda', 'Chart');
    await browser.click('button', 'Move…');
    await browser.seesText('1 paper of 2 will stay as it is.');
    await browser.seesText('1 locked, or in a locked place');
    await choosePlace('north');
    await browser.click('button', /^Move it to/u);
    await browser.seesText(/“Chart” moved to/u);
    // What was not moved stays in hand.
    await browser.seesText('1 paper in hand');
    await browser.click('button', 'Undo');
    await browser.driver.wait(
      async () => (await docketOf(keeper, { documentId: id('Chart') })).homeId === yearId,
      10_000,
    );
    await setLock(keeper, { documentIds: [id('Agenda'), id('Budget')], locked: false });
  });
});

describe('the disposal tray', () => {
  it('is filtered, put back from, and asks for the number before several are destroyed', async () => {
    await hold('Draft', 'Estimate');
    await browser.click('button', 'Dispose of…');
    await browser.click('button', 'Put 2 papers into the tray');
    await browser.seesText('2 papers put into the disposal tray');
    await browser.goTo(`${server.url}/tray`);
    await browser.seesText('6 papers');
    await browser.fill('Show only those with these words', 'estimate');
    await browser.seesText('1 paper');
    await browser.click('button', 'Put back Estimate');
    await browser.seesText('“Estimate” is back in place');
    await browser.fill('Show only those with these words', '');
    await browser.seesText('5 papers');
    await browser.click('checkbox', 'Choose Draft');
    await browser.click('button', 'Put elsewhere…');
    await choosePlace('south');
    await browser.seesText(/“Draft” put into/u);
    await browser.seesText('4 papers');
    await browser.click('checkbox', 'Choose all shown');
    await browser.click('button', 'Destroy…');
    const [destroy] = await browser.all('button', 'Destroy 4 papers');
    expect(await destroy?.isEnabled()).toBe(false);
    await browser.fill('Type 4 to go on', '4');
    await browser.click('button', 'Destroy 4 papers');
    await browser.seesText('4 papers destroyed');
    await browser.seesText('The tray is empty.');
  });
});

describe('the desk', () => {
  it('has what was bookmarked with one key, and is arranged for good', async () => {
    await browser.goTo(`${server.url}/place/${yearId}`);
    await browser.settled();
    await browser.chord(Key.ALT, 'b');
    await browser.seesText('is on your desk');
    await browser.goTo(`${server.url}/place/${yearId}?paper=${id('Chart')}`);
    await browser.showDocket();
    await browser.settled();
    await browser.chord(Key.ALT, 'b');
    await browser.seesText('“Chart” is on your desk');
    await browser.goTo(`${server.url}/desk`);
    const marks = await browser.get('region', 'Bookmarks');
    await browser.driver.wait(async () => /2\d\d\d–\d\d[\s\S]*Chart/u.test(await marks.getText()), 10_000);
    await browser.click('button', 'Order');
    await browser.click('button', 'Move Chart up');
    await browser.driver.wait(async () => /Chart[\s\S]*2\d\d\d–\d\d/u.test(await marks.getText()), 10_000);
    await browser.click('button', 'Arrange…');
    await browser.click('checkbox', 'Changed lately');
    await browser.settled();
    await browser.click('button', 'Done', await browser.get('dialog', 'Arrange the desk'));
    await browser.goTo(`${server.url}/desk`);
    await browser.get('region', 'Bookmarks');
    expect(await browser.all('region', 'Changed lately')).toEqual([]);
    await browser.seesText('No backup of the library has been made yet');
  });

  it('says in one line what was filed together, and whom to ask where nothing is open', async () => {
    const other = await Browser.open();
    try {
      await other.signIn(server.url, reader.email, passwords.others);
      await other.goTo(`${server.url}/desk`);
      await other.seesText(/\d papers filed in Finance/u);
    } finally {
      await other.close();
    }
    const nobody = await Browser.open();
    try {
      await nobody.signIn(server.url, 'no.body@test.example', passwords.others);
      await nobody.goTo(`${server.url}/desk`);
      await nobody.seesText('Nothing is open to you yet');
      await nobody.seesText(keeper.email);
    } finally {
      await nobody.close();
    }
  });
});

describe('across dossiers', () => {
  it('counts what is ticked, and disposes of it once its number is typed', async () => {
    await browser.goTo(`${server.url}/across`);
    await browser.click('button', 'Open Committees');
    await browser.click('checkbox', /Finance/u);
    await browser.seesText(/5 papers ·/u);
    await browser.click('button', /^Open .*Finance/u);
    await browser.click('checkbox', /2\d\d\d–\d\d/u);
    await browser.seesText(/0 papers ·/u);
    await browser.click('checkbox', /2\d\d\d–\d\d/u);
    await browser.seesText(/5 papers ·/u);
    await browser.click('button', 'Dispose of…');
    await browser.fill('Type 5 to go on', '5');
    await browser.click('button', 'Put into the disposal tray');
    await browser.seesText('5 papers put into the disposal tray');
    await browser.goTo(`${server.url}/tray`);
    await browser.click('checkbox', 'Choose all shown');
    await browser.click('button', 'Put 5 papers back');
    await browser.seesText('The tray is empty.');
  });
});

describe('keeping watch', () => {
  it('finds in the journal by words and kind, and leads from health to what it found', async () => {
    await browser.goTo(`${server.url}/journal`);
    await browser.fill('Words in the journal', 'destroyed');
    await browser.seesText('destroyed 4 papers that lay in the disposal tray');
    await browser.goTo(`${server.url}/health`);
    await browser.click('button', /People to whom nothing is open/u);
    await browser.get('link', 'No Body');
    await browser.goTo(`${server.url}/backups`);
    await browser.seesText('No backup of this library has been made yet.');
  });
});

describe('on a phone', () => {
  it('the desk is read, and what is in hand is exported', async () => {
    await browser.resize({ width: 390, height: 844 });
    await hold('Agenda');
    await browser.goTo(`${server.url}/desk`);
    await browser.get('region', 'Bookmarks');
    const wide = await browser.driver.executeScript('return document.documentElement.scrollWidth');
    expect(wide).toBeLessThanOrEqual(390);
    await browser.click('button', 'What to do with them');
    await browser.click('menuitem', 'Export…');
    const dialog = await browser.get('dialog', 'Export what is in hand');
    await browser.click('button', 'Export', dialog);
    while (!(await makeNextExport()));
    await browser.get('link', 'Download', dialog);
  });
});
