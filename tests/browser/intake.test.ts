import { Key } from 'selenium-webdriver';
import { PDFDocument } from '@cantoo/pdf-lib';
import { createTransport } from 'nodemailer';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { receiveMail } from '@/server/intake/receive';
import { readArrivals } from '../arrivals';
import { freshLibrary, furnished, newcomer, passwords } from '../library';
import { placeOn, say } from '../sheets';
import { anotherBrowser, begin, end } from './stage';
import type { Browser } from './browser';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let other: Browser;
let keeper: Actor;
let clerk: Actor;
let post: Awaited<ReturnType<typeof receiveMail>>;

beforeAll(async () => {
  keeper = await freshLibrary();
  clerk = await newcomer(keeper, 'Cle Rk');
  const { series } = await furnished(keeper, 'Suppliers');
  const { id } = await createDossier(keeper, { seriesId: series.id, name: 'Lantern Dredging', reference: 'S-017' });
  await say(keeper, placeOn(id), [{ who: clerk, gives: ['see', 'take', 'add', 'amend'] }], false);
  post = await receiveMail(0);
  ({ server, browser } = await begin(keeper));
  other = await anotherBrowser();
  await other.signIn(server.url, clerk.email, passwords.others);
}, 180_000);
afterAll(async () => {
  await post.stop();
  await end();
});

async function invoice(number: string): Promise<Buffer> {
  const made = await PDFDocument.create();
  made.addPage([595, 842]).drawText(`Invoice ${number}, account S-017`, { x: 60, y: 700, size: 18 });
  return Buffer.from(await made.save());
}

/** Sends a mail over SMTP, and has it read as the worker does. */
async function sends(subject: string, text: string, attached: readonly string[] = []): Promise<void> {
  const transport = createTransport({ host: '127.0.0.1', port: post.port, secure: false, ignoreTLS: true });
  await transport.sendMail({
    from: '"Billing" <billing@lantern.example>',
    to: 'intake@library.example',
    subject,
    text,
    attachments: await Promise.all(
      attached.map(async (number) => ({ filename: `Invoice ${number}.pdf`, content: await invoice(number) })),
    ),
  });
  transport.close();
  await readArrivals();
}

it('says what belongs there while nothing waits', async () => {
  await browser.click('button', 'Library');
  await browser.click('menuitem', 'Intake');
  await browser.seesText('Nothing waits.');
});

it('a mail sent over SMTP is filed with one key, and found by a part of its number', async () => {
  await sends('Our invoice', 'Attached.', ['004711']);
  await other.goTo(`${server.url}/desk`);
  await other.click('link', /^Intake ?1$/u);
  await other.seesText('It names the reference S-017.');
  await other.seesText('Invoice 004711, account S-017');
  await other.until('the button to have the focus', async () => {
    const active = await other.driver.switchTo().activeElement();
    return /^File 1 paper in Lantern Dredging/u.test(await active.getText());
  });
  await other.press(Key.ENTER);
  await other.seesText('1 paper filed in');
  await other.seesText('Nothing waits.');
  await other.goTo(`${server.url}/find?words=4711`);
  await other.seesText('Invoice 004711');
});

it('what is done can be looked at, and had checked again', async () => {
  await other.goTo(`${server.url}/intake?show=done`);
  await other.seesText(/Filed by Cle Rk/u);
  await other.click('button', 'Check it again');
  await other.goTo(`${server.url}/intake`);
  await other.seesText('File 1 paper');
});

it('what one has filed is gone from before the other, who needs not load again', async () => {
  await browser.goTo(`${server.url}/intake`);
  await browser.click('button', /^File 1 paper/u);
  await browser.seesText('1 paper filed in');
  await other.seesText('Nothing waits.');
});

it('nothing is proposed where nothing speaks for a place; one is chosen, or it is set aside', async () => {
  await sends('Hello', 'Nothing that could be known');
  await browser.goTo(`${server.url}/intake`);
  // The sender is known by now.
  await browser.seesText('One arrival from billing@lantern.example was filed here.');
  await browser.click('button', 'Another place…');
  await browser.press('finance');
  await browser.until('the place', async () => (await browser.all('option', /Finance/u))[0] ?? null);
  await browser.press(Key.ENTER);
  await browser.seesText(/File 1 paper in .*Finance/u);
  await browser.click('button', 'Not ours');
  await browser.seesText('Set aside: not ours');
  await browser.click('button', 'Undo');
  await browser.click('button', /Billing.*Hello/su);
  await browser.seesText('The mail itself');
});

it('on a telephone the list leads to one arrival and back', async () => {
  await other.resize({ width: 390, height: 800 });
  await other.goTo(`${server.url}/intake`);
  await other.click('button', /Billing.*Hello/su);
  await other.seesText('The mail itself');
  await other.click('button', 'Back to the list');
  await other.get('button', /Billing.*Hello/su);
});
