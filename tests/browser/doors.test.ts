import { execFileSync } from 'node:child_process';
import { readFile, readdir } from 'node:fs/promises';
import path from 'node:path';
import { Key } from 'selenium-webdriver';
import { fileBuffer } from '@/demo/file';
import { readPaper } from '../reading';
import type { Actor } from '@/server/gate/actor';
import { config } from '@/server/base/config';
import { createLabel, putLabel } from '@/server/labels/labels';
import { makeLink } from '@/server/outside/links';
import { createFolder } from '@/server/places/create';
import { freshLibrary, furnished, newcomer, open, passwords, refusedAs } from '../library';
import { paperOn, say } from '../sheets';
import { type Browser } from './browser';
import { type WebServer } from './server';
import { anotherBrowser, begin, end } from './stage';

let keeper: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let paper: string;
let server: WebServer;
let browser: Browser;
let outside: Browser;

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  home = await furnished(keeper);
  paper = await fileBuffer(keeper, home.year.id, 'Survey.txt', Buffer.from('Depths at low water.\n'));
  await readPaper(paper);
  await fileBuffer(keeper, home.year.id, 'Minutes.txt', Buffer.from('Not for outside.\n'));
  ({ server, browser } = await begin());
  outside = await anotherBrowser();
});

afterAll(() => end());

/** The code of the moment as an independent program has it (OATH Toolkit): the second opinion on RFC 6238. */
const codeNow = (secret: string): string =>
  execFileSync('oathtool', ['--totp', '--base32', secret], { encoding: 'utf8' }).trim();

describe('signing in in two steps', () => {
  let secret = '';
  let recovery = '';

  it('is switched on with the password and a first code, and hands out recovery codes', async () => {
    await browser.signIn(server.url, reader.email, passwords.others);
    await browser.goTo(`${server.url}/account`);
    await browser.click('button', 'Turn on');
    await browser.fill('Password', 'not the password');
    await browser.click('button', 'Continue');
    await browser.seesText('The e-mail address or the password is not right.');
    await browser.fill('Password', passwords.others);
    await browser.press(Key.ENTER);
    await browser.get('textbox', 'The six digits it shows');
    secret = (await browser.driver.findElement({ css: '[data-secret]' }).getText()).replaceAll(/\s/gu, '');
    await browser.fill('The six digits it shows', '000000');
    await browser.press(Key.ENTER);
    await browser.seesText('That code is not right');
    // Three codes in ten seconds are taken from one address, and no more: the next is waited for.
    await browser.until('the code to be taken', async () => {
      // The field goes as soon as a code is taken: it is looked for, not waited for.
      const [field] = await browser.all('textbox', 'The six digits it shows');
      await field?.sendKeys(Key.chord(Key.CONTROL, 'a'), codeNow(secret), Key.ENTER);
      return /Your recovery codes/u.test(await browser.text());
    });
    const codes = await browser.driver.findElements({ css: '[aria-label="Recovery codes"] li' });
    expect(codes).toHaveLength(10);
    recovery = (await codes[0]?.getText()) ?? '';
    await browser.click('button', 'I have kept them');
    await browser.seesText('10 recovery codes left');
  });

  it('asks for a code after the password; a recovery code lets in once', async () => {
    const halfIn = async () => {
      await browser.driver.manage().deleteAllCookies();
      await browser.goTo(`${server.url}/sign-in`);
      await browser.fill('E-mail address', reader.email);
      await browser.fill('Password', passwords.others);
      await browser.click('button', 'Sign in');
      await browser.get('textbox', 'Code');
    };
    await halfIn();
    // Half in is not in.
    await browser.goTo(`${server.url}/desk`);
    expect(await browser.path()).toBe('/sign-in');
    await halfIn();
    await browser.fill('Code', recovery);
    await browser.click('button', 'Sign in');
    await browser.until('the desk', async () => (await browser.path()) === '/desk');
    await browser.goTo(`${server.url}/account`);
    await browser.seesText('9 recovery codes left');
    await browser.seesText('Two-step sign-in turned on');
    await halfIn();
    await browser.fill('Code', recovery);
    await browser.click('button', 'Sign in');
    await browser.seesText(/That code is not right|Too many tries/u);
  });

  it('is taken off by a keeper for someone who has lost everything', async () => {
    await browser.signIn(server.url, keeper.email, passwords.keeper);
    await browser.goTo(`${server.url}/people`);
    await browser.click('button', 'More about Rea Der');
    await browser.click('menuitem', 'Turn off two-step sign-in');
    await browser.seesText('Rea Der signs in with the password alone');
    await browser.click('button', 'Sign-in journal');
    await browser.seesText('Wrong code');
  });
});

it('keeps what is typed before the page reacts', async () => {
  await browser.goTo(`${server.url}/sign-in`);
  await browser.driver.manage().deleteAllCookies();
  // Typed by a script at the moment when the page is there and its own scripts are not.
  const typing = await browser.cdp('Page.addScriptToEvaluateOnNewDocument', {
    source: `document.addEventListener('DOMContentLoaded', () => {
      const [address, password] = document.querySelectorAll('input');
      address.value = ${JSON.stringify(keeper.email)};
      password.value = ${JSON.stringify(passwords.keeper)};
    });`,
  });
  await browser.goTo(`${server.url}/sign-in`);
  await browser.cdp('Page.removeScriptToEvaluateOnNewDocument', typing as object);
  await browser.click('button', 'Sign in');
  await browser.until('the desk', async () => (await browser.path()) === '/desk');
});

it('a forgotten password is renewed by a message to the account’s own address', async () => {
  await outside.goTo(`${server.url}/sign-in`);
  await outside.click('link', 'Forgotten the password?');
  await outside.fill('E-mail address', reader.email);
  await outside.click('button', 'Send me the link');
  await outside.seesText('a message with a link is on its way');
  const folder = config().EMBRIN_OUTBOX;
  const mails = await Promise.all(
    (await readdir(folder)).sort().map((name) => readFile(path.join(folder, name), 'utf8')),
  );
  const link = /http\S+\/new-password\/\S+/u.exec(
    (mails.findLast((mail) => mail.includes(reader.email)) ?? '').replace(/=\r?\n/gu, ''),
  )?.[0];
  await outside.goTo(link ?? '');
  await outside.fill('New password', 'too short');
  await outside.click('button', 'Set the password');
  await outside.seesText('At least 15 characters');
  await outside.fill('New password', 'a new one of some length');
  await outside.click('button', 'Set the password');
  await outside.seesText('The password is changed.');
  await outside.signIn(server.url, reader.email, 'a new one of some length');
});

it('a token answers for its person until it is withdrawn', async () => {
  await browser.goTo(`${server.url}/account`);
  await browser.click('button', 'New token');
  await browser.fill('What it is for', 'The accounts program');
  await browser.click('button', 'Make the token');
  const token = await (await browser.get('textbox', 'Token')).getAttribute('value');
  const asked = (name: string, input: object) =>
    fetch(`${server.url}/api/call/${name}`, {
      method: 'POST',
      headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
      body: JSON.stringify(input),
    });
  expect((await asked('paper.docket', { documentId: paper })).status).toBe(200);
  expect((await asked('folder.create', { parentId: home.year.id, name: 'By a program' })).status).toBe(403);
  const copy = await fetch(`${server.url}/api/paper/${paper}/content?copy`, {
    headers: { authorization: `Bearer ${token}` },
  });
  expect(await copy.text()).toBe('Depths at low water.\n');
  await browser.click('button', 'Done');
  await browser.click('button', 'Withdraw The accounts program');
  await browser.seesText('“The accounts program” is withdrawn');
  expect((await asked('paper.docket', { documentId: paper })).status).toBe(401);
});

describe('an outside link', () => {
  it('is made in the docket, opens one paper to whoever has it and the password, and can be withdrawn at once', async () => {
    await browser.goTo(`${server.url}/place/${home.year.id}?paper=${paper}`);
    await browser.click('button', 'More to do with this paper');
    await browser.click('menuitem', 'Outside link…');
    await browser.fill('Password', 'short');
    await browser.click('button', 'Make the link');
    await browser.seesText('At least eight characters.');
    await browser.fill('Password', 'low water springs');
    await browser.click('button', 'Make the link');
    const link = (await (await browser.get('textbox', 'Link')).getAttribute('value')) ?? '';
    await browser.click('button', 'Done');

    await outside.driver.manage().deleteAllCookies();
    await outside.goTo(link);
    await outside.get('heading', 'Opened to you');
    expect(await outside.text()).not.toContain('Survey');
    await outside.fill('Password of the link', 'high water neaps');
    await outside.click('button', 'Open it');
    await outside.seesText('That does not open it.');
    await outside.fill('Password of the link', 'low water springs');
    await outside.click('button', 'Open it');
    await outside.click('link', 'Survey');
    // Without copies: the text itself is never sent, only its page as a picture.
    await outside.until('its page to be drawn', () =>
      outside.driver.executeScript<boolean>(
        'return [...document.images].some((each) => each.alt === "Survey, page 1 of 1" && each.naturalWidth > 0)',
      ),
    );
    expect(await outside.text()).not.toContain('Depths at low water.');
    expect(await outside.all('link', /Download/u)).toEqual([]);
    const cookie = (await outside.driver.manage().getCookies()).map(({ name, value }) => `${name}=${value}`).join('; ');
    const content = (query: string) =>
      fetch(`${link.replace('/outside/', '/api/outside/')}/paper/${paper}${query}`, { headers: { cookie } });
    expect((await content('?page=1')).status).toBe(200);
    for (const query of ['', '?copy', '?copy&page=1']) expect((await content(query)).status).toBe(403);
    // A visit is no session.
    await outside.goTo(`${server.url}/desk`);
    expect(await outside.path()).toBe('/sign-in');

    await browser.goTo(`${server.url}/links`);
    await browser.seesText('opened 1 time');
    await browser.click('button', 'Withdraw the outside link to Survey');
    await browser.seesText('no longer works');
    for (const query of ['', '?page=1']) expect((await content(query)).status).toBe(410);
    await outside.goTo(link);
    await outside.seesText('This link opens nothing');
  });

  it('to a view shows its papers as they are, to be taken where copies are let', async () => {
    await browser.goTo(`${server.url}/place/${home.year.id}?filter=surv`);
    await browser.click('button', 'View');
    await browser.click('menuitem', 'Outside link to this view…');
    await browser.click('checkbox', 'They may take copies');
    await browser.click('button', 'Make the link');
    const link = (await (await browser.get('textbox', 'Link')).getAttribute('value')) ?? '';
    await outside.goTo(link);
    await outside.click('button', 'Open it');
    await outside.get('link', 'Download Survey');
    expect(await outside.text()).not.toContain('Minutes');
    await fileBuffer(keeper, home.year.id, 'Survey of the bar.txt', Buffer.from('The bar.\n'));
    await outside.again();
    await outside.seesText('Survey of the bar');
  });
});

it('what is opened to someone by name lies on their desk, and is taken back from the desk of who did', async () => {
  await say(keeper, paperOn(paper), [{ who: reader, gives: ['see'] }]);
  await open(keeper, home.series.id, reader, 'reader');
  await outside.signIn(server.url, reader.email, 'a new one of some length');
  const list = await outside.get('region', 'Passed to me');
  await outside.get('link', 'Survey', list);
  await outside.click('button', 'Mark Survey as seen');
  await outside.get('button', 'Mark Survey as not seen');
  await outside.click('button', 'Remove Committees from the list');
  await outside.until(
    'it to go',
    async () => (await outside.all('link', 'Committees', await outside.get('region', 'Passed to me'))).length === 0,
  );
  await outside.click('button', 'Undo');
  await outside.get('button', 'Remove Committees from the list');

  await browser.goTo(`${server.url}/desk`);
  await browser.click('button', 'Withdraw Survey from Rea Der');
  await browser.seesText('“Survey” is no longer shared with Rea Der by you');
  // By itself: whoever looks at their desk is told that something has changed.
  await outside.until('it to go', async () => {
    const [region] = await outside.all('region', 'Passed to me');
    return region !== undefined && (await outside.all('link', 'Survey', region)).length === 0;
  });
});

it('runs nothing that someone has written into a name, a label, a mail or a page (stored scripts)', async () => {
  const script = '"><img src=x onerror="window.ran=1"><script>window.ran=1</script>';
  const folder = await createFolder(keeper, { parentId: home.year.id, name: script });
  const mail = Buffer.from(`From: a@example.org\r\nSubject: ${script}\r\nContent-Type: text/html\r\n\r\n${script}\r\n`);
  const written = await fileBuffer(keeper, folder.id, `${script}.eml`, mail);
  await readPaper(written);
  const page = Buffer.from(`<!DOCTYPE html><html><body><h1>Kept page</h1>${script}</body></html>`);
  const kept = await fileBuffer(keeper, folder.id, 'kept page.html', page);
  await readPaper(kept);
  const { id: labelId } = await createLabel(keeper, { name: script, hue: 'plum', shared: true });
  await putLabel(keeper, { labelId, documentIds: [written], on: true });
  for (const kind of ['page.svg', 'page.html'])
    expect(
      await refusedAs(
        fileBuffer(
          keeper,
          folder.id,
          kind,
          Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" onload="window.ran=1"/>`),
        ),
      ),
    ).toContain('kind-refused');
  const { link } = await makeLink(keeper, {
    on: { kind: 'place', id: folder.id, view: { name: script, below: true, filter: '', conditions: [], sorts: [] } },
    email: null,
    password: null,
    copies: true,
    until: new Date(Date.now() + 86_400_000).toISOString().slice(0, 10),
    mostOpenings: null,
    message: '',
  });
  const quiet = async (what: Browser, address: string, sees: string) => {
    await what.goTo(address);
    await what.seesText(sees);
    await what.settled();
    expect(await what.driver.executeScript('return window.ran ?? null')).toBeNull();
  };
  await browser.signIn(server.url, keeper.email, passwords.keeper);
  await quiet(browser, `${server.url}/place/${folder.id}?paper=${written}`, 'window.ran=1');
  await quiet(browser, `${server.url}/paper/${written}`, 'Addresses');
  await quiet(browser, `${server.url}/paper/${kept}`, 'kept page');
  await quiet(browser, `${server.url}/label/${labelId}`, 'window.ran=1');
  await quiet(browser, `${server.url}/links`, 'window.ran=1');
  const shown = server.url + new URL(link).pathname;
  await outside.goTo(shown);
  await outside.click('button', 'Open it');
  await outside.seesText('window.ran=1');
  await quiet(outside, shown, 'window.ran=1');
  // Opened as a page of its own, what was filed is no page.
  await browser.goTo(`${server.url}/api/paper/${written}/content`);
  expect(await browser.driver.executeScript('return window.ran ?? null')).toBeNull();
});
