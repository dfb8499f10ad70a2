import { By, Key } from 'selenium-webdriver';
import { sql } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import type { Actor } from '@/server/gate/actor';
import { defineColumn } from '@/server/columns/define';
import { createList, listOf } from '@/server/columns/lists';
import { setValues } from '@/server/columns/setValues';
import { writableDb } from '@/server/db/client';
import { document } from '@/server/db/schema';
import { movePapers, renamePaper } from '@/server/documents/amend';
import { changeGroup, createGroup } from '@/server/people/people';
import { createFolder } from '@/server/places/create';
import { fillWithPapers } from '../../bench/large';
import { freshLibrary, furnished, inGroup, newcomer, open, passwords } from '../library';
import { type Browser } from './browser';
import { type WebServer } from './server';
import { anotherBrowser, begin, end } from './stage';

const papers = 600;
let keeper: Actor;
let auditor: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let openFolder: string;
let closedFolder: string;
let status: string;
let type: string;
let server: WebServer;
let browser: Browser;
let colleague: Browser;

beforeAll(async () => {
  keeper = await freshLibrary();
  auditor = await newcomer(keeper, 'Sunniva Dale');
  home = await furnished(keeper);
  openFolder = (await createFolder(keeper, { parentId: home.dossier.id, name: 'Evidence' })).id;
  closedFolder = (await createFolder(keeper, { parentId: home.series.id, name: 'Pay' })).id;
  await fillWithPapers(keeper, [openFolder, openFolder, closedFolder], papers);
  const { id: types } = await createList(keeper, { name: 'Types', terms: ['Agenda', 'Minutes', 'Report'] });
  const { id: states } = await createList(keeper, { name: 'States', terms: ['Current', 'Superseded'] });
  const column = (name: string, listId: string) =>
    defineColumn(keeper, { ...plainFields, placeId: home.series.id, name, type: 'choice', listId });
  type = (await column('Paper type', types)).id;
  status = (await column('Status', states)).id;
  const rows = await writableDb().select({ id: document.id }).from(document).orderBy(document.title);
  for (const [columnId, listId, of] of [
    [type, types, (index: number) => index % 3],
    [status, states, (index: number) => Math.floor(index / 3) % 2],
  ] as const) {
    const { terms } = await listOf(keeper, listId);
    for (const [at, term] of terms.entries()) {
      // Every seventh has none.
      const some = rows.filter((_row, index) => index % 7 !== 0 && of(index) === at);
      await setValues(keeper, { documentIds: some.map((row) => row.id), values: { [columnId]: term.id } });
    }
  }
  await open(keeper, home.dossier.id, auditor, 'reader');
  const { id: groupId } = await createGroup(keeper, { name: 'Auditors' });
  await changeGroup(keeper, { groupId, name: 'Auditors', terms: inGroup(auditor), revision: 0 });
  ({ server, browser } = await begin(keeper));
  colleague = await anotherBrowser();
  await colleague.signIn(server.url, auditor.email, passwords.others);
});

afterAll(() => end());

/** Current papers by the name of their type, counted by SQL of this test's own. */
async function byType(homes: readonly string[]): Promise<Record<string, number>> {
  const { rows } = await writableDb().execute<{ name: string; papers: number }>(sql`
    select coalesce(type.name, 'No paper type') as name, count(*)::int as papers
    from document join term as state on state.id::text = shown_values ->> ${status} and state.name = 'Current'
    left join term as type on type.id::text = shown_values ->> ${type}
    where home_id = any(${sql.param([...homes])}::uuid[]) group by 1`);
  return Object.fromEntries(rows.map((row) => [row.name, row.papers]));
}

/** The groups on the screen with their papers, all of them folded so that they are in sight. */
async function groupsIn(page: Browser): Promise<Record<string, number>> {
  await page.click('button', 'Group');
  await page.click('menuitem', 'Fold all groups');
  const read = () =>
    page.driver.executeScript<[string, string][]>(
      `return [...document.querySelectorAll('[role=row][aria-expanded]')].map((row) => {
        return [row.querySelector('button span').innerText, row.querySelector('.figures').innerText];
      })`,
    );
  const rows = await page.until('groups', async () => {
    const all = await read();
    return all.length > 0 ? all : null;
  });
  return Object.fromEntries(rows.map(([name, counts]) => [name, Number.parseInt(counts, 10)]));
}

let address = '';

it('narrows 600 papers to the current ones by type in under ten acts', async () => {
  await browser.goTo(`${server.url}/place/${home.series.id}`);
  await browser.get('heading', 'Committees');
  await browser.click('tab', 'All papers here');
  let acts = 1;
  const act = async (role: string, name: string | RegExp) => {
    acts += 1;
    await browser.click(role, name);
  };
  // Nothing is filed in the series itself: what lies below is there at once.
  await browser.seesText('600 papers');
  await act('button', 'Add a condition');
  await act('option', 'Status');
  await act('option', /^Current/u);
  await browser.press(Key.ESCAPE);
  acts += 1;
  await act('button', 'Group');
  await act('menuitemcheckbox', 'Paper type');
  await browser.press(Key.ESCAPE);
  acts += 1;
  expect(acts).toBeLessThan(10);
  expect(await groupsIn(browser)).toEqual(await byType([openFolder, closedFolder]));
});

it('is saved for a group, to open by itself', async () => {
  await browser.click('button', 'View');
  await browser.click('menuitem', /^Save as a view/u);
  await browser.fill('Name', 'For the auditor');
  await browser.fill('Purpose', 'What is current, by paper type.');
  await browser.click('radio', 'Chosen groups');
  await browser.click('checkbox', 'Auditors');
  await browser.click('checkbox', /^Opens by itself/u);
  await browser.click('button', /^Save for/u);
  await browser.seesText('Saved the view “For the auditor”');
  await browser.until('the tab', async () => {
    const [tab] = await browser.all('tab', 'For the auditor');
    return tab && (await tab.getAttribute('aria-selected')) === 'true';
  });
  address = await browser.driver.getCurrentUrl();
  expect(new URL(address).searchParams.get('view')).not.toBeNull();
});

it('opens for a colleague by its link, with only what is open to her', async () => {
  await colleague.goTo(address);
  await colleague.seesText('For the auditor');
  expect(await groupsIn(colleague)).toEqual(await byType([openFolder]));
  expect(await colleague.text()).not.toContain('Pay');
});

it('opens for her by itself, in a dossier below that was made before it', async () => {
  await colleague.goTo(`${server.url}/place/${home.dossier.id}`);
  await colleague.until('the tab', async () => {
    const [tab] = await colleague.all('tab', 'For the auditor');
    return tab && (await tab.getAttribute('aria-selected')) === 'true';
  });
  expect(await groupsIn(colleague)).toEqual(await byType([openFolder]));
});

it('shows what others change within two seconds, without losing a half-typed title or the place', async () => {
  const [row] = await writableDb()
    .select({ id: document.id, title: document.title })
    .from(document)
    .where(sql`${document.homeId} = ${openFolder}`)
    .orderBy(document.title)
    .limit(1);
  const [other] = await writableDb()
    .select({ id: document.id, revision: document.revision })
    .from(document)
    .where(sql`${document.homeId} = ${openFolder}`)
    .orderBy(sql`${document.title} desc`)
    .limit(1);
  await browser.goTo(`${server.url}/place/${openFolder}?view=plain&paper=${row?.id ?? ''}`);
  await browser.seesText('400 papers');
  await browser.seesText(row?.title ?? '');
  const grid = await browser.driver.findElement(By.css('[role=grid]'));
  await grid.sendKeys(Key.F2);
  const field = await browser.get('textbox', 'Title');
  await field.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Half-typed');
  await colleague.goTo(`${server.url}/place/${openFolder}?view=plain`);
  await colleague.seesText('400 papers');
  await renamePaper(keeper, { documentId: other?.id ?? '', title: 'A first of all', revision: other?.revision ?? 0 });
  const began = performance.now();
  await colleague.seesText('A first of all');
  console.log(`Another's change was on the screen after ${Math.round(performance.now() - began)} ms`);
  await browser.seesText('A first of all');
  expect(await field.getAttribute('value')).toBe('Half-typed');
  await field.sendKeys(Key.ESCAPE);
});

it('takes what a colleague loses off her screen', async () => {
  await colleague.goTo(`${server.url}/place/${openFolder}?view=plain`);
  await colleague.seesText('A first of all');
  const [moved] = await writableDb()
    .select({ id: document.id })
    .from(document)
    .where(sql`${document.title} = 'A first of all'`);
  await movePapers(keeper, { documentIds: [moved?.id ?? ''], toId: closedFolder });
  // The journal beside it may go on telling what was done here.
  const grid = await colleague.driver.findElement(By.css('[role=grid]'));
  await colleague.until('it to be gone', async () => !(await grid.getText()).includes('A first of all'));
  await colleague.seesText('399 papers');
});

it.each([
  ['a made-up column', 'if=[{"of":"00000000-0000-4000-8000-00000000ffff","anyOf":["x"]}]', 'not in use here'],
  ['a question a property cannot answer', 'if=[{"of":"size","text":"contains","words":"x"}]', 'cannot answer'],
  ['a broken condition', 'if=[{"of":', '400 papers|399 papers'],
  ['501 values', `if=[{"of":"kind","anyOf":[${Array.from({ length: 501 }, () => '"PDF"').join(',')}]}]`, '399 papers'],
  ['a pattern as words', 'filter=(.*)%25_', 'No papers match'],
  ['a view that is not there', 'view=00000000-0000-4000-8000-00000000eeee', 'no longer exists'],
  ['a sort by nothing known', 'sort=-weather', '399 papers'],
])('answers an address with %s by a clear word, or by what is there', async (_name, query, says) => {
  await browser.goTo(
    `${server.url}/place/${openFolder}?${query.startsWith('view') ? '' : 'view=plain&'}${encodeURI(query).replaceAll('%2525', '%25')}`,
  );
  await browser.seesText(new RegExp(says, 'u'));
});

it('takes a view away as CSV with its groups', async () => {
  const answer = await browser.driver.executeAsyncScript<{ type: string; text: string }>(
    `const [placeId, type, done] = arguments;
     const body = new URLSearchParams();
     body.set('form', 'csv');
     body.set('view', JSON.stringify({ below: true, filter: '', conditions: [], sorts: [], name: 'List', columns: ['kind', 'place'],
       groupings: [{ of: type, by: 'value', order: 'own', direction: 'up' }] }));
     fetch('/api/view/' + placeId, { method: 'POST', body }).then(async (answer) => done({ type: answer.headers.get('content-type'), text: await answer.text() }));`,
    home.series.id,
    type,
  );
  expect(answer.type).toBe('text/csv; charset=utf-8');
  const lines = answer.text.trimEnd().split('\r\n');
  expect(lines[0]).toBe('Paper type,Title,Kind,Place');
  expect(lines).toHaveLength(papers + 1);
  expect(lines.filter((line) => line.startsWith('Minutes,')).length).toBeGreaterThan(50);
});

it('shows covers, a chart and a cross-table whose cells lead to their papers', async () => {
  await browser.goTo(`${server.url}/place/${home.series.id}?view=plain&below=true&layout=covers`);
  await browser.until('covers', async () => (await browser.driver.findElements(By.css('[id^=cover-]'))).length > 3);
  await browser.goTo(`${server.url}/place/${home.series.id}?view=plain&below=true`);
  await browser.click('button', 'Group');
  await browser.click('menuitem', /^Cross-table/u);
  await browser.select('Down: which property', 'Paper type');
  await browser.select('Across: which property', 'Status');
  const expected = (await byType([openFolder, closedFolder]))['Minutes'] ?? 0;
  await browser.click('button', `${expected}: papers of Minutes, Current`);
  await browser.seesText(`${expected} papers`);
  await browser.seesText('Shown: papers here and below with Paper type Minutes, and Status Current.');
});
