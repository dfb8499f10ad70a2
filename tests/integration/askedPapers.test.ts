import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { eq } from 'drizzle-orm';
import { addItems, changeItem } from '@/server/agenda/items';
import { beginAgenda } from '@/server/agenda/begin';
import { callForPaper, handInPaper, papersOwed, uncallPaper } from '@/server/agenda/calls';
import { attachPapers } from '@/server/agenda/papers';
import { agendaSheet } from '@/server/agenda/read';
import { fileBuffer } from '@/demo/file';
import { writableDb } from '@/server/db/client';
import { place } from '@/server/db/schema';
import type { Actor } from '@/server/gate/actor';
import { meetingsOf } from '@/server/meetings/meetings';
import { dropLibrary, newcomer, refusedAs } from '../library';
import { placeOn, say } from '../sheets';
import { plainItem } from './calls';
import { beginExpecting, board, hidden, keeper, now, reader } from './expecting';

let secretary: Actor;
let engineer: Actor;
let stranger: Actor;
/** Of the meeting to come. */
let meetingId: string;
let itemId: string;
let paper: string;

beforeAll(async () => {
  await beginExpecting();
  [secretary, engineer, stranger] = (await Promise.all(
    ['Sec Retary', 'Engi Neer', 'Stran Ger'].map((name) => newcomer(keeper, name)),
  )) as [Actor, Actor, Actor];
  await say(keeper, placeOn(board), [
    { who: secretary, gives: ['see', 'take', 'add', 'amend'] },
    { who: engineer, gives: ['see', 'take'] },
  ]);
  meetingId = (await meetingsOf(keeper, { dossierId: board }))[2]?.id ?? '';
  const { agendaId } = await now(() => beginAgenda(secretary, { of: { meetingId } }));
  const { itemIds } = await now(() =>
    addItems(secretary, { agendaId, parentId: null, beforeId: null, titles: ['Works'] }),
  );
  [itemId = ''] = itemIds;
  paper = await now(() => fileBuffer(keeper, board, 'Report.txt', Buffer.from('Report\n')));
});
afterAll(dropLibrary);

const ask = (what: string, who: Actor | null, more: object = {}) =>
  now(() =>
    callForPaper(secretary, { itemId, what, personId: who?.personId ?? null, who: 'Guest', dueOn: null, ...more }),
  );
const owed = async (who: Actor, whose: 'mine' | 'all' = 'mine') =>
  (await now(() => papersOwed(who, { whose }))).map(({ what }) => what);
const item = async (who: Actor) => (await now(() => agendaSheet(who, { of: { meetingId } }))).items[0];

it('a paper that is asked for stands on the desk of who owes it, and a mail says so', async () => {
  const { callId, sent } = await ask('Report on the works', engineer, { dueOn: '2026-10-20' });
  expect(sent).toBe(true);
  const outbox = process.env['EMBRIN_OUTBOX'] ?? '';
  const mails = readdirSync(outbox).map((name) => readFileSync(path.join(outbox, name), 'utf8'));
  expect(mails.some((mail) => mail.includes('Report on the works') && mail.includes(engineer.email))).toBe(true);
  await ask('A letter', null);
  expect(await owed(engineer)).toEqual(['Report on the works']);
  expect(await owed(secretary)).toEqual([]);
  expect(await owed(secretary, 'all')).toEqual(['Report on the works', 'A letter']);
  expect(await owed(engineer, 'all')).toEqual([]);
  expect((await item(reader))?.calls.map(({ who, isMine }) => [who, isMine])).toEqual([
    ['Engi Neer', false],
    ['Guest', false],
  ]);
  expect(await refusedAs(now(() => uncallPaper(engineer, { callId, removed: true })))).toBe('not-allowed');
});

it('is asked of nobody who may not see the dossier, and by nobody who may not change the agenda', async () => {
  await expect(ask('X', stranger)).rejects.toMatchObject({ issue: { fields: [{ path: 'personId' }] } });
  const by = (who: Actor) =>
    refusedAs(now(() => callForPaper(who, { itemId, what: 'X', personId: null, who: 'Guest', dueOn: null })));
  expect(await by(engineer)).toBe('not-allowed');
  expect(await by(stranger)).toBe('not-found');
});

it('is handed in by who owes it, once, with a paper that they may see; and is owed again if it was the wrong one', async () => {
  const [call] = await now(() => papersOwed(engineer, { whose: 'mine' }));
  const callId = call?.id ?? '';
  const closed = await now(() => fileBuffer(keeper, hidden, 'Closed.txt', Buffer.from('Closed\n')));
  expect(await refusedAs(now(() => handInPaper(engineer, { callId, documentId: closed })))).toBe('not-found');
  expect(await refusedAs(now(() => handInPaper(reader, { callId, documentId: paper })))).toBe('not-allowed');
  await writableDb().update(place).set({ locked: true }).where(eq(place.id, board));
  expect(await refusedAs(now(() => handInPaper(engineer, { callId, documentId: paper })))).toBe('locked');
  await writableDb().update(place).set({ locked: false }).where(eq(place.id, board));
  const ends = await Promise.allSettled(
    [engineer, secretary].map((who) => now(() => handInPaper(who, { callId, documentId: paper }))),
  );
  expect(ends.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  expect((await item(reader))?.papers.map(({ title }) => title)).toEqual(['Report']);
  expect(await owed(engineer)).toEqual([]);
  await now(() => handInPaper(engineer, { callId, documentId: null }));
  expect((await item(reader))?.papers).toEqual([]);
  // One that was there already stays there.
  await now(() => attachPapers(secretary, { itemId, documentIds: [paper] }));
  await now(() => handInPaper(engineer, { callId, documentId: paper }));
  await now(() => handInPaper(engineer, { callId, documentId: null }));
  expect((await item(reader))?.papers).toHaveLength(1);
});

it('of a confidential item only who owes it is told, and of what it is for, nothing', async () => {
  const { revision = 0 } = (await item(secretary)) ?? {};
  await now(() => changeItem(secretary, { itemId, ...plainItem, title: 'Works', readers: [], revision }));
  expect(await item(engineer)).toMatchObject({ title: null, papers: [], calls: [{ what: 'Report on the works' }] });
  expect((await item(reader))?.calls).toEqual([]);
  const [call] = await now(() => papersOwed(engineer, { whose: 'mine' }));
  await now(() => uncallPaper(secretary, { callId: call?.id ?? '', removed: true }));
  expect(await owed(engineer)).toEqual([]);
});
