import { By, Key } from 'selenium-webdriver';
import { eq } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { db } from '@/server/db/client';
import { document, invitation, library, place, version } from '@/server/db/schema';
import { disposePapers } from '@/server/disposal/dispose';
import { createFolder } from '@/server/places/create';
import { freshLibrary, furnished } from '../library';
import { type Browser } from './browser';
import { realFiles } from './papers';
import { type WebServer } from './server';
import { begin, end } from './stage';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let paper: string;
let server: WebServer;
let browser: Browser;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  paper = await fileBuffer(keeper, home.year.id, 'Letter.txt', Buffer.from('First\n'));
  await fileBuffer(keeper, home.year.id, 'Letter.txt', Buffer.from('Second\n'), 'version');
  const gone = await fileBuffer(keeper, home.year.id, 'Draft.txt', Buffer.from('A draft\n'));
  await disposePapers(keeper, { documentIds: [gone] });
  ({ server, browser } = await begin(keeper));
});

afterAll(() => end());

/** Goes from control to control with Tab, as one without a mouse does, until the wanted one has the focus. */
async function tabTo(name: string | RegExp): Promise<void> {
  for (let steps = 0; steps < 90; steps += 1) {
    const element = await browser.driver.switchTo().activeElement();
    const now = await element.getAccessibleName().catch(() => '');
    if (typeof name === 'string' ? now === name : name.test(now)) return;
    await browser.press(Key.TAB);
  }
  throw new Error(`Tab never came to ${String(name)}`);
}
const press = async (name: string | RegExp): Promise<void> => {
  await tabTo(name);
  await browser.press(Key.ENTER);
};
/** Opens a menu and goes down to one of its acts. */
async function choose(menu: string | RegExp, act: string): Promise<void> {
  await press(menu);
  await browser.get('menuitem', act);
  for (let steps = 0; steps < 60; steps += 1) {
    const element = await browser.driver.switchTo().activeElement();
    if ((await element.getAccessibleName().catch(() => '')) === act) break;
    // A page that comes to rest meanwhile may have had the focus for a moment: from the top again.
    await browser.press(steps % 25 === 24 ? Key.HOME : Key.ARROW_DOWN);
  }
  await browser.press(Key.ENTER);
}

it('makes a series with a pattern, and a dossier that takes the first reference from it', async () => {
  await browser.goTo(`${server.url}/desk`);
  await browser.get('heading', /desk$/u);
  await press('+ Series');
  await browser.get('dialog', 'New series');
  await browser.press('Suppliers', Key.TAB, 'S-###', Key.ENTER);
  await browser.get('heading', 'Suppliers');
  await choose('New', 'Dossier…');
  await browser.get('dialog', 'New dossier in Suppliers');
  await browser.until('the next reference', async () =>
    (await browser.get('textbox', 'Reference')).getAttribute('value').then((value) => value === 'S-001'),
  );
  await browser.press('Tern Timber', Key.ENTER);
  await browser.get('heading', 'Tern Timber');
  const [made] = await db().select({ reference: place.reference }).from(place).where(eq(place.name, 'Tern Timber'));
  expect(made?.reference).toBe('S-001');
});

it('renames it, marks it with a colour, and takes the colour off again', async () => {
  await choose('This place', 'Rename…');
  await browser.get('dialog', 'Rename “Tern Timber”');
  await browser.press('Tern Timber & Sons', Key.ENTER);
  await browser.get('heading', 'Tern Timber & Sons');
  const colour = async () =>
    (await db().select({ colour: place.colour }).from(place).where(eq(place.name, 'Tern Timber & Sons')))[0]?.colour;
  await choose('This place', 'Colour mark…');
  await press(/^heather$/iu);
  await browser.until('the colour', async () => (await colour()) === 'heather');
  await browser.until('the dialogue to be gone', async () => (await browser.all('dialog', /./u)).length === 0);
  await choose('This place', 'Colour mark…');
  await press('No mark');
  await browser.until('no colour', async () => (await colour()) === null);
  await browser.until('the dialogue to be gone', async () => (await browser.all('dialog', /./u)).length === 0);
});

it('files a paper with a title and a remark of its own', async () => {
  const files = await realFiles(['Price list.docx']);
  await press('File papers');
  await browser.seesText('Drop files or folders here');
  await tabTo('Choose files…');
  // The computer's own dialogue is no part of the page: the file is chosen as that would choose it.
  await browser.driver
    .findElement(By.css('input[type=file][aria-label="Files from this computer"]'))
    .sendKeys(...files.values());
  await tabTo('Title of Price list.docx');
  await browser.chord(Key.CONTROL, 'a');
  await browser.press('Prices for 2027');
  await tabTo('Remark on these papers');
  await browser.press('From their letter');
  await press(/^File 1 paper in Tern Timber & Sons/u);
  await browser.seesText('1 of 1 paper filed');
  const [filed] = await db()
    .select({ remark: document.remark })
    .from(document)
    .where(eq(document.title, 'Prices for 2027'));
  expect(filed?.remark).toBe('From their letter');
  await press('Done');
});

it('filters what is shown, and shows all again', async () => {
  await browser.goTo(`${server.url}/place/${home.year.id}`);
  await browser.seesText('Letter');
  await tabTo('Filter');
  await browser.press('nothing like it');
  await browser.seesText('No papers match');
  await press('Show all');
  await browser.seesText('Letter');
});

it('writes a remark, and brings an older version back', async () => {
  await browser.goTo(`${server.url}/place/${home.year.id}?paper=${paper}`);
  await browser.seesText('Write a remark');
  await press('Write a remark');
  await browser.press('Looked through');
  await press('Keep the remark');
  await browser.until(
    'the remark',
    async () =>
      (await db().select({ remark: document.remark }).from(document).where(eq(document.id, paper)))[0]?.remark ===
      'Looked through',
  );
  // The docket has to know of the remark before it can be changed further.
  await browser.seesText('changed the remark');
  await press('Restore version 1');
  await browser.until(
    'the third version',
    async () => (await db().select().from(version).where(eq(version.documentId, paper))).length === 3,
  );
});

it('puts a paper back from the disposal tray', async () => {
  await browser.goTo(`${server.url}/tray`);
  await browser.seesText('Draft');
  await press('Put back Draft');
  await browser.until(
    'it to be back',
    async () =>
      (await db().select({ at: document.disposedAt }).from(document).where(eq(document.title, 'Draft')))[0]?.at ===
      null,
  );
});

it('invites someone, and makes a group', async () => {
  await browser.goTo(`${server.url}/people`);
  await browser.get('heading', 'People and groups');
  await press('Invite someone');
  await browser.get('dialog', /^Invite/u);
  await browser.press('Nora Newcomer', Key.TAB, 'nora@test.example', Key.ENTER);
  await browser.until('the invitation', async () =>
    (await db().select().from(invitation)).some((each) => each.email === 'nora@test.example'),
  );
  await press('Done');
  await press('New group');
  await browser.get('dialog', 'New group');
  await browser.press('Commissioners', Key.ENTER);
  await browser.seesText('Commissioners');
});

it('changes the library’s settings', async () => {
  await browser.goTo(`${server.url}/settings`);
  await browser.get('heading', 'Library settings');
  await tabTo('Name of the library');
  await browser.chord(Key.CONTROL, 'a');
  await browser.press('Test Harbour');
  await press('Save the settings');
  await browser.until(
    'the new name',
    async () => (await db().select({ name: library.name }).from(library))[0]?.name === 'Test Harbour',
  );
});

it('defines a column and sets it in the docket', async () => {
  await browser.goTo(`${server.url}/columns/${home.series.id}`);
  await press('New column');
  await browser.get('dialog', /^New column/u);
  await tabTo('Author');
  await browser.press(Key.ENTER);
  await tabTo(/^Make the column/u);
  await browser.press(Key.ENTER);
  await browser.seesText('Who wrote it, inside or outside.');
  await browser.goTo(`${server.url}/place/${home.year.id}?paper=${paper}`);
  await browser.get('textbox', 'Author');
  await tabTo('Author');
  await browser.press('Petra', Key.ENTER);
  await browser.seesText('Author set on 1 paper');
  const [row] = await db().select({ shown: document.shownValues }).from(document).where(eq(document.id, paper));
  expect(Object.values(row?.shown ?? {})).toEqual(['Petra']);
});

it('puts a label on a paper from the panel', async () => {
  await press('Put a label on it');
  await browser.seesText('on 1 paper');
  await browser.press('For approval', Key.ENTER);
  await browser.seesText('“For approval” put on 1 paper');
  await browser.press(Key.ESCAPE);
  await browser.until('the panel to be gone', async () => (await browser.all('region', 'Labels')).length === 0);
});

it('moves a place into another, and removes one that is empty', async () => {
  const box = await createFolder(keeper, { parentId: home.dossier.id, name: 'Box' });
  const shelf = await createFolder(keeper, { parentId: home.dossier.id, name: 'Shelf' });
  await browser.goTo(`${server.url}/place/${box.id}`);
  await browser.get('heading', 'Box');
  await choose('This place', 'Move…');
  await browser.get('dialog', 'Move “Box”');
  await browser.press('shelf');
  await browser.until('the shelf', async () => (await browser.all('option', /Shelf/u))[0] ?? null);
  await browser.press(Key.ENTER);
  await press(/^Move it to Shelf/u);
  const parent = async () => (await db().select({ id: place.parentId }).from(place).where(eq(place.id, box.id)))[0]?.id;
  await browser.until('it to lie there', async () => (await parent()) === shelf.id);
  await browser.until('the dialogue to be gone', async () => (await browser.all('dialog', /./u)).length === 0);
  await choose('This place', 'Remove, if empty…');
  await press('Remove it');
  await browser.until('it to be gone', async () => (await parent()) === undefined);
});

it('reaches the copy of a paper', async () => {
  await browser.goTo(`${server.url}/place/${home.year.id}?paper=${paper}`);
  await browser.seesText('Download');
  await tabTo('Download');
});

it('signs out', async () => {
  await choose(/my account$/u, 'Sign out');
  await browser.get('button', 'Sign in');
  expect(await browser.path()).toBe('/sign-in');
});
