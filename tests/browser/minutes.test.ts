import { By, Key } from 'selenium-webdriver';
import { addAttendees } from '@/server/agenda/attendance';
import { addItems, changeItem } from '@/server/agenda/items';
import { beginAgenda } from '@/server/agenda/begin';
import type { Actor } from '@/server/gate/actor';
import { makeMeetings, meetingsOf } from '@/server/meetings/meetings';
import { minutesOf } from '@/server/minutes/minutes';
import { freshLibrary, furnished, newcomer, passwords } from '../library';
import { plainItem } from '../integration/calls';
import { placeOn, say } from '../sheets';
import { anotherBrowser, begin, end } from './stage';
import type { Browser } from './browser';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let other: Browser;
let keeper: Actor;
let member: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
/** Of the meeting that was, and the one to come. */
let meetings: readonly string[];

beforeAll(async () => {
  keeper = await freshLibrary();
  member = await newcomer(keeper, 'Mem Ber');
  home = await furnished(keeper);
  await say(keeper, placeOn(home.series.id), [{ who: member, gives: ['see', 'take'] }]);
  const dossierId = home.dossier.id;
  await makeMeetings(keeper, { dossierId, days: ['2026-11-10', '2027-01-12'], title: 'Meeting', venue: 'Net loft' });
  meetings = (await meetingsOf(keeper, { dossierId })).map(({ id }) => id);
  const [meetingId = '', nextId = ''] = meetings;
  const { agendaId } = await beginAgenda(keeper, { of: { meetingId } });
  const titles = ['Apologies', 'Harbour works', 'Claim'];
  const { itemIds } = await addItems(keeper, { agendaId, parentId: null, beforeId: null, titles });
  await changeItem(keeper, { itemId: itemIds[2] ?? '', ...plainItem, title: 'Claim', readers: [], revision: 0 });
  await addAttendees(keeper, {
    meetingId,
    people: [
      { personId: member.personId, name: 'Mem Ber', part: 'member' },
      { personId: null, name: 'Gue St', part: 'member' },
    ],
  });
  await beginAgenda(keeper, { of: { meetingId: nextId } });
  ({ server, browser } = await begin(keeper));
  other = await anotherBrowser();
});
afterAll(() => end());

const choose = async (list: string, option: string) => browser.select(list, option);
/** Types into what has the focus, and sends it off by keys. */
async function enter(words: string): Promise<void> {
  await browser.press(words);
  await browser.chord(Key.CONTROL, Key.ENTER);
}
const meetingPage = (at: number) => `${server.url}/meeting/${meetings[at] ?? ''}?part=minutes`;

it('decisions and actions are recorded by item, by keyboard', async () => {
  await browser.goTo(meetingPage(0));
  await browser.click('button', 'Record a decision under 2 Harbour works');
  await enter('Piles are let to the lowest tender');
  await browser.seesText('Piles are let to the lowest tender');
  await browser.click('button', 'Record an action under 2 Harbour works');
  await browser.chord(Key.CONTROL, Key.ENTER);
  await browser.seesText('What was decided, or is to be done?');
  await browser.fill('What is to be done', 'Write to the firms');
  await browser.click('button', 'Who does it');
  await browser.click('option', /Mem Ber/u);
  await browser.driver.findElement(By.css('input[type="date"]')).sendKeys('12012026');
  await browser.click('button', 'Record the action');
  await browser.seesText('Mem Ber, by 1 Dec 2026');
  await browser.click('button', 'Record a decision under 3 Claim');
  await enter('The claim is settled');
  await browser.seesText('The claim is settled');
});

it('minutes begin as a note with all that, and what comes later is put in', async () => {
  for (const [name, presence] of [
    ['Mem Ber', 'Present'],
    ['Gue St', 'Apologies'],
  ] as const)
    await choose(`Whether ${name} was there`, presence);
  await browser.seesText('1 of 2 members was present.');
  await browser.click('button', 'Begin the minutes');
  await browser.seesText('Draft: no meeting has agreed them yet.');
  await browser.click('button', 'Record a decision under 1 Apologies');
  await enter('Apologies are noted');
  await browser.seesText('1 decision or action is not in the minutes as below.');
  await browser.click('button', 'Put them into the minutes');
  await browser.seesText('1 line put into the minutes');
  await browser.click('link', 'Write in them');
  await browser.seesText('Decision: Apologies are noted');
  const text = await browser.text();
  expect(text).toContain('Action: Write to the firms (Mem Ber, by 1 Dec 2026)');
  expect(text).toContain('Confidential item');
  expect(text).not.toContain('settled');
});

it('who is to do something has it on the desk, says that it is done, and reads no more than they may', async () => {
  await other.signIn(server.url, member.email, passwords.others);
  await other.seesText('Write to the firms');
  await other.goTo(`${server.url}/decisions/${home.dossier.id}`);
  await other.seesText('2 decisions');
  expect(await other.text()).not.toContain('settled');
  await other.fill('Words to look for', 'lowest');
  await other.seesText('1 decision');
  await other.click('tab', 'Actions');
  await other.seesText('Nothing matches');
  await other.goTo(`${server.url}/meeting/${meetings[1] ?? ''}`);
  await other.seesText(/actions from earlier meetings/iu);
  await other.goTo(`${server.url}/desk`);
  await other.click('button', 'Done: Write to the firms');
  await other.seesText('is done');
  await other.click('button', 'Undo');
  await other.until(
    'it is there again',
    async () => (await other.all('button', 'Done: Write to the firms'))[0] ?? null,
  );
  await other.click('button', 'Done: Write to the firms');
  await other.until('it to go', async () => (await other.all('button', 'Done: Write to the firms')).length === 0);
  await other.goTo(meetingPage(0));
  await other.seesText('done on');
  expect(await other.all('button', /^Record/u)).toEqual([]);
});

it('a later meeting agrees them, and it shows when they change', async () => {
  await browser.goTo(meetingPage(0));
  await choose('Which meeting agreed the minutes', 'the meeting of 12');
  await browser.seesText('Agreed on 12 Jan 2027, as version 2.');
  const { minutes } = await minutesOf(member, { meetingId: meetings[0] ?? '' });
  expect(minutes?.agreed).toMatchObject({ isChanged: false });
});
