import { PDFDocument } from '@cantoo/pdf-lib';
import { By, Key } from 'selenium-webdriver';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { expectedOf } from '@/server/expected/slots';
import { setPlan } from '@/server/plans/plans';
import { signOffsOf } from '@/server/signoff/paper';
import { sealSigned } from '@/server/signoff/sealed';
import { freshLibrary, furnished, newcomer, passwords } from '../library';
import { mailsTo } from '../mails';
import { placeOn, say } from '../sheets';
import { anotherBrowser, begin, end } from './stage';
import type { Browser } from './browser';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let other: Browser;
let keeper: Actor;
let chair: Actor;
let treasurer: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
const papers = new Map<string, string>();

async function pdf(words: string): Promise<Buffer> {
  const made = await PDFDocument.create();
  made.addPage([420, 300]).drawText(words, { x: 40, y: 220, size: 16 });
  return Buffer.from(await made.save());
}

beforeAll(async () => {
  keeper = await freshLibrary();
  chair = await newcomer(keeper, 'Cha Ir');
  treasurer = await newcomer(keeper, 'Trea Surer');
  home = await furnished(keeper);
  await say(
    keeper,
    placeOn(home.series.id),
    [chair, treasurer].map((who) => ({ who, gives: ['see', 'take'] as const })),
  );
  const expected = (id: string, name: string) => ({
    id: `00000000-0000-4000-9000-0000000000${id}`,
    timing: 'year' as const,
    name,
    folderId: null,
    conditions: [{ of: 'title' as const, text: 'starts' as const, words: name }],
    dueFrom: 'start' as const,
    dueDays: 0,
  });
  await setPlan(keeper, {
    seriesId: home.series.id,
    folders: [],
    expected: [expected('21', 'Budget'), expected('22', 'Signed record')],
    revision: 0,
  });
  for (const title of ['Record of July', 'Lease of the boathouse', 'Accord', 'Accord as scanned'])
    papers.set(title, await fileBuffer(keeper, home.year.id, `${title}.pdf`, await pdf(title)));
  ({ server, browser } = await begin(keeper));
  other = await anotherBrowser();
});
afterAll(() => end());

const idOf = (title: string): string => papers.get(title) ?? '';
const addSigner = async (name: string) => {
  await browser.click('button', 'Add a person');
  await browser.press(name);
  await browser.until('the person', async () => (await browser.all('option', name))[0] ?? null);
  await browser.press(Key.ENTER);
};
/** Somebody signs what waits for them on their desk. */
async function signs(who: Actor, title: string): Promise<void> {
  await other.driver.manage().deleteAllCookies();
  await other.signIn(server.url, who.email, passwords.others);
  await other.goTo(`${server.url}/desk`);
  await other.click('link', title);
  await other.seesText('You are asked to sign version 1');
  await other.click('button', 'Sign…');
  await other.fill('Your password, once more', 'not my password at all');
  await other.click('button', 'Sign');
  await other.seesText('That is not your password. Nothing was signed.');
  await other.fill('Your password, once more', passwords.others);
  await other.click('button', 'Sign');
  await other.seesText(`You have signed “${title}”`);
}

it('minutes are asked for of three, signed one after the other, and file themselves where the plan waits for them', async () => {
  await browser.goTo(`${server.url}/paper/${idOf('Record of July')}`);
  await browser.click('button', 'Ask for signatures…');
  for (const name of ['Cha Ir', 'Trea Surer', 'Kea Keeper']) await addSigner(name);
  await browser.click('checkbox', 'One after the other');
  await browser.fill('What you ask of them', 'As agreed at the meeting');
  // Of the two that are missing this year, the one that is called signed.
  await browser.until('the likely place', async () => {
    const choice = await browser.get('combobox', 'The signed copy');
    return (await choice.getAttribute('value')) === '1';
  });
  await browser.seesText('files itself in');
  await browser.click('button', 'Ask 3 people');
  await browser.seesText('3 people are asked to sign');
  await browser.seesText('Signed by 0 of 3 so far, version 1');

  await signs(chair, 'Record of July');
  await signs(treasurer, 'Record of July');
  await browser.goTo(`${server.url}/signatures`);
  await browser.click('link', 'Record of July');
  await browser.click('button', 'Sign…');
  await browser.fill('Your password, once more', passwords.keeper);
  await browser.press(Key.ENTER);
  await browser.seesText('Signed by 3 of 3, version 1');
  await browser.seesText('The signed copy is being made');
  expect(await sealSigned()).toBe(1);
  await browser.click('link', 'Record of July, signed');
  await browser.seesText('Locked: it is not changed');
  await browser.click('button', 'Check the seal');
  await browser.seesText('It is whole: not a byte was changed since it was sealed.');
  // Its square on the rack is full.
  const { slots } = await expectedOf(keeper, { dossierId: home.dossier.id });
  expect(slots.find(({ name }) => name === 'Signed record')).toMatchObject({
    state: 'met',
    paper: { title: 'Record of July, signed' },
  });
  await browser.goTo(`${server.url}/place/${home.series.id}`);
  await browser.seesText('1 dossier · 1 gap');
  await browser.driver.findElement(By.css('[aria-label^="Finance, "]'));
});

it('somebody outside reads a lease, proves the address, and signs it by typing and drawing', async () => {
  const email = `lodger-${Date.now()}@outside.example`;
  await browser.goTo(`${server.url}/paper/${idOf('Lease of the boathouse')}`);
  await browser.click('button', 'Ask for signatures…');
  await browser.click('button', 'Somebody without an account');
  await browser.fill('Name', 'Lod Ger');
  await browser.fill('E-mail', email);
  await browser.click('button', 'Add');
  await browser.click('button', 'Ask 1 person');
  await browser.seesText('1 person is asked to sign');
  const token = /\/outside\/(?<token>[\w-]+)/u.exec((await mailsTo(email)).at(-1) ?? '')?.groups?.['token'] ?? '';

  await other.driver.manage().deleteAllCookies();
  await other.goTo(`${server.url}/outside/${token}`);
  await other.click('button', /code/u);
  const code = await other.until('the code', async () => {
    const mail = (await mailsTo(email)).at(-1) ?? '';
    return /^Subject: (?<code>\d{6}) /mu.exec(mail)?.groups?.['code'] ?? null;
  });
  await other.fill('Code', code);
  await other.press(Key.ENTER);
  await other.seesText('Kea Keeper asks you, Lod Ger, to sign this paper.');
  await other.click('button', 'Sign…');
  const sign = await other.get('button', 'Sign');
  expect(await sign.isEnabled()).toBe(false);
  await other.fill('Your name, typed', 'Lod Ger');
  const box = await other.get('img', 'Draw your name here');
  await other.driver
    .actions()
    .move({ origin: box, x: -100, y: 10 })
    .press()
    .move({ origin: box, x: -40, y: -20 })
    .move({ origin: box, x: 30, y: 20 })
    .release()
    .perform();
  await other.get('button', 'Wipe it');
  await other.click('button', 'Sign');
  await other.seesText('Thank you. You have signed this version.');
  await sealSigned();
  const { signOffs } = await signOffsOf(keeper, { documentId: idOf('Lease of the boathouse') });
  expect(signOffs).toMatchObject([
    {
      state: 'signed',
      signers: [{ name: 'Lod Ger', proof: 'code' }],
      signedPaper: { title: 'Lease of the boathouse, signed' },
    },
  ]);
  await browser.goTo(`${server.url}/paper/${idOf('Lease of the boathouse')}`);
  await browser.click('link', 'Lease of the boathouse, signed');
  await browser.get('heading', 'Lease of the boathouse, signed');
});

it('a scan is marked as what was signed on paper, and that can be undone', async () => {
  await browser.goTo(`${server.url}/paper/${idOf('Accord as scanned')}`);
  await browser.click('button', 'It is a signed scan…');
  await browser.click('button', 'What was signed');
  await browser.press('Accord');
  await browser.until('the paper', async () => (await browser.all('option', /^Accord(?! as)/u))[0] ?? null);
  await browser.click('option', /^Accord(?! as)/u);
  await browser.fill('Name 1', 'Cha Ir');
  await browser.click('button', 'One more');
  await browser.fill('Name 2', 'Lod Ger');
  await browser.click('button', 'Mark as signed');
  await browser.seesText('Signed on paper by 2 of 2, version 1');
  await browser.click('button', 'Undo');
  await browser.until('it to be undone', async () => {
    const { signedOf } = await signOffsOf(keeper, { documentId: idOf('Accord as scanned') });
    return signedOf.length === 0;
  });
});

it('who is asked may decline with a reason; who asked withdraws what is still open', async () => {
  await browser.goTo(`${server.url}/paper/${idOf('Accord')}`);
  await browser.click('button', 'Ask for signatures…');
  await addSigner('Cha Ir');
  await addSigner('Trea Surer');
  await browser.click('button', 'Ask 2 people');
  await browser.seesText('Signed by 0 of 2 so far, version 1');
  await browser.click('button', 'Let Trea Surer off…');
  await browser.fill('Reason', 'Has left');
  await browser.click('button', 'Let them off');
  await browser.seesText('Signed by 0 of 1 so far, version 1');
  await browser.click('button', 'Withdraw…');
  await browser.fill('Reason', 'Drawn up anew');
  await browser.click('button', 'Withdraw');
  await browser.seesText('Withdrawn, version 1');
  await browser.click('button', 'Ask for signatures…');
  await addSigner('Cha Ir');
  await browser.click('button', 'Ask 1 person');
  await browser.seesText('1 person is asked');

  await other.driver.manage().deleteAllCookies();
  await other.signIn(server.url, chair.email, passwords.others);
  await other.goTo(`${server.url}/paper/${idOf('Accord')}`);
  await other.click('button', 'Decline…');
  await other.fill('Reason', 'Item 4 is wrong');
  await other.fill('Your password, once more', passwords.others);
  await other.click('button', 'Decline');
  await other.seesText('You have declined');
  await browser.goTo(`${server.url}/paper/${idOf('Accord')}`);
  await browser.seesText('Item 4 is wrong');
});
