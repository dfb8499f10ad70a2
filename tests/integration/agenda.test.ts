import { execFileSync } from 'node:child_process';
import { fileBuffer } from '@/demo/file';
import type { ReadInputOf } from '@/core/contract';
import { addAttendees, answerMeeting, changeAttendee, removeAttendee } from '@/server/agenda/attendance';
import { beginAgenda } from '@/server/agenda/begin';
import { addItems, changeItem, moveItem, removeItem, setAgenda } from '@/server/agenda/items';
import { attachPapers, changePaper, detachPaper } from '@/server/agenda/papers';
import { fileAgenda, fileAgendas } from '@/server/agenda/printed';
import { agendaSheet } from '@/server/agenda/read';
import { atMoment } from '@/server/base/clock';
import { readContent } from '@/server/blobs/content';
import { contentFor } from '@/server/documents/content';
import { docketOf } from '@/server/documents/docket';
import { disposePapers } from '@/server/disposal/dispose';
import { journalOf } from '@/server/journal/read';
import { makeMeetings, meetingsOf, removeMeeting } from '@/server/meetings/meetings';
import { meetingsToCome } from '@/server/packs/coming';
import { createFolder } from '@/server/places/create';
import type { Actor } from '@/server/gate/actor';
import { dropLibrary, newcomer, refusedAs } from '../library';
import { placeOn, say } from '../sheets';
import { plainItem } from './calls';
import { beginExpecting, board, find, hidden, keeper, moment, now, reader, slots } from './expecting';

let secretary: Actor;
let chair: Actor;
let stranger: Actor;
/** Meetings of the board in order: 12 May, 14 July, 3 November. */
let meetings: readonly string[];

beforeAll(async () => {
  await beginExpecting();
  [secretary, chair, stranger] = (await Promise.all(
    ['Sec Retary', 'Cha Ir', 'Stran Ger'].map((name) => newcomer(keeper, name)),
  )) as [Actor, Actor, Actor];
  await say(keeper, placeOn(board), [
    { who: secretary, gives: ['see', 'take', 'add', 'amend'] },
    { who: chair, gives: ['see', 'take'] },
  ]);
  meetings = (await meetingsOf(keeper, { dossierId: board })).map(({ id }) => id);
});
afterAll(dropLibrary);

const sheet = (who: Actor, at: number) => agendaSheet(who, { of: { meetingId: meetings[at] ?? '' } });
const titles = async (who: Actor, at: number) => (await sheet(who, at)).items.map(({ title }) => title);
const idOf = async (at: number, title: string): Promise<string> =>
  (await sheet(keeper, at)).items.find((each) => each.title === title)?.id ?? '';
const begin = (of: ReadInputOf<'agenda.begin'>['of']) => now(() => beginAgenda(secretary, { of }));
const add = async (
  agendaId: string,
  words: readonly string[],
  parentId: string | null = null,
  beforeId: string | null = null,
) => (await now(() => addItems(secretary, { agendaId, parentId, beforeId, titles: [...words] }))).itemIds;
async function change(at: number, title: string, more: Partial<ReadInputOf<'agenda.changeItem'>>): Promise<void> {
  const row = (await sheet(keeper, at)).items.find((each) => each.title === title);
  if (!row) throw new Error(`There is no item ${title}`);
  const { id: itemId, revision } = row;
  await now(() => changeItem(secretary, { itemId, revision, ...plainItem, title, ...more }));
}
const paper = async (name: string, placeId = board) =>
  now(() => fileBuffer(keeper, placeId, `${name}.txt`, Buffer.from(`${name} of ${placeId}\n`)));
const agendaId = async (at: number): Promise<string> => (await sheet(keeper, at)).agenda?.id ?? '';

describe('the standing items of a dossier', () => {
  it('begin every agenda, each with what lies in it', async () => {
    const { agendaId: standing } = await begin({ dossierId: board });
    const [first, arising] = await add(standing, ['Apologies', 'Matters arising', 'Close']);
    await add(standing, ['Action log'], arising);
    const items = (await agendaSheet(keeper, { of: { dossierId: board } })).items;
    const row = items.find(({ id }) => id === arising);
    const says = {
      ...plainItem,
      title: 'Matters arising',
      takesCarried: true,
      minutes: 10,
      revision: row?.revision ?? 0,
    };
    await changeItem(secretary, { itemId: arising ?? '', ...says });
    const begun = await begin({ meetingId: meetings[0] ?? '' });
    expect(begun).toMatchObject({ standing: 4, carried: 0 });
    expect(await titles(reader, 0)).toEqual(['Apologies', 'Matters arising', 'Action log', 'Close']);
    // They are the meeting's own from then on.
    expect(items.map(({ id }) => id)).toContain(first);
    expect((await sheet(keeper, 0)).items.map(({ id }) => id)).not.toContain(first);
  });

  it('are begun once, also by two at once', async () => {
    const twice = [1, 2].map(() =>
      begin({ meetingId: meetings[2] ?? '' }).then(
        () => 'begun',
        (error) => refusedAs(Promise.reject(error as Error)),
      ),
    );
    expect((await Promise.all(twice)).sort()).toEqual(['begun', 'conflict']);
    expect(await titles(keeper, 2)).toHaveLength(4);
  });
});

describe('who attends', () => {
  it('is written down once each, answers for themselves, and is asked again at the next meeting', async () => {
    const meetingId = meetings[0] ?? '';
    const people: ReadInputOf<'attendance.add'>['people'] = [
      { personId: chair.personId, name: 'whoever', part: 'member' },
      { personId: null, name: 'Harbour engineer', part: 'inAttendance' },
    ];
    await addAttendees(secretary, { meetingId, people });
    expect(await addAttendees(secretary, { meetingId, people })).toEqual({ added: 0 });
    await answerMeeting(chair, { meetingId, answer: 'apologies' });
    expect(await refusedAs(answerMeeting(reader, { meetingId, answer: 'coming' }))).toBe('not-allowed');
    expect(await refusedAs(addAttendees(reader, { meetingId, people }))).toBe('not-allowed');
    const { attendees } = await sheet(chair, 0);
    expect(attendees.map(({ name, answer, isMe }) => [name, answer, isMe])).toEqual([
      ['Cha Ir', 'apologies', true],
      ['Harbour engineer', null, false],
    ]);
    const guest = attendees[1]?.id ?? '';
    await changeAttendee(secretary, { attendeeId: guest, part: 'member', answer: 'coming' });
    expect((await sheet(keeper, 0)).attendees.map(({ part }) => part)).toEqual(['member', 'member']);
    await removeAttendee(secretary, { attendeeId: guest });
    expect((await sheet(keeper, 0)).attendees).toHaveLength(1);
  });
});

describe('the meetings to come', () => {
  it('are told to those who are asked to them, from today on', async () => {
    const meetingId = meetings[2] ?? '';
    expect(await now(() => meetingsToCome(chair))).toEqual([]);
    await addAttendees(secretary, {
      meetingId,
      people: [chair, stranger].map(({ personId, name }) => ({ personId, name, part: 'member' as const })),
    });
    const told = await now(() => meetingsToCome(chair));
    expect(told).toMatchObject([{ meetingId, day: '2026-11-03', dossierName: 'Board', answer: null, issue: null }]);
    // Asked or not: what is not open to somebody is not told to them.
    expect(await now(() => meetingsToCome(stranger))).toEqual([]);
    const after = new Date('2026-11-04T10:00:00Z');
    expect(await atMoment(after, () => meetingsToCome(chair))).toEqual([]);
  });
});

describe('items', () => {
  it('are added, moved and numbered in order, by those who may amend the dossier alone', async () => {
    const id = await agendaId(0);
    const close = await idOf(0, 'Close');
    await add(id, ['Dredging', 'Pontoon'], null, close);
    await add(id, ['Cost', 'Tide tables'], await idOf(0, 'Dredging'));
    expect(await titles(keeper, 0)).toEqual([
      ...['Apologies', 'Matters arising', 'Action log', 'Dredging', 'Cost', 'Tide tables', 'Pontoon', 'Close'],
    ]);
    await now(async () =>
      moveItem(secretary, { itemId: await idOf(0, 'Dredging'), parentId: null, beforeId: await idOf(0, 'Apologies') }),
    );
    expect((await titles(keeper, 0)).slice(0, 4)).toEqual(['Dredging', 'Cost', 'Tide tables', 'Apologies']);
    const into = { parentId: await idOf(0, 'Cost'), beforeId: null };
    expect(await refusedAs(moveItem(secretary, { itemId: await idOf(0, 'Dredging'), ...into }))).toBe('invalid');
    for (const [who, kind] of [
      [reader, 'not-allowed'],
      [stranger, 'not-found'],
    ] as const)
      expect(await refusedAs(addItems(who, { agendaId: id, parentId: null, beforeId: null, titles: ['Mine'] }))).toBe(
        kind,
      );
  });

  it('stay whole when two move and add at once', async () => {
    const id = await agendaId(0);
    const [cost, pontoon, close] = await Promise.all(['Cost', 'Pontoon', 'Close'].map((each) => idOf(0, each)));
    await Promise.all([
      now(() => moveItem(secretary, { itemId: cost ?? '', parentId: null, beforeId: null })),
      now(() => moveItem(keeper, { itemId: pontoon ?? '', parentId: close ?? '', beforeId: null })),
      add(id, ['Any other business']),
    ]);
    const { items } = await sheet(keeper, 0);
    expect(items).toHaveLength(9);
    expect(items.find(({ title }) => title === 'Pontoon')?.parentId).toBe(close);
    expect(items.find(({ title }) => title === 'Cost')?.parentId).toBeNull();
  });

  it('are not overwritten by a change of what was there before', async () => {
    const { id, revision } = (await sheet(keeper, 0)).items.find(({ title }) => title === 'Close') ?? {
      id: '',
      revision: 0,
    };
    await changeItem(secretary, { itemId: id, ...plainItem, title: 'Close', minutes: 5, revision });
    const late = { itemId: id, ...plainItem, title: 'The end', revision };
    expect(await refusedAs(changeItem(keeper, late))).toBe('conflict');
    expect(await titles(keeper, 0)).toContain('Close');
  });

  it('are taken off with all that lie in them, and put back where they were', async () => {
    const before = await titles(keeper, 0);
    const itemId = await idOf(0, 'Dredging');
    expect(await now(() => removeItem(secretary, { itemId, removed: true }))).toEqual({ items: 2 });
    expect(await titles(keeper, 0)).not.toContain('Tide tables');
    expect(await refusedAs(removeItem(keeper, { itemId, removed: true }))).toBe('conflict');
    await now(() => removeItem(secretary, { itemId, removed: false }));
    expect(await titles(keeper, 0)).toEqual(before);
  });

  it('keep a meeting from being removed', async () => {
    const [meeting] = await meetingsOf(keeper, { dossierId: board });
    expect(
      await refusedAs(removeMeeting(keeper, { meetingId: meeting?.id ?? '', revision: meeting?.revision ?? 0 })),
    ).toBe('conflict');
  });

  it('are carried over to the next agenda, papers and readers with them', async () => {
    const itemId = await idOf(0, 'Dredging');
    await now(async () => attachPapers(secretary, { itemId, documentIds: [await paper('Survey')] }));
    await change(0, 'Dredging', { carriesOver: true, readers: [chair.personId] });
    // One that lies in it goes along, and not twice.
    await change(0, 'Tide tables', { carriesOver: true });
    expect(await begin({ meetingId: meetings[1] ?? '' })).toMatchObject({ standing: 4, carried: 2 });
    const { items, attendees } = await sheet(chair, 1);
    expect(items.map(({ title, carriedFrom }) => [title, carriedFrom])).toEqual([
      ['Apologies', null],
      ['Matters arising', null],
      ['Action log', null],
      ['Dredging', '2026-05-12'],
      ['Tide tables', '2026-05-12'],
      ['Close', null],
    ]);
    expect(items[3]).toMatchObject({ parentId: items[1]?.id, papers: [{ title: 'Survey' }], carriesOver: false });
    expect(items[4]?.parentId).toBe(items[3]?.id);
    expect(attendees.map(({ name, answer }) => [name, answer])).toEqual([['Cha Ir', null]]);
    expect(await titles(reader, 1)).toEqual(['Apologies', 'Matters arising', 'Action log', null, null, 'Close']);
  });
});

describe('what is confidential', () => {
  it('is told to its readers and to who may change the agenda, with all that lies in it; others are told the number', async () => {
    const told = async (who: Actor) =>
      (await sheet(who, 0)).items.filter(({ title }) => title === null || ['Dredging', 'Tide tables'].includes(title));
    expect((await told(chair)).map(({ title, papers }) => [title, papers.length])).toEqual([
      ['Dredging', 1],
      ['Tide tables', 0],
    ]);
    expect((await told(secretary)).map(({ readers }) => readers?.map(({ name }) => name))).toEqual([
      ['Cha Ir'],
      undefined,
    ]);
    const [hidden, inIt] = await told(reader);
    expect(hidden).toEqual({
      ...plainItem,
      id: await idOf(0, 'Dredging'),
      parentId: null,
      title: null,
      carriedFrom: null,
      papers: [],
      calls: [],
      revision: hidden?.revision,
    });
    expect(inIt?.title).toBeNull();
    expect(await refusedAs(sheet(stranger, 0))).toBe('not-found');
  });

  it('is not told by the journal either', async () => {
    const lines = await journalOf(reader, { subject: 'place', id: board, before: null });
    expect(JSON.stringify(lines)).toContain('agenda of');
    expect(JSON.stringify(lines)).not.toContain('Dredging');
  });
});

describe('what was confidential', () => {
  it('stays so on the next agenda, also where what it lay in does not come along', async () => {
    const days = ['2026-12-01', '2026-12-08'];
    await now(() => makeMeetings(keeper, { dossierId: hidden, days, title: 'Meeting', venue: '' }));
    await say(
      keeper,
      placeOn(hidden),
      [
        { who: secretary, gives: ['see', 'amend'] },
        ...[chair, reader].map((who) => ({ who, gives: ['see'] as const })),
      ],
      false,
    );
    const [first, second] = (await meetingsOf(keeper, { dossierId: hidden })).slice(-2).map(({ id }) => id);
    const told = async (who: Actor, meetingId = '') =>
      (await agendaSheet(who, { of: { meetingId } })).items.map(({ title }) => title);
    const { agendaId: id } = await begin({ meetingId: first ?? '' });
    const [outer] = await add(id, ['Candidates']);
    const [inner] = await add(id, ['A name'], outer);
    const says = (itemId: string, title: string, more: object) =>
      changeItem(secretary, { itemId, ...plainItem, title, revision: 0, ...more });
    await says(outer ?? '', 'Candidates', { readers: [chair.personId] });
    await says(inner ?? '', 'A name', { carriesOver: true });
    await begin({ meetingId: second ?? '' });
    expect(await told(chair, second)).toEqual(['Matters carried over', 'A name']);
    expect(await told(reader, second)).toEqual(['Matters carried over', null]);
    // Nor does it come back by itself where what it lay in is gone.
    await removeItem(secretary, { itemId: inner ?? '', removed: true });
    await removeItem(secretary, { itemId: outer ?? '', removed: true });
    expect(await refusedAs(removeItem(secretary, { itemId: inner ?? '', removed: false }))).toBe('conflict');
    await removeItem(secretary, { itemId: outer ?? '', removed: false });
    await removeItem(secretary, { itemId: inner ?? '', removed: false });
    expect(await told(reader, first)).toEqual([null, null]);
  });
});

describe('papers of an item', () => {
  it('stay where they live, are told of to those who may see them, and follow the newest version unless one is held', async () => {
    const closed = await now(() => createFolder(keeper, { parentId: board, name: 'Closed matters' }));
    await say(keeper, placeOn(closed.id), [], false);
    const [open1, closed1] = [await paper('Rates'), await paper('Dispute', closed.id)];
    const itemId = await idOf(0, 'Pontoon');
    expect(await refusedAs(attachPapers(secretary, { itemId, documentIds: [closed1] }))).toBe('not-found');
    const attached = await now(() => attachPapers(keeper, { itemId, documentIds: [open1, closed1, open1] }));
    expect(attached).toEqual({ attached: 2, already: 0 });
    expect(await now(() => attachPapers(keeper, { itemId, documentIds: [open1] }))).toEqual({
      attached: 0,
      already: 1,
    });
    const papers = async (who: Actor) => (await sheet(who, 0)).items.find(({ id }) => id === itemId)?.papers ?? [];
    expect((await papers(keeper)).map(({ title }) => title)).toEqual(['Rates', 'Dispute']);
    expect((await papers(reader)).map(({ title }) => title)).toEqual(['Rates']);
    const [rates, dispute] = await papers(keeper);
    await now(() => changePaper(secretary, { agendaPaperId: rates?.id ?? '', heldVersion: 1, beforeId: null }));
    expect((await papers(keeper)).map(({ title, heldVersion }) => [title, heldVersion])).toEqual([
      ['Dispute', null],
      ['Rates', 1],
    ]);
    expect(await refusedAs(changePaper(secretary, { agendaPaperId: rates?.id ?? '', heldVersion: 9 }))).toBe('invalid');
    expect(await refusedAs(detachPaper(secretary, { agendaPaperId: dispute?.id ?? '' }))).toBe('not-found');
    await now(() => disposePapers(keeper, { documentIds: [open1] }));
    // Who may put it back is told that it lies in the tray; to others it is gone.
    expect((await papers(keeper)).map(({ title, disposed }) => [title, disposed])).toEqual([
      ['Dispute', false],
      ['Rates', true],
    ]);
    expect(await papers(reader)).toEqual([]);
    await detachPaper(keeper, { agendaPaperId: dispute?.id ?? '' });
    expect(await papers(keeper)).toHaveLength(1);
  });
});

describe('the printed agenda', () => {
  const text = async (documentId: string): Promise<string> => {
    const content = await contentFor(keeper, { documentId, version: null, attachment: null }, 'take');
    const pieces: Uint8Array[] = [];
    for await (const piece of readContent(content)) pieces.push(piece);
    return execFileSync('pdftotext', ['-layout', '-', '-'], { input: Buffer.concat(pieces), encoding: 'utf8' });
  };

  it('is filed where the plan expects it, in two forms, without what is confidential', async () => {
    const id = await agendaId(0);
    await setAgenda(secretary, { agendaId: id, startsAt: 18 * 60 + 30, numbering: 'letters', revision: 0 });
    await attachPapers(secretary, { itemId: await idOf(0, 'Cost'), documentIds: [await paper('Estimate')] });
    expect(await refusedAs(fileAgenda(reader, { agendaId: id }))).toBe('not-allowed');
    await now(() => fileAgenda(secretary, { agendaId: id }));
    expect(await now(fileAgendas)).toBe(1);
    const { agenda } = await sheet(reader, 0);
    expect(agenda?.filing).toBe('done');
    expect(agenda?.filed.map(({ title }) => title)).toEqual([
      'Agenda 12 May 2026',
      'Word form of the agenda 12 May 2026',
    ]);
    const pdfId = agenda?.filed[0]?.documentId ?? '';
    const says = await text(pdfId);
    expect(says).toContain('Confidential item');
    expect(says).not.toContain('Dredging');
    expect(says).not.toContain('Survey');
    expect(says).toContain('Paper: Estimate');
    // Matters arising takes ten minutes and the close five: worked out by hand.
    expect(says).toMatch(/Ends at 18:45/u);
    expect(find(await slots(keeper), 'Agenda', '2026-05-12')).toMatchObject({ state: 'met', paper: { id: pdfId } });
  });

  it('is made again as a new version once the agenda has changed and rests, and not where nothing has', async () => {
    await change(0, 'Cost', { title: 'Cost of dredging' });
    const later = (seconds: number) => atMoment(new Date(moment.getTime() + seconds * 1000), fileAgendas);
    expect(await later(30)).toBe(0);
    // Two workers at once file it once.
    expect((await Promise.all([later(90), later(90)])).sort()).toEqual([0, 1]);
    const { agenda } = await sheet(keeper, 0);
    const docket = await docketOf(keeper, { documentId: agenda?.filed[0]?.documentId ?? '' });
    expect(docket.versions.map(({ number }) => number)).toEqual([2, 1]);
    await change(0, 'Cost of dredging', { title: 'Cost' });
    await change(0, 'Cost', { title: 'Cost of dredging' });
    expect(await later(200)).toBe(1);
    const again = await docketOf(keeper, { documentId: agenda?.filed[0]?.documentId ?? '' });
    expect(again.versions).toHaveLength(2);
  });

  it('says what failed, and is tried no more than a few times', async () => {
    const { agenda } = await sheet(keeper, 0);
    await now(() => fileAgenda(secretary, { agendaId: agenda?.id ?? '' }));
    await say(keeper, placeOn(board), [{ who: reader, gives: ['see'] }], false);
    for (let attempt = 0; attempt < 5; attempt += 1) expect(await now(fileAgendas)).toBe(0);
    await now(fileAgendas);
    expect((await sheet(keeper, 0)).agenda?.filing).toBe('failed');
  });
});
