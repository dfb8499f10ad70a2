import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Key } from 'selenium-webdriver';
import * as Y from 'yjs';
import { fileBuffer } from '@/demo/file';
import { makers } from '@/demo/papers';
import type { Actor } from '@/server/gate/actor';
import { docketOf } from '@/server/documents/docket';
import { beginNote, writeNote } from '@/server/notes/write';
import { restoreVersion } from '@/server/documents/amend';
import { freshLibrary, furnished, newcomer, open } from '../library';
import { readPaper } from '../reading';
import type { Browser } from './browser';
import { begin, end } from './stage';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let keeper: Actor;
let colleague: Actor;
let placeId: string;
let folder: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  colleague = await newcomer(keeper, 'Col League');
  const { series, year } = await furnished(keeper);
  placeId = year.id;
  await open(keeper, series.id, colleague, 'officer');
  folder = await mkdtemp(path.join(tmpdir(), 'embrin-notes-'));
  ({ server, browser } = await begin(keeper));
});
afterAll(async () => {
  await rm(folder, { recursive: true, force: true });
  await end();
});

/** The paper whose page is open. */
const paperOpen = async (): Promise<string> => (await browser.path()).split('/')[2] ?? '';

/** Has someone else write a paragraph at the end of a note, from another computer. */
async function alsoWrites(actor: Actor, documentId: string, words: string): Promise<void> {
  const state = await beginNote(actor, { documentId });
  const text = new Y.Doc();
  for (const { change } of state.changes) Y.applyUpdate(text, Buffer.from(change, 'base64'));
  const changes: string[] = [];
  text.on('update', (update: Uint8Array) => changes.push(Buffer.from(update).toString('base64')));
  const paragraph = new Y.XmlElement('paragraph');
  paragraph.insert(0, [new Y.XmlText(words)]);
  text.getXmlFragment('text').push([paragraph]);
  await writeNote(actor, { documentId, round: state.round, after: state.number, changes });
}

it('writes a note from a ready-made start with a colleague, keeps every word, and makes a version of it', async () => {
  await browser.goTo(`${server.url}/place/${placeId}`);
  await browser.settled();
  await browser.click('button', 'New');
  await browser.click('menuitem', 'Note…');
  await browser.fill('Title', 'Agenda for May');
  await browser.click('radio', 'Agenda');
  await browser.click('button', 'Write it');
  await browser.seesText('Apologies for absence');
  await browser.get('textbox', 'The text of Agenda for May');
  const documentId = await paperOpen();
  await browser.press(' and the new slip');
  await browser.seesText('All is kept');
  await alsoWrites(colleague, documentId, 'The colleague was here too.');
  await browser.seesText('The colleague was here too.');
  await browser.seesText('Also writing: Col League');
  // Closed without a word, and opened again.
  await browser.goTo(`${server.url}/paper/${documentId}/write`);
  await browser.seesText('and the new slip');
  await browser.seesText('The colleague was here too.');
  await browser.click('button', 'Done');
  await browser.seesText('Kept as version 2');
  await readPaper(documentId);
  expect((await docketOf(keeper, { documentId })).versions).toHaveLength(2);
});

it('says when a note got another version meanwhile, and keeps what was typed in sight', async () => {
  await browser.goTo(`${server.url}/place/${placeId}`);
  await browser.settled();
  await browser.click('button', 'New');
  await browser.click('menuitem', 'Note…');
  await browser.fill('Title', 'Overtaken');
  await browser.click('button', 'Write it');
  await browser.get('textbox', 'The text of Overtaken');
  const documentId = await paperOpen();
  await browser.press('First thoughts');
  await browser.seesText('All is kept');
  await browser.click('button', 'Done');
  await browser.seesText('Kept as version 2');
  await browser.goTo(`${server.url}/paper/${documentId}/write`);
  await browser.seesText('First thoughts');
  const { revision } = await docketOf(keeper, { documentId });
  await restoreVersion(keeper, { documentId, number: 1, revision });
  await browser.seesText('has got another version meanwhile');
  await browser.seesText('First thoughts');
  await browser.click('button', 'Open the new version');
  await browser.until('the restored text', async () => !(await browser.text()).includes('First thoughts'));
});

it('opens a Word paper as a note, having said what it cannot keep', async () => {
  const draft = {
    title: 'Letter',
    subtitle: 'Works',
    written: new Date('2026-07-14T00:00:00Z'),
    author: 'Kea Keeper',
    paragraphs: ['The lay is closed from Monday.'],
    figures: [],
  };
  const content = (await makers['docx']?.(draft)) ?? Buffer.alloc(0);
  const documentId = await fileBuffer(keeper, placeId, 'Letter.docx', content);
  await browser.goTo(`${server.url}/place/${placeId}?paper=${documentId}`);
  await browser.click('button', 'More to do with this paper');
  await browser.click('menuitem', 'Open as a note…');
  await browser.seesText('The next version of this paper');
  await browser.click('button', 'Open as a note');
  await browser.seesText('The lay is closed from Monday.');
  expect(await browser.path()).toBe(`/paper/${documentId}/write`);
});

it('takes a file dropped on a paper as its next version, with a remark', async () => {
  const documentId = await fileBuffer(keeper, placeId, 'Fees.txt', Buffer.from('The old fees'));
  const file = path.join(folder, 'anything.txt');
  await writeFile(file, 'The new fees');
  await browser.goTo(`${server.url}/place/${placeId}?paper=${documentId}`);
  await browser.settled();
  await browser.dropFiles(await browser.get('row', /Fees/u), [file]);
  await browser.seesText('New version of Fees');
  await browser.fill('Remark on this version', 'As agreed in May');
  await browser.click('button', 'File as the new version');
  await browser.until('the second version', async () => {
    const { versions } = await docketOf(keeper, { documentId });
    return versions[0]?.number === 2 && versions[0].remark === 'As agreed in May';
  });
  await browser.seesText('As agreed in May');
  await browser.press(Key.ESCAPE);
});

it('says of a paper that another one is much like it', async () => {
  const text =
    'The committee met on the quay and agreed that the fender piles at the ferry stage are to be lifted, '.repeat(4);
  const first = await fileBuffer(keeper, placeId, 'First minutes.txt', Buffer.from(`${text} before the season.`));
  const second = await fileBuffer(keeper, placeId, 'Second minutes.txt', Buffer.from(`${text} before the winter.`));
  await readPaper(first);
  await readPaper(second);
  await browser.goTo(`${server.url}/place/${placeId}?paper=${second}`);
  await browser.seesText(/much like it/iu);
  await browser.seesText('% alike');
  await browser.click('link', 'First minutes');
  await browser.until('the other paper', async () => (await browser.path()) === `/paper/${first}`);
});
