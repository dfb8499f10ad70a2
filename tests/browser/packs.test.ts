import { By, Key } from 'selenium-webdriver';
import { PDFDocument } from '@cantoo/pdf-lib';
import { fileBuffer } from '@/demo/file';
import { beginAgenda } from '@/server/agenda/begin';
import { addItems, changeItem } from '@/server/agenda/items';
import { attachPapers } from '@/server/agenda/papers';
import type { Actor } from '@/server/gate/actor';
import { makeMeetings, meetingsOf } from '@/server/meetings/meetings';
import { makeNextCopy } from '@/server/packs/copies';
import { makeNextIssue } from '@/server/packs/make';
import { packSheet, packsOf } from '@/server/packs/read';
import { freshLibrary, furnished, newcomer, passwords } from '../library';
import { plainItem } from '../integration/calls';
import { readPaper } from '../reading';
import { placeOn, say } from '../sheets';
import { anotherBrowser, begin, end } from './stage';
import type { Browser } from './browser';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let other: Browser;
let keeper: Actor;
let member: Actor;
let meetingId: string;
let placeId: string;

async function pdf(name: string, pages: number): Promise<Buffer> {
  const made = await PDFDocument.create();
  for (let page = 1; page <= pages; page += 1)
    made.addPage([595, 842]).drawText(`${name} page ${page}`, { x: 60, y: 400, size: 18 });
  return Buffer.from(await made.save());
}

beforeAll(async () => {
  keeper = await freshLibrary();
  member = await newcomer(keeper, 'Mem Ber');
  const home = await furnished(keeper);
  await say(keeper, placeOn(home.series.id), [{ who: member, gives: ['see', 'take'] }]);
  const dossierId = home.dossier.id;
  placeId = home.year.id;
  await makeMeetings(keeper, { dossierId, days: ['2027-01-12'], title: 'Ordinary meeting', venue: '' });
  meetingId = (await meetingsOf(keeper, { dossierId }))[0]?.id ?? '';
  const { agendaId } = await beginAgenda(keeper, { of: { meetingId } });
  const titles = ['Minutes', 'Claim of a tenant'];
  const { itemIds } = await addItems(keeper, { agendaId, parentId: null, beforeId: null, titles });
  for (const [at, name] of ['Minutes of May', 'Letter of claim'].entries()) {
    const documentId = await fileBuffer(keeper, home.year.id, `${name}.pdf`, await pdf(name, 3));
    await readPaper(documentId);
    await attachPapers(keeper, { itemId: itemIds[at] ?? '', documentIds: [documentId] });
  }
  for (const name of ['Tide tables', 'Harbour dues', 'Late letter'])
    await readPaper(await fileBuffer(keeper, home.year.id, `${name}.pdf`, await pdf(name, 2)));
  await changeItem(keeper, {
    itemId: itemIds[1] ?? '',
    ...plainItem,
    title: 'Claim of a tenant',
    readers: [],
    revision: 0,
  });
  ({ server, browser } = await begin(keeper));
  other = await anotherBrowser();
});
afterAll(() => end());

const entries = async (): Promise<string[]> => {
  const [pack] = await packsOf(keeper, { of: { meetingId } });
  return (await packSheet(keeper, { packId: pack?.id ?? '' })).entries.map(({ title }) => title);
};

it('a pack follows its agenda, and takes more papers by words, by ticks and by keys', async () => {
  await browser.goTo(`${server.url}/meeting/${meetingId}?part=packs`);
  await browser.seesText('There is no pack yet');
  await browser.click('button', 'Begin a pack');
  await browser.seesText('2 papers, 10 pages with cover and contents');
  await browser.fill('Words in the papers to add', 'tide');
  await browser.click('button', 'Add “Tide tables”');
  await browser.seesText('3 papers');
  await browser.seesText('in the pack');
  await browser.fill('Title of a new section', 'For reading');
  await browser.press(Key.ENTER);
  await browser.click('button', 'Add papers into For reading');
  await browser.fill('Words in the papers to add', 'harbour');
  await browser.until('the paper', async () => (await browser.all('button', 'Add “Harbour dues”'))[0] ?? null);
  await browser.driver.findElement(By.css('section[aria-label="Papers to add"] li input[type="checkbox"]')).click();
  await browser.click('button', 'Add 1 paper');
  await browser.seesText('4 papers');
  const [grip] = await browser.all('button', /^Move “Tide tables”/u);
  await grip?.sendKeys(Key.chord(Key.ALT, Key.ARROW_UP));
  await browser.until('the new order', async () => (await entries()).indexOf('Tide tables') === 2);
  expect(await entries()).toEqual([
    ...['1 Minutes', 'Minutes of May', 'Tide tables', '2 Claim of a tenant', 'Letter of claim'],
    ...['For reading', 'Harbour dues'],
  ]);
});

it('papers are dragged from the finder into a section', async () => {
  await browser.fill('Words in the papers to add', 'late');
  await browser.until('the paper', async () => (await browser.all('button', 'Add “Late letter”'))[0] ?? null);
  const drag = (from: string, to: string) =>
    browser.driver.executeScript(
      `const [from, to] = arguments;
       const line = [...document.querySelectorAll('section[aria-label="Papers to add"] li')].find((each) => each.textContent.includes(from));
       const over = [...document.querySelectorAll('[data-line]')].find((each) => each.getAttribute('aria-label') === to);
       const dataTransfer = new DataTransfer();
       const send = (on, type) => on.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer }));
       send(line, 'dragstart'); send(over, 'dragover'); send(over, 'drop');`,
      from,
      to,
    );
  await drag('Late letter', 'For reading');
  await browser.until('it in the section', async () => (await entries()).at(-1) === 'Late letter');
  await browser.click('button', 'More to do with Late letter');
  await browser.click('menuitem', 'Take out of the pack');
  await browser.seesText('4 papers');
  await browser.fill('Words in the papers to add', 'harbour');
});

it('a paper is renamed and cut for the pack alone, and what is wrong with it is said', async () => {
  await browser.click('button', 'More to do with Harbour dues');
  await browser.click('menuitem', 'Title and pages…');
  await browser.fill('Title in the pack', 'Dues for 2027');
  await browser.fill('Pages', '1-9');
  await browser.press(Key.ENTER);
  await browser.seesText('The paper has 2 pages.');
  await browser.fill('Pages', '2');
  await browser.press(Key.ENTER);
  await browser.seesText('pages 2 of 2');
  await browser.click('button', 'More to do with Dues for 2027');
  await browser.click('menuitem', 'Take out of the pack');
  await browser.undo('Dues for 2027');
  await browser.until('it in the pack', async () => (await entries()).includes('Dues for 2027'));
});

it('it is issued with its cover, and read on a phone without what is confidential', async () => {
  await browser.click('button', 'Cover and stamps…');
  await browser.fill('For whom', 'All members');
  await browser.click('button', 'Save');
  await browser.click('button', 'Issue the pack');
  await browser.seesText('Issue 1 is being made');
  expect(await makeNextIssue()).toBe(true);
  while (await makeNextCopy());
  await browser.click('link', 'Issue 1');
  await browser.seesText('Letter of claim');

  await other.resize({ width: 390, height: 800 });
  await other.signIn(server.url, member.email, passwords.others);
  await other.goTo(`${server.url}/meeting/${meetingId}?part=packs`);
  expect(await other.all('link', /Put/u)).toEqual([]);
  // On a slow telephone the pages are drawn long after one has gone to one.
  await other.slowProcessor(6);
  await other.click('link', 'Issue 1');
  await other.click('button', 'Contents');
  await other.seesText(/Pages \d+ to \d+ are not part of your copy/u);
  expect(await other.text()).not.toMatch(/Claim|claim/u);
  await other.click('button', /^Dues for 2027/u);
  await other.until('the page of the dues', async () => /Harbour dues page 2/u.test(await other.text()));
  await other.seesText(/Pack page \d+ of \d+/u);
});

it('a page takes notes of one’s own, and words are found and marked in it', async () => {
  await other.click('button', 'Notes');
  await other.slowProcessor(1);
  await other.fill(/^A note on page \d+/u, 'Ask about the dues');
  await other.click('button', 'Keep the note');
  await other.seesText(/Page \d+, Dues for 2027\s+Ask about the dues/u);
  await other.click('button', 'Mark the page');
  await other.seesText('Marked');
  await other.click('button', /^Remove the mark/u);
  await other.click('button', 'Undo');
  await other.seesText('Marked');
  await other.click('button', /^Page \d+, Dues for 2027/u);
  await other.until('the page of the dues', async () => /Harbour dues page 2/u.test(await other.text()));
  // The keeper has none of them.
  await browser.click('button', 'Notes');
  await browser.seesText('None yet in this pack.');
  await browser.chord(Key.CONTROL, 'f');
  await browser.fill('Find in this paper', 'claim page 2');
  await browser.seesText('1 of 1');
  await browser.press(Key.ENTER);
  await browser.until('the mark', async () => browser.driver.findElement(By.css('[data-page] span[style*="left"]')));
});

it('who leads is followed from page to page, each in their own copy', async () => {
  await browser.click('button', 'Lead');
  await browser.seesText('You lead');
  await browser.click('button', /^Tide tables/u);
  await other.seesText(/Kea Keeper is on page \d+\./u);
  await other.click('button', 'Follow');
  await other.until('the page of the tides', async () => /Tide tables page 1/u.test(await other.text()));
  await browser.click('button', /^Letter of claim/u);
  await other.seesText('which is not part of your copy');
  await browser.click('button', /^Minutes of May/u);
  await other.until('the page of the minutes', async () => /Minutes of May page 1/u.test(await other.text()));
  await other.click('button', 'Stop following');
  await browser.click('button', 'Stop leading');
  await browser.seesText('Nobody leads.');
});

it('an open pack is read on, and takes notes, while the library cannot be reached', async () => {
  await other.click('button', 'Contents');
  await other.seesText('Kept in this browser until you sign out');
  await server.end('SIGKILL');
  await other.again();
  await other.click('button', 'Contents');
  await other.click('button', /^Tide tables/u);
  await other.until('the page of the tides', async () => /Tide tables page 1/u.test(await other.text()));
  await other.click('button', 'Notes');
  await other.seesText('Ask about the dues');
  await other.fill(/^A note on page \d+/u, 'Written without a connection');
  await other.click('button', 'Keep the note');
  await other.seesText('Waits for the connection');
  await server.again();
  await other.seesText(/Page \d+, Tide tables\s+Written without a connection/u);
  expect(await other.text()).not.toContain('Waits for the connection');
  // Whoever signs out leaves nothing behind.
  const stores = () => other.driver.executeScript<string[]>('return caches.keys()');
  expect(await stores()).toEqual(['embrin-packs']);
  await other.resize({ width: 1280, height: 800 });
  await other.click('button', 'Mem Ber: my account');
  await other.click('menuitem', 'Sign out');
  await other.seesText('Sign in');
  expect(await stores()).toEqual([]);
  await other.resize({ width: 390, height: 800 });
  await other.signIn(server.url, member.email, passwords.others);
  await other.goTo(`${server.url}/meeting/${meetingId}?part=packs`);
  await other.click('link', 'Issue 1');
});

it('what comes in later is a supplement, of which those who have the first are told', async () => {
  await browser.goTo(`${server.url}/meeting/${meetingId}?part=packs`);
  await browser.click('link', /^Put/u);
  await browser.click('button', 'Issue a supplement');
  await browser.seesText('Nothing has come in since issue 1');
  await browser.fill('Words in the papers to add', 'late');
  await browser.click('button', 'Add “Late letter”');
  await browser.seesText('5 papers');
  await browser.select('Pages of a supplement', 'New pages are let in (40a)');
  await browser.click('button', 'Issue a supplement');
  await browser.seesText('Supplement 1 to issue 1 is being made');
  expect(await makeNextIssue()).toBe(true);
  while (await makeNextCopy());
  await other.again();
  await other.click('button', 'Contents');
  await other.click('link', 'Supplement 1 to issue 1');
  await other.seesText(/Supplement 1 to issue 1\s+Contents/u);
  await other.click('button', 'Contents');
  await other.seesText(/Let in: pages \d+a to \d+b/u);
});

it('withdrawn, it says so, and gives out nothing', async () => {
  await browser.goTo(`${server.url}/meeting/${meetingId}?part=packs`);
  await browser.click('button', 'Withdraw issue 1');
  await browser.fill('Why', 'The wrong dues');
  await browser.click('button', 'Withdraw it');
  await browser.seesText('Withdrawn: The wrong dues');
  await other.goTo(`${server.url}/meeting/${meetingId}?part=packs`);
  await other.click('link', 'Issue 1');
  await other.seesText('This issue was withdrawn: The wrong dues');
});

it('a pack of a place begins from nothing', async () => {
  await browser.goTo(`${server.url}/place/${placeId}`);
  await browser.click('button', 'This place');
  await browser.click('menuitem', 'Packs…');
  await browser.seesText('There is no pack here yet');
  await browser.fill('Name of a new pack', 'Visit of the surveyor');
  await browser.press(Key.ENTER);
  await browser.seesText('Nothing in it yet');
  await browser.click('button', 'Add “Tide tables”');
  await browser.seesText('1 paper, 4 pages with cover and contents');
});
