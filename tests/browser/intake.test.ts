import { desc, eq } from 'drizzle-orm';
import { By, Key, type WebElement } from 'selenium-webdriver';
import { PDFDocument } from '@cantoo/pdf-lib';
import { createTransport } from 'nodemailer';
import { plainFields } from '@/core/columns/contract';
import { toKeep } from '@/core/intake/filingRule';
import { billLayouts } from '@/demo/bills/layouts';
import type { Bill } from '@/demo/bills/bill';
import { drawBill } from '@/demo/bills/drawBill';
import { defineColumn } from '@/server/columns/define';
import { db } from '@/server/db/client';
import { arrival, document } from '@/server/db/schema';
import { createDossier } from '@/server/dossiers/create';
import type { Actor } from '@/server/gate/actor';
import { receiveMail } from '@/server/intake/receive';
import { filingRules, keepFilingRule } from '@/server/intake/rules';
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
  const column = { ...plainFields, placeId: series.id };
  await defineColumn(keeper, { ...column, name: 'Invoice number', type: 'text' });
  await defineColumn(keeper, { ...column, name: 'Amount', type: 'amount', currency: 'GBP' });
  await defineColumn(keeper, { ...column, name: 'Cost centre', type: 'text' });
  post = await receiveMail(0);
  ({ server, browser } = await begin(keeper));
  other = await anotherBrowser();
  await other.signIn(server.url, clerk.email, passwords.others);
});
afterAll(async () => {
  await post.stop();
  await end();
});

async function invoice(number: string): Promise<Buffer> {
  const made = await PDFDocument.create();
  made.addPage([595, 842]).drawText(`Invoice ${number}, account S-017`, { x: 60, y: 700, size: 18 });
  return Buffer.from(await made.save());
}

/** Sends a bill as a scanner would name it. */
async function sendsBill(subject = 'Bill for rope', number = 'LD-4417'): Promise<void> {
  const [layout] = billLayouts;
  if (!layout) throw new Error('There is no look of bills');
  const bill: Bill = {
    ...{ supplier: 'Lantern Dredging', number, day: '2026-11-03', due: null, lines: [], notes: [] },
    ...{ netPence: 107_050, taxPence: 21_410, totalPence: 128_460, currency: 'GBP', account: 'SHT17', order: 'PO-1' },
  };
  await deliver(subject, 'For S-017.', [{ filename: 'scan.pdf', content: await drawBill(bill, layout) }]);
}

/** Sends a mail over SMTP, and has it read as the worker does. */
async function sends(subject: string, text: string, attached: readonly string[] = []): Promise<void> {
  const invoices = attached.map(async (number) => ({
    filename: `Invoice ${number}.pdf`,
    content: await invoice(number),
  }));
  await deliver(subject, text, await Promise.all(invoices));
}

type Attached = readonly { readonly filename: string; readonly content: Buffer }[];

async function deliver(subject: string, text: string, attachments: Attached): Promise<void> {
  const transport = createTransport({ host: '127.0.0.1', port: post.port, secure: false, ignoreTLS: true });
  await transport.sendMail({
    from: '"Billing" <billing@lantern.example>',
    to: 'intake@library.example',
    subject,
    text,
    attachments: [...attachments],
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
  await other.until('it to wait', async () => (await db().$count(arrival, eq(arrival.state, 'waiting'))) > 0);
  await other.goTo(`${server.url}/intake`);
  await other.seesText('File 1 paper');
});

it('what one has filed is gone from before the other, who needs not load again', async () => {
  await browser.goTo(`${server.url}/intake`);
  await browser.click('button', /^File 1 paper/u);
  await browser.seesText('1 paper filed in');
  await other.seesText('Nothing waits.');
});

it('a link to what is the keepers’ leads everybody else to what waits', async () => {
  await other.goTo(`${server.url}/intake?show=numbers`);
  await other.seesText('Nothing waits.');
  expect(await other.all('button', 'Numbers')).toEqual([]);
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

it('what a bill states is marked in its page, filled in, corrected by a press on a word, and filed', async () => {
  await sendsBill();
  await browser.goTo(`${server.url}/intake`);
  await browser.click('button', /Billing.*Bill for rope/su);
  const field = (name: string) => browser.get('textbox', `${name} of scan.pdf`);
  const valueOf = async (name: string) => (await field(name)).getAttribute('value');
  await browser.until('the fields', async () => (await browser.all('textbox', 'Amount of scan.pdf'))[0]);
  expect([await valueOf('Title'), await valueOf('Invoice number'), await valueOf('Amount')]).toEqual([
    ...['Invoice LD-4417', 'LD-4417', '1,284.60'],
  ]);
  const marks = () => browser.driver.findElements(By.css('[data-mark]'));
  await browser.until('two marks', async () => ((await marks()).length === 2 ? true : null));
  // Somebody takes the customer’s number for the invoice’s, by a press on it.
  await (await field('Invoice number')).click();
  await browser.seesText('Press a word in the page to take it for Invoice number.');
  const account = await browser.until('its text', async () =>
    browser.driver.findElement(By.xpath('//span[contains(text(), "Account number")]')).catch(() => null),
  );
  const { width } = await account.getRect();
  // Its last word: the element’s middle is where a press without an offset goes.
  await browser.driver
    .actions()
    .move({ origin: account, x: Math.round(width / 2) - 6, y: 0 })
    .click()
    .perform();
  await browser.until('the word', async () => ((await valueOf('Invoice number')) === 'SHT17' ? true : null));
  const amount = await field('Amount');
  await amount.sendKeys(Key.chord(Key.CONTROL, 'a'), '1,28,4.60');
  await browser.click('button', /^File 1 paper/u);
  await browser.seesText('is not a number');
  expect(await (await field('Amount')).getAttribute('aria-invalid')).toBe('true');
  await (await field('Amount')).sendKeys(Key.chord(Key.CONTROL, 'a'), '1284.60', Key.ENTER);
  await browser.seesText('1 paper filed in');
  const [filed] = await db().select().from(document).where(eq(document.title, 'Invoice LD-4417'));
  expect(Object.values(filed?.ownValues ?? {})).toEqual(expect.arrayContaining(['SHT17', 1284.6]));
});

it('what is not read is filled in all the same, and so are columns that papers do not state', async () => {
  const made = await PDFDocument.create();
  made.addPage([595, 842]).drawText('For S-017: what we spoke of', { x: 60, y: 700, size: 18 });
  await deliver('As agreed', '', [{ filename: 'scan.pdf', content: Buffer.from(await made.save()) }]);
  await browser.goTo(`${server.url}/intake`);
  await browser.click('button', /Billing.*As agreed/su);
  await browser.fill('Invoice number of scan.pdf', 'LD-88');
  expect(await browser.all('textbox', 'Cost centre of scan.pdf')).toEqual([]);
  await browser.click('button', '1 more column of scan.pdf');
  const active = await browser.driver.switchTo().activeElement();
  expect(await active.getAttribute('aria-label')).toBe('Cost centre of scan.pdf');
  await browser.press('Harbour', Key.ENTER);
  await browser.seesText('1 paper filed in');
  const [filed] = await db().select().from(document).orderBy(desc(document.filedAt)).limit(1);
  expect(Object.values(filed?.ownValues ?? {}).sort()).toEqual(['Harbour', 'LD-88']);
});

it('who presses Enter before the values are there files with them', async () => {
  await sendsBill('In haste', 'LD-4418');
  const [row] = await db().select({ id: arrival.id }).from(arrival).where(eq(arrival.subject, 'In haste'));
  await browser.slowNetwork(1500);
  await browser.goTo(`${server.url}/intake?arrival=${row?.id}`);
  await browser.until('the button to have the focus', async () => {
    const active = await browser.driver.switchTo().activeElement();
    return /^File 1 paper/u.test(await active.getText());
  });
  expect(await browser.all('textbox', 'Amount of scan.pdf')).toEqual([]);
  await browser.press(Key.ENTER);
  await browser.seesText('1 paper filed in');
  await browser.slowNetwork(0);
  const [filed] = await db().select().from(document).where(eq(document.title, 'Invoice LD-4418'));
  expect(Object.values(filed?.ownValues ?? {})).toEqual(expect.arrayContaining(['LD-4418', 1284.6]));
});

it('a filing rule made of what was filed is tried on it, kept, and says where the next goes', async () => {
  await browser.goTo(`${server.url}/intake?show=done`);
  await browser.click('button', /Billing.*Bill for rope/su);
  await browser.click('button', 'Make a filing rule of it…');
  await browser.seesText(/it would have been right for \d of \d/u);
  expect(await (await browser.get('textbox', 'Condition 1')).getAttribute('value')).toBe('billing@lantern.example');
  // A condition that cannot be is said at its line, and nothing is kept.
  await browser.click('button', 'And another thing…');
  await browser.select('What condition 2 looks at', 'is for at least');
  await (await browser.get('textbox', 'Condition 2')).sendKeys('1,28,4');
  await browser.click('button', 'Keep the rule');
  await browser.seesText('“1,28,4” is not an amount: 100.00 is the form.');
  await browser.click('button', 'Remove condition 2');
  await browser.fill('and is called', 'Bill {number}');
  await browser.click('button', 'Keep the rule');
  await browser.until('the dialog to close', async () => (await browser.all('dialog', /./u)).length === 0);
  const [kept] = await filingRules(keeper, {});
  if (!kept) throw new Error('The rule was not kept');
  const again = toKeep(kept, kept.placeId ?? '');
  await keepFilingRule(keeper, { ...again, tell: [clerk.personId], filesFrom: 99 });
  await keepFilingRule(keeper, { ...again, id: null, revision: 0, name: 'Another', on: false });
  await sendsBill('A second bill', 'LD-4419');
  await browser.goTo(`${server.url}/intake`);
  await browser.click('button', /Billing.*A second bill/su);
  await browser.seesText('The filing rule “From Billing” says so.');
  await browser.until(
    'the title',
    async () => (await (await browser.get('textbox', 'Title of scan.pdf')).getAttribute('value')) === 'Bill LD-4419',
  );
  await browser.click('tab', 'Filing rules');
  await browser.seesText('It comes from billing@lantern.example.');
  await browser.click('button', 'What can be done with From Billing');
  await browser.click('menuitem', 'Remove');
  await browser.seesText('is removed');
  await browser.undo('From Billing');
  await browser.get('button', 'From Billing');
  // It is as it was, and looked at before the other.
  expect(
    (await filingRules(keeper, {})).map(({ name, title, tell, filesFrom }) => [name, title, tell, filesFrom]),
  ).toEqual([
    ['From Billing', 'Bill {number}', [clerk.personId], 99],
    ['Another', 'Bill {number}', [], null],
  ]);
  await readArrivals();
  // Rules are the keepers’: a clerk has no such part.
  await other.goTo(`${server.url}/intake?show=rules`);
  await other.get('tab', 'Done');
  expect(await other.all('tab', 'Filing rules')).toEqual([]);
});

it('on a telephone the list leads to one arrival, from its top, and back', async () => {
  await sendsBill('To be read', 'LD-4419');
  await other.resize({ width: 390, height: 800 });
  await other.goTo(`${server.url}/intake`);
  await other.click('button', /Billing.*Hello/su);
  await other.seesText('The mail itself');
  await other.click('button', 'Back to the list');
  await other.click('button', /Billing.*To be read/su);
  const active = await other.until('the button to have the focus', async () => {
    const it = await other.driver.switchTo().activeElement();
    return /^File 1 paper/u.test(await it.getText()) && it;
  });
  const heading = await other.get('heading', 'To be read');
  const isInSight = (element: WebElement) =>
    other.driver.executeScript<boolean>(
      `const { top, bottom } = arguments[0].getBoundingClientRect();
       return arguments[0] === document.elementFromPoint(100, (top + bottom) / 2);`,
      element,
    );
  expect([await isInSight(heading), await isInSight(active)]).toEqual([true, false]);
});
