import { execFileSync } from 'node:child_process';
import { eq } from 'drizzle-orm';
import * as Y from 'yjs';
import { noteField } from '@/core/notes/extensions';
import { addAttendees } from '@/server/agenda/attendance';
import { beginAgenda } from '@/server/agenda/begin';
import { addItems, changeItem, removeItem } from '@/server/agenda/items';
import { fileAgenda, fileAgendas } from '@/server/agenda/printed';
import { agendaSheet } from '@/server/agenda/read';
import { readContent } from '@/server/blobs/content';
import { contentFor, currentOf } from '@/server/documents/content';
import { writableDb } from '@/server/db/client';
import { place } from '@/server/db/schema';
import { journalOf } from '@/server/journal/read';
import { meetingsOf } from '@/server/meetings/meetings';
import { agreeMinutes, beginMinutes, minutesOf, writeInto } from '@/server/minutes/minutes';
import { myActions, openActions, registerOf } from '@/server/agenda/outcomes';
import { changeOutcome, noteAttendance, recordOutcome, removeOutcome, settleAction } from '@/server/minutes/record';
import { beginNote, writeNote } from '@/server/notes/write';
import type { Actor } from '@/server/gate/actor';
import { dropLibrary, newcomer, refusedAs } from '../library';
import { placeOn, say } from '../sheets';
import { plainItem, plainOutcome } from './calls';
import { beginExpecting, board, file, find, keeper, now, reader, series, slots } from './expecting';

let secretary: Actor;
let chair: Actor;
let member: Actor;
let stranger: Actor;
/** The meetings of the board: 12 May, 14 July, 3 November. */
let meetings: readonly string[];
const items = new Map<string, string>();
const itemOf = (title: string): string => items.get(title) ?? '';

async function begin(at: number, ...titles: string[]): Promise<void> {
  const { agendaId } = await now(() => beginAgenda(secretary, { of: { meetingId: meetings[at] ?? '' } }));
  const { itemIds } = await now(() => addItems(secretary, { agendaId, parentId: null, beforeId: null, titles }));
  for (const [index, title] of titles.entries()) items.set(title, itemIds[index] ?? '');
}

/** Who may do what in the board's dossier. */
const openBoard = (...more: Actor[]) =>
  say(keeper, placeOn(board), [
    { who: secretary, gives: ['see', 'take', 'add', 'amend'] },
    ...[chair, member, ...more].map((who) => ({ who, gives: ['see', 'take'] as const })),
  ]);

beforeAll(async () => {
  await beginExpecting();
  [secretary, chair, member, stranger] = (await Promise.all(
    ['Sec Retary', 'Cha Ir', 'Mem Ber', 'Stran Ger'].map((name) => newcomer(keeper, name)),
  )) as [Actor, Actor, Actor, Actor];
  await openBoard();
  meetings = (await meetingsOf(keeper, { dossierId: board })).map(({ id }) => id);
  await begin(0, 'Dredging', 'Claim', 'Dues');
  await begin(1, 'Works', 'Closed matter');
  await begin(2, 'Matters arising');
  await changeItem(secretary, {
    itemId: itemOf('Claim'),
    ...plainItem,
    title: 'Claim',
    readers: [chair.personId],
    revision: 0,
  });
});
afterAll(dropLibrary);

const sheet = (who: Actor, at: number) => now(() => minutesOf(who, { meetingId: meetings[at] ?? '' }));
const record = (title: string, kind: 'decision' | 'action', text: string, more: object = {}) =>
  now(() => recordOutcome(secretary, { itemId: itemOf(title), kind, ...plainOutcome, text, ...more }));
const told = async (who: Actor, at: number) => (await sheet(who, at)).outcomes.map(({ text }) => text);

async function bytesOf(documentId: string): Promise<Buffer> {
  const pieces: Uint8Array[] = [];
  for await (const piece of readContent(await contentFor(keeper, currentOf(documentId), 'see'))) pieces.push(piece);
  return Buffer.concat(pieces);
}

/** The lines of a note as it is kept. */
async function lines(documentId: string): Promise<string[]> {
  const [, body = ''] = (await bytesOf(documentId)).toString().split('<body>');
  return body
    .replace(/<\/(?:p|h\d|li)>/gu, '\n')
    .replace(/<[^>]+>/gu, '')
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');
}

describe('decisions and actions', () => {
  it('are told as their item is: of a confidential one to its readers, who may change the agenda, and who does it', async () => {
    await record('Dredging', 'decision', 'The tender is let');
    await record('Claim', 'decision', 'The claim is settled');
    await record('Claim', 'action', 'Pay the tenant', { personId: member.personId, dueOn: '2026-09-01' });
    expect(await told(secretary, 0)).toEqual(['The tender is let', 'The claim is settled', 'Pay the tenant']);
    expect(await told(chair, 0)).toEqual(['The tender is let', 'The claim is settled', 'Pay the tenant']);
    expect(await told(member, 0)).toEqual(['The tender is let', 'Pay the tenant']);
    expect(await told(reader, 0)).toEqual(['The tender is let']);
    expect(await refusedAs(sheet(stranger, 0))).toBe('not-found');
    const entries = await journalOf(reader, { subject: 'place', id: board, before: null });
    expect(JSON.stringify(entries)).not.toContain('tenant');
  });

  it('stand on the desk of who does them until they are done, the first due first', async () => {
    await record('Dues', 'action', 'Print the dues', { personId: member.personId });
    await record('Dues', 'action', 'Order the buoys', { personId: member.personId, dueOn: '2026-08-03' });
    const desk = async () => (await now(() => myActions(member))).map(({ text, dueOn }) => [text, dueOn]);
    expect(await desk()).toEqual([
      ['Order the buoys', '2026-08-03'],
      ['Pay the tenant', '2026-09-01'],
      ['Print the dues', null],
    ]);
    const [first] = await now(() => myActions(member));
    await now(() => settleAction(member, { outcomeId: first?.id ?? '', done: true, remark: 'By letter' }));
    expect(await desk()).toHaveLength(2);
    const done = (await sheet(reader, 0)).outcomes.find(({ text }) => text === 'Order the buoys');
    expect(done?.done).toEqual({ on: '2026-09-15', by: 'Mem Ber', remark: 'By letter' });
    expect(await refusedAs(settleAction(member, { outcomeId: first?.id ?? '', done: true, remark: '' }))).toBe(
      'conflict',
    );
    expect(await refusedAs(settleAction(chair, { outcomeId: first?.id ?? '', done: false, remark: '' }))).toBe(
      'not-allowed',
    );
    await now(() => settleAction(secretary, { outcomeId: first?.id ?? '', done: false, remark: '' }));
    expect(
      await refusedAs(now(() => settleAction(secretary, { outcomeId: first?.id ?? '', done: false, remark: '' }))),
    ).toBe('conflict');
    // In a place that is locked nobody changes anything, who does it neither.
    await writableDb().update(place).set({ locked: true }).where(eq(place.id, board));
    expect(
      await refusedAs(now(() => settleAction(member, { outcomeId: first?.id ?? '', done: true, remark: '' }))),
    ).toBe('locked');
    await writableDb().update(place).set({ locked: false }).where(eq(place.id, board));
    expect(await desk()).toHaveLength(3);
  });

  it('are done by nobody who may not see the dossier', async () => {
    await expect(record('Dues', 'action', 'X', { personId: stranger.personId })).rejects.toMatchObject({
      issue: { fields: [{ path: 'personId', says: expect.stringContaining('may not see') as string }] },
    });
    // Who lost access has them on no desk either.
    const passing = await newcomer(keeper, 'Pas Sing');
    await openBoard(passing);
    await record('Dues', 'action', 'Pass by', { personId: passing.personId });
    expect(await now(() => myActions(passing))).toHaveLength(1);
    await openBoard();
    expect(await now(() => myActions(passing))).toEqual([]);
    expect(await told(reader, 0)).toContain('Pass by');
    const { outcomes } = await sheet(secretary, 0);
    const { id } = outcomes.find(({ text }) => text === 'Pass by') ?? { id: '' };
    await now(() => removeOutcome(secretary, { outcomeId: id, removed: true }));
    expect(await told(secretary, 0)).not.toContain('Pass by');
  });

  it('of two who change one the second is told, and an item that came to something stays', async () => {
    const { outcomeId } = await record('Works', 'decision', 'First words');
    const change = (text: string) =>
      now(() => changeOutcome(secretary, { outcomeId, ...plainOutcome, text, revision: 0 }));
    const ends = await Promise.allSettled([change('One'), change('Other')]);
    expect(ends.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(await refusedAs(removeItem(secretary, { itemId: itemOf('Works'), removed: true }))).toBe('conflict');
    await now(() => removeOutcome(secretary, { outcomeId, removed: true }));
    await now(() => removeItem(secretary, { itemId: itemOf('Works'), removed: true }));
    await now(() => removeItem(secretary, { itemId: itemOf('Works'), removed: false }));
  });

  it('are on the next agenda while they are open, and on its printed form without what is confidential', async () => {
    const at = (who: Actor, meeting: number) => now(() => openActions(who, { meetingId: meetings[meeting] ?? '' }));
    expect((await at(secretary, 2)).map(({ text, number }) => [number, text])).toEqual([
      ['2', 'Pay the tenant'],
      ['3', 'Print the dues'],
      ['3', 'Order the buoys'],
    ]);
    expect((await at(reader, 2)).map(({ text }) => text)).toEqual(['Print the dues', 'Order the buoys']);
    expect(await at(reader, 0)).toEqual([]);
    const { agenda } = await agendaSheet(secretary, { of: { meetingId: meetings[2] ?? '' } });
    await now(() => fileAgenda(secretary, { agendaId: agenda?.id ?? '' }));
    expect(await now(() => fileAgendas())).toBe(1);
    const { agenda: filed } = await agendaSheet(secretary, { of: { meetingId: meetings[2] ?? '' } });
    const pdf = filed?.filed.find(({ title }) => title.startsWith('Agenda'))?.documentId ?? '';
    const input = await bytesOf(pdf);
    const text = execFileSync('pdftotext', ['-layout', '-', '-'], { input, encoding: 'utf8' });
    expect(text).toContain('12 May 2026, item 3: Order the buoys (Mem Ber, by 3 Aug 2026)');
    expect(text).not.toContain('tenant');
  });
});

describe('the register', () => {
  const found = async (who: Actor, more: object = {}) =>
    (
      await now(() =>
        registerOf(who, {
          placeId: who === reader ? series : board,
          kind: 'decision',
          words: '',
          year: null,
          openOnly: false,
          ...more,
        }),
      )
    ).rows.map(({ text }) => text);

  it('has the decisions of all meetings in a place, as far as somebody is told of them', async () => {
    await record('Works', 'decision', 'The café is closed');
    expect(await found(secretary)).toEqual(['The café is closed', 'The tender is let', 'The claim is settled']);
    expect(await found(reader)).toEqual(['The café is closed', 'The tender is let']);
    expect(await found(reader, { words: 'CAFE closed' })).toEqual(['The café is closed']);
    expect(await found(reader, { words: 'claim' })).toEqual([]);
    expect(await found(reader, { year: 2025 })).toEqual([]);
    expect(await found(secretary, { kind: 'action', words: 'mem ber', openOnly: true })).toHaveLength(3);
    expect(await refusedAs(found(stranger))).toBe('not-found');
  });
});

describe('minutes', () => {
  it('begin where the plan expects them, with who was there and what was decided, without what is confidential', async () => {
    const meetingId = meetings[0] ?? '';
    await now(() =>
      addAttendees(secretary, {
        meetingId,
        people: [
          { personId: chair.personId, name: 'Chair', part: 'member' },
          { personId: member.personId, name: 'Member', part: 'member' },
          { personId: null, name: 'Guest', part: 'inAttendance' },
        ],
      }),
    );
    const { attendees } = await agendaSheet(secretary, { of: { meetingId } });
    await now(() =>
      noteAttendance(secretary, {
        meetingId,
        people: attendees.map(({ id, name }) => ({
          attendeeId: id,
          presence: name === 'Mem Ber' ? 'apologies' : 'present',
        })),
      }),
    );
    const begun = await Promise.allSettled(
      [secretary, keeper].map((who) => now(() => beginMinutes(who, { meetingId, documentId: null }))),
    );
    // Of two who begin them at once one does.
    expect(begun.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    const { minutes, unwritten } = await sheet(secretary, 0);
    expect(minutes).toMatchObject({ title: 'Minutes of Board, 12 May 2026', isNote: true, agreed: null });
    expect(unwritten).toBe(0);
    expect(await lines(minutes?.documentId ?? '')).toEqual([
      'Minutes',
      'Board: Meeting',
      '12 May 2026',
      'Present: Cha Ir',
      'In attendance: Guest',
      'Apologies: Mem Ber',
      '1 of 2 members was present.',
      '1 Dredging',
      'Decision: The tender is let',
      '2 Confidential item',
      '3 Dues',
      'Action: Print the dues (Mem Ber)',
      'Action: Order the buoys (Mem Ber, by 3 Aug 2026)',
    ]);
    const slot = find(await slots(keeper), 'Minutes', '2026-05-12');
    expect([slot.state, slot.paper?.id]).toEqual(['met', minutes?.documentId]);
    expect((await sheet(stranger, 0).catch(() => null))?.minutes ?? null).toBe(null);
  });

  it('take what is recorded and changed since under its item, and what others write stays', async () => {
    const meetingId = meetings[0] ?? '';
    const { minutes, outcomes } = await sheet(secretary, 0);
    const documentId = minutes?.documentId ?? '';
    await record('Dredging', 'action', 'Tell the berth holders', { who: 'The dredger' });
    const buoys = outcomes.find(({ text }) => text === 'Order the buoys');
    const { id: outcomeId = '', revision = 0 } = buoys ?? {};
    await now(() => changeOutcome(secretary, { outcomeId, ...plainOutcome, text: 'Order two buoys', revision }));
    const prints = outcomes.find(({ text }) => text === 'Print the dues')?.id ?? '';
    await now(() => removeOutcome(secretary, { outcomeId: prints, removed: true }));
    expect((await sheet(secretary, 0)).unwritten).toBe(3);
    // Somebody writes in the note at the same time.
    const { round, number, changes } = await now(() => beginNote(keeper, { documentId }));
    const text = new Y.Doc();
    for (const { change } of changes) Y.applyUpdate(text, Buffer.from(change, 'base64'));
    const before = Y.encodeStateVector(text);
    const own = new Y.XmlElement('paragraph');
    own.insert(0, [new Y.XmlText('The chair thanked the crew.')]);
    text.getXmlFragment(noteField).insert(8, [own]);
    const typed = Buffer.from(Y.encodeStateAsUpdate(text, before)).toString('base64');
    const presses = await Promise.allSettled([
      now(() => writeNote(keeper, { documentId, round, after: number, changes: [typed] })),
      now(() => writeInto(secretary, { meetingId })),
      now(() => writeInto(secretary, { meetingId })),
    ]);
    expect(presses[0].status).toBe('fulfilled');
    await now(() => writeInto(secretary, { meetingId }));
    expect((await sheet(secretary, 0)).unwritten).toBe(0);
    expect((await lines(documentId)).slice(7)).toEqual([
      '1 Dredging',
      'The chair thanked the crew.',
      'Decision: The tender is let',
      'Action: Tell the berth holders (The dredger)',
      '2 Confidential item',
      '3 Dues',
      'Action: Order two buoys',
    ]);
  });

  it('lose the lines of an item that becomes confidential', async () => {
    const { minutes } = await sheet(secretary, 0);
    await now(() =>
      changeItem(secretary, { itemId: itemOf('Dues'), ...plainItem, title: 'Dues', readers: [], revision: 0 }),
    );
    expect((await sheet(secretary, 0)).unwritten).toBe(1);
    expect(await now(() => writeInto(secretary, { meetingId: meetings[0] ?? '' }))).toEqual({ written: 1 });
    expect(await lines(minutes?.documentId ?? '')).not.toContain('Action: Order two buoys');
  });

  it('are agreed at a later meeting in the version that they are, and it shows when that changes', async () => {
    const [meetingId = '', nextId = ''] = meetings;
    expect(await refusedAs(agreeMinutes(secretary, { meetingId: nextId, atMeetingId: meetingId }))).toBe('not-found');
    expect(await refusedAs(agreeMinutes(secretary, { meetingId, atMeetingId: meetingId }))).toBe('invalid');
    expect(await refusedAs(agreeMinutes(reader, { meetingId, atMeetingId: nextId }))).toBe('not-allowed');
    await now(() => agreeMinutes(secretary, { meetingId, atMeetingId: nextId }));
    const { minutes } = await sheet(reader, 0);
    expect(minutes?.agreed).toMatchObject({ on: '2026-07-14', isChanged: false });
    await record('Dredging', 'decision', 'One more');
    await now(() => writeInto(secretary, { meetingId }));
    expect((await sheet(reader, 0)).minutes?.agreed).toMatchObject({ isChanged: true });
    await now(() => agreeMinutes(secretary, { meetingId, atMeetingId: null }));
    expect((await sheet(reader, 0)).minutes?.agreed).toBe(null);
  });

  it('can be a paper that was filed already, into which nothing is put', async () => {
    const meetingId = meetings[1] ?? '';
    const filed = await file('Minutes of July', find(await slots(keeper), 'Minutes', '2026-07-14'));
    expect((await sheet(secretary, 1)).found).toEqual({ documentId: filed, title: 'Minutes of July' });
    expect((await sheet(reader, 1)).found).toBe(null);
    await now(() => beginMinutes(secretary, { meetingId, documentId: filed }));
    expect((await sheet(reader, 1)).minutes).toMatchObject({ documentId: filed, isNote: false });
    expect(await refusedAs(writeInto(secretary, { meetingId }))).toBe('invalid');
  });
});
