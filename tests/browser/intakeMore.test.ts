import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import { Key } from 'selenium-webdriver';
import MailComposer from 'nodemailer/lib/mail-composer';
import { writableDb } from '@/server/db/client';
import { wayIn } from '@/server/db/schema';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { cutNext } from '@/server/intake/cut';
import { fileNextByRule } from '@/server/intake/fileByRule';
import { keepMail } from '@/server/intake/keep';
import { lookAtWaysIn } from '@/server/intake/ways/look';
import { oneMoreLook } from '@/server/intake/ways/model';
import { standInUser, StandInStore } from '../../worker/store';
import { arrivalsFolder, readArrivals } from '../arrivals';
import { freePort } from '../dovecot';
import { freshLibrary, furnished, newcomer, passwords } from '../library';
import { placeOn, say } from '../sheets';
import type { Browser } from './browser';
import type { WebServer } from './server';
import { anotherBrowser, begin, end } from './stage';

let server: WebServer;
let browser: Browser;
let other: Browser;
let keeper: Actor;
let folder: string;
let remove: () => Promise<void>;

beforeAll(async () => {
  ({ folder, remove } = await arrivalsFolder());
  keeper = await freshLibrary();
  const clerk = await newcomer(keeper, 'Cle Rk');
  const { series } = await furnished(keeper, 'Suppliers');
  const { id } = await createDossier(keeper, { seriesId: series.id, name: 'Lantern Dredging', reference: 'S-017' });
  await say(keeper, placeOn(id), [{ who: clerk, gives: ['see', 'take', 'add', 'amend'] }], false);
  ({ server, browser } = await begin(keeper));
  other = await anotherBrowser();
  await other.signIn(server.url, clerk.email, passwords.others);
});
afterAll(async () => {
  await end();
  await remove();
});

let sent = 0;
async function comes(subject: string, from = 'billing@lantern.example'): Promise<void> {
  const messageId = `<${(sent += 1)}@lantern.example>`;
  const raw = await new MailComposer({ from, to: 'x@library.example', subject, text: 'For S-017.', messageId })
    .compile()
    .build();
  await keepMail(raw, {
    from: /<(?<address>[^>]+)>/u.exec(from)?.groups?.['address'] ?? from,
    to: ['x@library.example'],
  });
  await readArrivals();
}
async function looks(): Promise<void> {
  for (let look = 0; look < 2; look += 1) {
    await writableDb().update(wayIn).set({ looksWanted: oneMoreLook });
    await lookAtWaysIn();
  }
  await readArrivals();
}

it('a keeper sets up the folder of a scanner, and is told of a name that is none', async () => {
  await browser.goTo(`${server.url}/intake?show=ways`);
  await browser.click('button', 'New way in…');
  await browser.fill('Name', 'Scanner in the corridor');
  await browser.fill('Folder', '../scanner');
  await browser.click('button', 'Keep');
  await browser.seesText(/no slash/u);
  await browser.fill('Folder', 'scanner');
  await browser.click('button', 'Keep');
  await browser.seesText('It is looked at for the first time…');
  await looks();
  await browser.seesText(/Looked at .*: all is taken\./u);
});

it('a scan is taken apart over its small pages, and each of its papers waits', async () => {
  const pdf = await PDFDocument.create();
  for (const words of ['Delivery note, S-017', 'Its second page', 'An insurance'])
    pdf.addPage().drawText(words, { x: 60, y: 700 });
  await mkdir(path.join(folder, 'scanner'), { recursive: true });
  await writeFile(path.join(folder, 'scanner', 'Scan0001.pdf'), await pdf.save());
  await looks();
  await browser.goTo(`${server.url}/intake`);
  await browser.seesText('Scan0001.pdf');
  await browser.click('button', 'Otherwise');
  await browser.click('menuitem', 'Pages…');
  await browser.seesText('Page 3, paper 1');
  await browser.click('button', 'Make 1 paper of it');
  await browser.seesText(/Nothing is changed/u);
  await browser.click('button', 'Turn page 2');
  await browser.click('button', 'New paper from page 3');
  await browser.seesText('Page 3, paper 2');
  await browser.click('button', 'Make 2 papers of it');
  await browser.seesText('The scan becomes 2 papers.');
  while (await cutNext());
  await readArrivals();
  await browser.seesText('Scan0001 1.pdf');
  await browser.seesText('Scan0001 2.pdf');
  await browser.goTo(`${server.url}/intake?show=done`);
  await browser.seesText(/Taken apart into 2 papers/u);
});

it('many alike are looked at and filed together, and undone in one act', async () => {
  for (const number of [1, 2, 3]) await comes(`Statement ${number}`);
  await other.goTo(`${server.url}/intake`);
  await other.click('button', /Statement 1/u);
  await other.click('button', '2 more like this wait: look at them together…');
  await other.seesText('Each would be filed as it is proposed here.');
  await other.click('checkbox', /Statement 2/u);
  await other.click('button', 'File 2 arrivals');
  await other.seesText('2 arrivals filed');
  await other.click('button', 'Undo');
  await other.until('all three to wait again', async () => (await other.text()).includes('Statement 3'));
});

it('somebody is asked, sees it at once, and answers', async () => {
  await comes('Whose is it', 'someone@elsewhere.example');
  await browser.goTo(`${server.url}/intake`);
  await browser.click('button', /Whose is it/u);
  await browser.click('button', 'Otherwise');
  await browser.click('menuitem', 'Ask somebody…');
  await browser.click('button', 'Whom');
  await browser.press('cle');
  await browser.until('the person', async () => (await browser.all('option', /Cle Rk/u))[0] ?? null);
  await browser.press(Key.ENTER);
  await browser.fill('What you want to know', 'Is this yours?');
  await browser.click('button', 'Ask');
  await browser.seesText('Cle Rk is asked.');
  await other.goTo(`${server.url}/intake`);
  await other.click('button', /Whose is it/u);
  await other.seesText('Is this yours?');
  await other.seesText('You are asked: file it, or answer by asking back.');
});

it('what rules file by themselves is listed, and taken back at once', async () => {
  await browser.goTo(`${server.url}/intake?show=rules`);
  await browser.click('button', 'New rule…');
  await browser.fill('Name', 'Rope');
  await browser.fill('Condition 1', 'rope.example');
  await browser.click('button', 'Choose a place…');
  await browser.press('lantern');
  await browser.until('the place', async () => (await browser.all('option', /Lantern Dredging/u))[0] ?? null);
  await browser.press(Key.ENTER);
  await browser.click('checkbox', 'It files by itself, without a person');
  await browser.click('button', 'Keep the rule');
  await browser.seesText('It files by itself what is at least 90 % sure.');
  await comes('Rope by itself', 'bills@rope.example');
  while (await fileNextByRule());
  await browser.goTo(`${server.url}/intake?show=byRule`);
  await browser.seesText('By the rule “Rope”');
  await browser.click('button', 'Take it back');
  await browser.seesText('1 arrival waits again.');
  await browser.goTo(`${server.url}/intake?show=numbers`);
  await browser.seesText('Filed just as proposed');
});

it('for a sender who is new a dossier is made, with what the mail says filled in', async () => {
  await comes('From somebody new', '"Tern Divers" <office@tern.example>');
  await browser.goTo(`${server.url}/intake`);
  await browser.click('button', /From somebody new/u);
  await browser.seesText('From Tern Divers (office@tern.example)');
  await browser.click('button', 'New dossier…');
  await browser.until(
    'the name',
    async () => (await (await browser.get('textbox', 'Name')).getAttribute('value')) === 'Tern Divers',
  );
  await browser.click('button', 'Make the dossier');
  await browser.seesText('File 1 paper in Suppliers, Tern Divers');
  await browser.click('button', 'File 1 paper in Suppliers, Tern Divers');
  await browser.seesText('1 paper filed in Tern Divers');
});

it('papers are picked from a folder on another server', async () => {
  const port = await freePort();
  const store = new StandInStore(port, path.join(folder, 'elsewhere'));
  await store.start();
  await mkdir(path.join(folder, 'elsewhere', 'Quotes'), { recursive: true });
  await writeFile(path.join(folder, 'elsewhere', 'Quotes', 'Quote for S-017.txt'), 'A quote for S-017');
  await browser.goTo(`${server.url}/intake?show=ways`);
  await browser.click('button', 'New way in…');
  await browser.select('From where', 'Connected store');
  await browser.fill('Name', 'Works office');
  await browser.fill('Address of the folder', 'http://files.example/in/');
  await browser.fill('User', standInUser.name);
  await browser.fill('Password', standInUser.password);
  await browser.click('button', 'Keep');
  await browser.seesText('the address begins with https');
  await browser.fill('Address of the folder', `http://127.0.0.1:${port}/`);
  await browser.click('button', 'Keep');
  await browser.seesText('Works office');
  await looks();
  await browser.click('button', 'What can be done with Works office');
  await browser.click('menuitem', 'Pick papers…');
  await browser.fill('Words of a name or folder', 'quote');
  await browser.click('checkbox', 'Take Quotes/Quote for S-017.txt');
  await browser.click('button', 'Take 1 paper');
  await browser.seesText('1 paper is being taken');
  await looks();
  await browser.seesText('taken');
  await browser.press(Key.ESCAPE);
  await browser.click('tab', 'Waiting');
  await browser.seesText('Quote for S-017.txt');
  await store.stop();
});
