import { eq } from 'drizzle-orm';
import { listOf, readySets } from '@/core/access/capability';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { setAccess } from '@/server/access/change';
import { db } from '@/server/db/client';
import { place } from '@/server/db/schema';
import { changeGroup, createGroup } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { freshLibrary, furnished, inGroup, newcomer, passwords } from '../library';
import { type Browser } from './browser';
import { type WebServer } from './server';
import { anotherBrowser, begin, end } from './stage';

/** A committee's minutes are for four people; a fifth, who reads all else, goes looking for them. */
let keeper: Actor;
let fifth: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let folderId: string;
let paperId: string;
let server: WebServer;
let browser: Browser;
let other: Browser;
const made = '00000000-0000-4000-8000-000000000000';
const title = 'Remuneration minutes';

beforeAll(async () => {
  keeper = await freshLibrary();
  const four: Actor[] = [];
  for (const name of ['Ada One', 'Bea Two', 'Cyd Three', 'Dan Four']) four.push(await newcomer(keeper, name));
  fifth = await newcomer(keeper, 'Fay Fifth');
  home = await furnished(keeper);
  const { id: everybody } = await createGroup(keeper, { name: 'Trustees' });
  await changeGroup(keeper, { groupId: everybody, name: 'Trustees', terms: inGroup(...four, fifth), revision: 0 });
  const { id: committee } = await createGroup(keeper, { name: 'Pay panel' });
  await changeGroup(keeper, { groupId: committee, name: 'Pay panel', terms: inGroup(...four), revision: 0 });
  await setAccess(keeper, {
    on: { kind: 'place', id: home.series.id },
    follows: true,
    grants: [{ subject: { kind: 'group', id: everybody }, gives: listOf(readySets.reader), withholds: [] }],
    revision: 0,
    message: null,
  });
  folderId = (await createFolder(keeper, { parentId: home.dossier.id, name: 'Pay' })).id;
  await createFolder(keeper, { parentId: home.dossier.id, name: 'Open to all' });
  paperId = await fileBuffer(keeper, folderId, `${title}.txt`, Buffer.from('Of pay.\n'));
  ({ server, browser } = await begin(keeper));
  other = await anotherBrowser();
  await other.signIn(server.url, fifth.email, passwords.others);
});

afterAll(() => end());

const toSheet = async () => {
  await browser.goTo(`${server.url}/place/${folderId}`);
  await browser.get('heading', 'Pay');
  await browser.click('button', /^Open to/u);
  await browser.seesText('Keepers manage all');
};

it('closes a folder to all but a group, told before who loses what', async () => {
  await other.goTo(`${server.url}/place/${folderId}`);
  await other.seesText(title);
  await toSheet();
  await browser.until('standing alone', async () => {
    await (await browser.get('radio', 'Stands alone')).sendKeys(' ');
    return (await browser.text()).includes('Only what is said here counts');
  });
  await (await browser.get('combobox', /Add a person/u)).sendKeys('pay panel');
  await browser.click('option', /Pay panel/u);
  await browser.seesText(/Fay Fifth\s+will no longer see 1 paper/u);
  await browser.seesText('Nobody else is affected');
  await browser.click('button', 'Save for 1 person');
  await browser.seesText('Open to 5 people');
});

it('leaves whoever it was closed to nothing to find, in seven ways, and what they had open goes', async () => {
  // 1 What was on their screen goes by itself.
  await other.until('the paper to go', async () => !(await other.text()).includes(title));
  // 2 The address of the place and of the paper say what made-up ones say.
  const pageAt = async (id: string) => {
    await other.goTo(`${server.url}/place/${id}`);
    await other.seesText('Nothing here');
    await other.seesText('Committees');
    return other.text();
  };
  expect(await pageAt(folderId)).toBe(await pageAt(made));
  await other.goTo(`${server.url}/paper/${paperId}`);
  expect(await other.text()).not.toContain(title);
  // 3 The find field knows neither by name.
  await other.goTo(`${server.url}/desk`);
  await other.press('/');
  await other.press('remuneration');
  await other.seesText('Nothing found for “remuneration”.');
  // 4 The dossier's whole view, its counts and its tree hold nothing of it.
  await other.goTo(`${server.url}/place/${home.dossier.id}?below=true`);
  await other.seesText('Open to all');
  expect(await other.text()).not.toMatch(/Remuneration|\bPay\b/u);
  // 5 All papers.
  await other.goTo(`${server.url}/all`);
  await other.seesText('Of the whole library');
  expect(await other.text()).not.toContain(title);
  // 6 Content, picture and copies: byte for byte the answer to an id that never was.
  const cookies = await other.driver.manage().getCookies();
  const cookie = cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
  const answer = async (path: string, body?: object) => {
    const response = await fetch(server.url + path, {
      headers: { cookie, 'content-type': 'application/json' },
      ...(body ? { method: 'POST', body: JSON.stringify(body) } : {}),
    });
    return `${response.status} ${response.headers.get('content-type')} ${await response.text()}`;
  };
  for (const path of ['content', 'content?copy', 'picture'])
    expect(await answer(`/api/paper/${paperId}/${path}`)).toBe(await answer(`/api/paper/${made}/${path}`));
  // 7 What programs ask: docket, journal, sheet, why, values, filing it elsewhere.
  const asked = (id: string): readonly (readonly [string, object])[] => [
    ['paper.docket', { documentId: id }],
    ['journal.of', { subject: 'document', id, before: null }],
    ['access.sheet', { on: { kind: 'paper', id } }],
    ['access.why', { on: { kind: 'paper', id }, personId: fifth.personId }],
    ['papers.values', { documentIds: [id] }],
    ['papers.crossFile', { documentIds: [id], toIds: [home.dossier.id], kind: 'pointer' }],
  ];
  for (const [at, [name, input]] of asked(paperId).entries())
    expect(await answer(`/api/call/${name}`, input)).toBe(await answer(`/api/call/${name}`, asked(made)[at]?.[1]));
});

it('says to the keeper why not, and shows the library as the other sees it', async () => {
  await toSheet();
  await browser.click('button', 'Why can someone open it, or not?');
  await browser.press('fay');
  await browser.click('option', /Fay Fifth/u);
  await browser.seesText('Fay Fifth may do nothing.');
  await browser.seesText('“Pay” stands alone: what came from above ends there.');
  await browser.click('button', 'See the library as Ada One');
  await browser.seesText('You see the library as Ada One would');
  await browser.goTo(`${server.url}/place/${folderId}`);
  await browser.seesText(title);
  expect(await browser.all('button', 'File papers')).toEqual([]);
  const refused = await browser.driver.executeAsyncScript<string>(
    `const [folder, done] = arguments;
     fetch('/api/call/folder.create', { method: 'POST', headers: { 'content-type': 'application/json' },
       body: JSON.stringify({ parentId: folder, name: 'By Ada' }) }).then((answer) => answer.text()).then(done);`,
    folderId,
  );
  expect(refused).toMatch(/not-allowed|not-found/u);
  await browser.click('button', 'Return to your own view');
  await browser.until('the keeper again', async () => !(await browser.text()).includes('You see the library as'));
  await browser.get('button', 'File papers');
});

it('offers to file a paper elsewhere as well in place of moving it, and takes it out again', async () => {
  await browser.goTo(`${server.url}/place/${folderId}?paper=${paperId}`);
  await browser.click('button', 'More to do with this paper');
  await browser.click('menuitem', 'Move…');
  await browser.press('open to all');
  await browser.click('option', /Open to all/u);
  await browser.seesText(/Fay Fifth\s+will see 1 paper/u);
  await browser.click('button', 'Leave it here, and file it in Finance, Open to all as well');
  await browser.seesText('Open to all as well');
  await other.goTo(`${server.url}/place/${home.dossier.id}?below=true`);
  await other.seesText('Open to all');
  expect(await other.text()).not.toContain(title);
  await browser.click('button', 'More to do with this paper');
  await browser.click('menuitem', 'File elsewhere as well…');
  await browser.press('open to all');
  await browser.click('option', /Open to all/u);
  await browser.click('checkbox', /Let those in/u);
  await browser.seesText(/Fay Fifth\s+will see 1 paper/u);
  await browser.click('button', 'File it in Finance, Open to all as well');
  await other.until('the paper to come', async () => (await other.text()).includes(title));
  expect(await other.text()).not.toMatch(/\bPay\b/u);
  await browser.click('button', 'Remove it from Finance, Open to all');
  await browser.seesText(/Fay Fifth\s+will no longer see 1 paper/u);
  await browser.click('button', 'Remove it from Finance, Open to all', await browser.get('dialog', /^Remove/u));
  await other.until('the paper to go', async () => !(await other.text()).includes(title));
});

it('undoes from the notice what was saved on the sheet', async () => {
  await toSheet();
  await browser.click('button', 'Pay panel, take copies: given');
  await browser.seesText('may no longer take copies (1 paper)');
  await browser.click('button', 'Save for 4 people');
  await browser.click('button', 'Undo');
  await browser.until('the sheet as it was', async () => {
    const [row] = await db().select({ revision: place.accessRevision }).from(place).where(eq(place.id, folderId));
    return row?.revision === 3;
  });
  await toSheet();
  await browser.get('button', 'Pay panel, take copies: given');
});

it('undoes from the journal, asked first, and says so where the sheet was changed again since', async () => {
  await browser.goTo(`${server.url}/place/${folderId}`);
  await browser.showDocket();
  const [latest] = await browser.until('the journal', async () => {
    const all = await browser.all('button', /^Undo: changed who may open/u);
    return all.length > 1 ? all : null;
  });
  await latest?.click();
  await browser.seesText('unless it has been changed again since');
  await browser.click('button', 'Take it back');
  await browser.seesText('Who can open it is as it was before');
  await toSheet();
  await browser.get('button', 'Pay panel, take copies: withheld');
});

it('shows all places by people, and leads from a place to its sheet', async () => {
  await browser.goTo(`${server.url}/access/${home.series.id}`);
  await browser.get('heading', 'Who sees what');
  await browser.seesText('stands alone');
  await browser.click('button', 'Who can open Pay');
  await browser.seesText('Only what is said here counts');
});
