import { randomUUID } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { addAttendees } from '@/server/agenda/attendance';
import { atMoment } from '@/server/base/clock';
import { removeEntry } from '@/server/packs/entries';
import { findInPack, spotsInPack } from '@/server/packs/find';
import { withdrawIssue } from '@/server/packs/issue';
import { leadThrough, ledBy } from '@/server/packs/lead';
import { changeNoteOnPage, packNotes, removeNoteOnPage, writeNoteOnPage } from '@/server/packs/notes';
import { packSheet } from '@/server/packs/read';
import { readPack } from '@/server/packs/reading';
import { tellOfIssue } from '@/server/packs/tell';
import { dropLibrary, refusedAs } from '../library';
import { keeper, moment, now } from './expecting';
import { beginPacking, begun, chair, entryOf, issued, meetingId, member, secretary, stranger } from './packing';

/** An issue of 19 pages: cover, contents, sheet, 3 of minutes, sheet, 3 of the plan, 2 of the tender, … the claim last. */
let packId: string;
let issueId: string;

beforeAll(async () => {
  await beginPacking();
  packId = await begun();
  issueId = await issued(packId);
});
afterAll(dropLibrary);

const notes = async (who = member, of = issueId) =>
  (await now(() => packNotes(who, { issueId: of }))).map(({ page, number, paper, text }) => [
    page,
    number,
    paper,
    text,
  ]);
async function write(page: number, text: string, who = member, noteId: string = randomUUID()): Promise<string> {
  await now(() => writeNoteOnPage(who, { issueId, noteId, page, text }));
  return noteId;
}

describe('own notes', () => {
  it('are kept by the page, and are nobody else’s', async () => {
    await write(12, 'Ask about the piles');
    const noteId = await write(5, '');
    expect(await notes()).toEqual([
      [5, '5', 'Minutes', ''],
      [12, '12', 'Tender', 'Ask about the piles'],
    ]);
    for (const who of [keeper, secretary, chair]) expect(await notes(who)).toEqual([]);
    expect(await refusedAs(now(() => changeNoteOnPage(keeper, { noteId, text: 'Mine', revision: 0 })))).toBe(
      'not-found',
    );
    expect(await refusedAs(now(() => removeNoteOnPage(keeper, { noteId })))).toBe('not-found');
    expect(await notes()).toHaveLength(2);
  });

  it('are refused where a page is of no paper, or not part of the copy', async () => {
    for (const page of [1, 2, 3, 15, 16, 999]) expect(await refusedAs(write(page, 'X'))).toBe('invalid');
    expect(await refusedAs(write(5, 'X', stranger))).toBe('not-found');
  });

  it('are kept once where one is sent again, and nobody takes another’s place in it', async () => {
    const noteId = await write(8, 'Sent twice');
    await Promise.all([write(8, 'Sent twice', member, noteId), write(8, 'Sent twice', member, noteId)]);
    expect((await notes()).filter(([page]) => page === 8)).toHaveLength(1);
    expect(await refusedAs(write(8, 'Mine', chair, noteId))).toBe('not-found');
    expect(await notes(chair)).toEqual([]);
    await now(() => removeNoteOnPage(member, { noteId }));
  });

  it('changed in two windows are not overwritten', async () => {
    const noteId = await write(8, 'First');
    const change = (text: string) => now(() => changeNoteOnPage(member, { noteId, text, revision: 0 }));
    const ends = await Promise.allSettled([change('One'), change('Other')]);
    expect(ends.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    await now(() => removeNoteOnPage(member, { noteId }));
  });

  it('are carried over to the next issue where the paper is the same, wherever it stands there', async () => {
    const plan = await entryOf(packId, 'Plan');
    await now(() => removeEntry(secretary, { entryId: plan.id, removed: true }));
    const next = await issued(packId);
    expect(await notes(member, next)).toEqual([
      [5, '5', 'Minutes', ''],
      [9, '9', 'Tender', 'Ask about the piles'],
    ]);
    await now(() => removeEntry(secretary, { entryId: plan.id, removed: false }));
  });
});

describe('finding in a pack', () => {
  const found = async (who: typeof member, phrase: string) =>
    (await now(() => findInPack(who, { issueId, phrase }))).pages.map(({ page, count }) => [page, count]);

  it('tells the pages of somebody’s own copy alone', async () => {
    expect(await found(member, 'tender page 2')).toEqual([[12, 1]]);
    expect(await found(member, 'claim page')).toEqual([]);
    expect(await found(secretary, 'claim page')).toEqual([16, 17, 18, 19].map((page) => [page, 1]));
    expect(await found(member, ' ')).toEqual([]);
    const { spots } = await now(() => spotsInPack(member, { issueId, phrase: 'tender page', page: 12 }));
    // Drawn at 60 points from the left of 595, and 100 from the foot of 842.
    expect(spots).toHaveLength(1);
    expect(spots[0]?.[0]?.left).toBeCloseTo(60 / 595, 1);
    expect(spots[0]?.[0]?.bottom).toBeCloseTo(1 - 100 / 842, 1);
  });
});

describe('whom one follows', () => {
  it('is a member who attends, or who may change the pack, at the page of one’s own copy, until they are silent', async () => {
    expect((await now(() => readPack(chair, { issueId }))).mayLead).toBe(false);
    expect(await refusedAs(now(() => leadThrough(chair, { issueId, page: 5 })))).toBe('not-allowed');
    await now(() =>
      addAttendees(secretary, { meetingId, people: [{ personId: chair.personId, name: 'Chair', part: 'member' }] }),
    );
    expect((await now(() => readPack(chair, { issueId }))).mayLead).toBe(true);
    await now(() => leadThrough(chair, { issueId, page: 12 }));
    const led = (who = member) => now(() => ledBy(who, { issueId }));
    expect(await led()).toEqual({ by: 'Cha Ir', isMe: false, number: '12', page: 12 });
    expect((await led(chair))?.isMe).toBe(true);
    // The secretary takes over, at a page that the member has not.
    await now(() => leadThrough(secretary, { issueId, page: 17 }));
    expect(await led()).toEqual({ by: 'Sec Retary', isMe: false, number: '17', page: null });
    // Who led before does not end it.
    await now(() => leadThrough(chair, { issueId, page: null }));
    expect((await led())?.by).toBe('Sec Retary');
    expect(await refusedAs(led(stranger))).toBe('not-found');
    const later = new Date(moment.getTime() + 60_000);
    expect(await atMoment(later, () => ledBy(member, { issueId }))).toBe(null);
  });
});

it('those who attend, have an account and may see it are told by mail, with nothing of what is in it', async () => {
  await now(() =>
    addAttendees(secretary, {
      meetingId,
      people: [member, stranger].map(({ personId, name }) => ({ personId, name, part: 'member' as const })),
    }),
  );
  expect(await refusedAs(now(() => tellOfIssue(member, { issueId })))).toBe('not-allowed');
  // The chair and the member; the stranger may not see it.
  // Two press at once: one tells them.
  const presses = await Promise.allSettled([secretary, keeper].map((who) => now(() => tellOfIssue(who, { issueId }))));
  expect(presses.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  expect(presses.find(({ status }) => status === 'fulfilled')).toMatchObject({ value: { sent: 2, of: 2 } });
  const outbox = process.env['EMBRIN_OUTBOX'] ?? '';
  const mails = readdirSync(outbox).map((name) =>
    readFileSync(path.join(outbox, name), 'utf8').replaceAll(/=\r?\n/gu, ''),
  );
  const told = mails.filter((mail) => mail.includes(issueId));
  expect(told).toHaveLength(2);
  expect(told.join()).not.toMatch(/tender|claim/iu);
  const { issues } = await packSheet(secretary, { packId });
  expect(issues.find(({ id }) => id === issueId)?.told?.people).toBe(2);
});

it('of a withdrawn issue nothing is told any more', async () => {
  const [first] = (await now(() => packNotes(member, { issueId }))).slice(0, 1);
  expect(first).toBeDefined();
  await now(() => withdrawIssue(secretary, { issueId, reason: 'Wrong papers' }));
  expect(await refusedAs(now(() => packNotes(member, { issueId })))).toBe('gone');
  expect((await now(() => findInPack(member, { issueId, phrase: 'tender' }))).pages).toEqual([]);
  expect(await refusedAs(write(5, 'X'))).toBe('gone');
});
