import { eq } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { plainFields } from '@/core/columns/contract';
import { defineColumn, retireColumn } from '@/server/columns/define';
import { setStandstill } from '@/server/standstill/standstill';
import { db } from '@/server/db/client';
import { expectedSay, place } from '@/server/db/schema';
import { disposePapers } from '@/server/disposal/dispose';
import { detailsOf, setDetails } from '@/server/dossiers/details';
import { gapsOf } from '@/server/expected/gaps';
import { meetingsOf, removeMeeting } from '@/server/meetings/meetings';
import { planOf, setPlan } from '@/server/plans/plans';
import { openRack } from '@/server/expected/rack';
import { sayOfExpected } from '@/server/expected/says';
import { expectedOf } from '@/server/expected/slots';
import { journalOf } from '@/server/journal/read';
import { createDossier } from '@/server/dossiers/create';
import { openPlace } from '@/server/places/open';
import { dropLibrary, newcomer, refusedAs } from '../library';
import { paperOn, placeOn, say } from '../sheets';
import {
  beginExpecting,
  now,
  keeper,
  reader,
  series,
  board,
  hidden,
  id,
  folders,
  paper,
  expected,
  slots,
  inWords,
  find,
  named,
  file,
} from './expecting';

beforeAll(beginExpecting);
afterAll(dropLibrary);

it('what the plan expects is missing once it is due, and there once it is filed in its place', async () => {
  const before = await slots(keeper);
  expect(inWords(before)).toEqual([
    'Terms of reference -: gap',
    'Accounts 2025: gap',
    'Agenda 2026-05-12: gap',
    'Minutes 2026-05-12: gap',
    'Agenda 2026-07-14: gap',
    'Minutes 2026-07-14: gap',
    'Agenda 2026-11-03: ahead',
    'Minutes 2026-11-03: ahead',
    'Accounts 2026: ahead',
  ]);
  const agenda = await file('Agenda', find(before, 'Agenda', '2026-05-12'));
  await file('Minutes of May', find(before, 'Minutes', '2026-05-12'));
  await file('Accounts 2025', find(before, 'Accounts', 2025));
  // In the wrong place: the terms are looked for in their own folder.
  await fileBuffer(keeper, board, 'Terms of reference.txt', Buffer.from('Terms\n'));
  const after = await slots(keeper);
  expect(find(after, 'Agenda', '2026-05-12')).toMatchObject({ state: 'met', paper: { id: agenda }, pointed: false });
  expect(inWords(after).filter((each) => each.endsWith('gap'))).toEqual([
    'Terms of reference -: gap',
    'Agenda 2026-07-14: gap',
    'Minutes 2026-07-14: gap',
  ]);
});

it('the rack shows the same, a square for each, and who may see less is shown less', async () => {
  const rack = await now(() => openRack(keeper, { seriesId: series }));
  expect(rack.state).toBe('counted');
  expect(rack.columns.map((column) => [column.label, column.current])).toEqual([
    ['2025–26', false],
    ['2026–27', true],
  ]);
  const row = (of: typeof rack, name: string) => of.rows.find((each) => each.name === name);
  expect(row(rack, 'Board')).toMatchObject({ squares: 'g', gaps: 3, whole: { papers: 4 } });
  expect(row(rack, 'Board')?.cells.map((cell) => cell?.squares)).toEqual(['m', 'mm gg aa a']);
  expect(row(rack, 'Board')?.cells.map((cell) => cell?.papers)).toEqual([1, 2]);
  expect(row(rack, 'Nominations')?.gaps).toBe(4);
  const theirs = await now(() => openRack(reader, { seriesId: series }));
  expect(theirs.rows.map((each) => each.name)).toEqual(['Board']);
  expect((await now(() => gapsOf(reader, { placeId: null }))).gaps.map((gap) => gap.dossier)).not.toContain(
    'Nominations',
  );
  expect(await refusedAs(expectedOf(reader, { dossierId: hidden }))).toBe('not-found');
});

it('a paper that is kept from someone leaves a gap for them, as one that never was', async () => {
  const [paperId] = (await slots(keeper)).flatMap((slot) =>
    slot.name === 'Minutes' && slot.paper ? [slot.paper.id] : [],
  );
  await say(keeper, paperOn(paperId ?? ''), [], false);
  expect(find(await slots(reader), 'Minutes', '2026-05-12')).toMatchObject({ state: 'gap', paper: null });
  expect(find(await slots(keeper), 'Minutes', '2026-05-12').state).toBe('met');
  // Also where it is pointed at.
  await sayOfExpected(keeper, {
    ...named(find(await slots(keeper), 'Minutes', '2026-07-14')),
    says: { paper: paperId ?? '' },
  });
  expect(find(await slots(keeper), 'Minutes', '2026-07-14')).toMatchObject({ state: 'met', pointed: true });
  expect(find(await slots(reader), 'Minutes', '2026-07-14')).toMatchObject({
    state: 'gap',
    pointed: false,
    paper: null,
  });
});

it('who comes to a series only by a step on the way is told nothing of its plan', async () => {
  const stepper = await newcomer(keeper, 'Step Per');
  const { children } = await openPlace(keeper, { placeId: hidden });
  await say(keeper, placeOn(children.find((child) => child.filingYear === 2026)?.id ?? ''), [
    { who: stepper, gives: ['see'] },
  ]);
  const rack = await now(() => openRack(stepper, { seriesId: series }));
  expect(rack).toMatchObject({ expected: [], fields: [], names: {} });
  expect(rack.rows).toMatchObject([{ name: 'Nominations', bareStep: true, squares: '', gaps: 0, details: {} }]);
  expect(rack.rows[0]?.cells.map((cell) => cell?.squares)).toEqual(['']);
  expect((await now(() => gapsOf(stepper, { placeId: null }))).gaps).toEqual([]);
  expect(await refusedAs(expectedOf(stepper, { dossierId: hidden }))).toBe('not-found');
});

it('who may only add points at what they filed themselves, where nothing was said before', async () => {
  const sender = await newcomer(keeper, 'Sen Der');
  const other = (await createDossier(keeper, { seriesId: series, name: 'Audit', reference: 'AUD' })).id;
  await say(keeper, placeOn(other), [{ who: sender, gives: ['see', 'add'] }]);
  const terms = find(await slots(sender, other), 'Terms of reference', null);
  const send = (actor: Actor, name: string) => fileBuffer(actor, other, `${name}.txt`, Buffer.from(name));
  const point = (paper: string) => sayOfExpected(sender, { ...named(terms), says: { paper } });
  const stands = async () => find(await slots(sender, other), 'Terms of reference', null).paper?.title ?? null;

  expect(await refusedAs(point(await send(keeper, 'Of someone else')))).toBe('not-allowed');
  const scan = await send(sender, 'Scan 0042');
  await point(scan);
  expect(await stands()).toBe('Scan 0042');
  expect(await refusedAs(point(await send(sender, 'Scan 0043')))).toBe('not-allowed');
  expect(await refusedAs(sayOfExpected(sender, { ...named(terms), says: null }))).toBe('not-allowed');
  expect(await stands()).toBe('Scan 0042');
  // What was thrown away stands in nobody's way; what is not needed does.
  await disposePapers(keeper, { documentIds: [scan] });
  await point(await send(sender, 'Scan 0044'));
  expect(await stands()).toBe('Scan 0044');
  // So does what is kept from them: it leaves a gap, as one that never was filed.
  const secret = await send(keeper, 'Kept from them');
  await sayOfExpected(keeper, { ...named(terms), says: { paper: secret } });
  await say(keeper, paperOn(secret), [], false);
  expect(await stands()).toBe(null);
  await point(await send(sender, 'Scan 0046'));
  expect(await stands()).toBe('Scan 0046');
  await sayOfExpected(keeper, { ...named(terms), says: { notNeeded: 'Told elsewhere' } });
  expect(await refusedAs(point(await send(sender, 'Scan 0045')))).toBe('not-allowed');
});

it('what is pointed at, or not needed, is said once, with a reason, and can be taken back', async () => {
  const terms = find(await slots(keeper), 'Terms of reference', null);
  expect(await refusedAs(sayOfExpected(reader, { ...named(terms), says: { notNeeded: 'So' } }))).toBe('not-allowed');
  await sayOfExpected(keeper, { ...named(terms), says: { notNeeded: 'The statute says it all' } });
  expect(find(await slots(reader), 'Terms of reference', null)).toMatchObject({
    state: 'waived',
    waiver: { reason: 'The statute says it all', by: keeper.name },
  });
  const paperId = await fileBuffer(keeper, board, 'Remit.txt', Buffer.from('Remit\n'));
  await sayOfExpected(keeper, { ...named(terms), says: { paper: paperId } });
  expect(find(await slots(keeper), 'Terms of reference', null)).toMatchObject({
    state: 'met',
    pointed: true,
    waiver: null,
  });
  await disposePapers(keeper, { documentIds: [paperId] });
  expect(find(await slots(keeper), 'Terms of reference', null).state).toBe('gap');
  await sayOfExpected(keeper, { ...named(terms), says: null });
  const told = (await journalOf(keeper, { subject: 'place', id: board, before: null })).map((line) => line.words);
  for (const words of [
    '“Terms of reference” of “Board” is not needed: The statute',
    'said which paper is',
    'took back what was said',
  ])
    expect(told.some((line) => line.includes(words))).toBe(true);
  // Taking back what was never said leaves no line; nor do details that are as they were.
  const lines = async () => (await journalOf(keeper, { subject: 'place', id: board, before: null })).length;
  const before = await lines();
  await sayOfExpected(keeper, { ...named(terms), says: null });
  const { revision } = await detailsOf(keeper, { dossierId: board });
  await setDetails(keeper, { dossierId: board, details: {}, revision });
  expect(await lines()).toBe(before);
  expect((await detailsOf(keeper, { dossierId: board })).revision).toBe(revision);
  // A made-up paper, a meeting of another dossier, and a year for what is expected once are not there.
  const [other] = await meetingsOf(keeper, { dossierId: hidden });
  const agenda = find(await slots(keeper), 'Agenda', '2026-07-14');
  const wrong = (slot: object, says: object) =>
    refusedAs(sayOfExpected(keeper, { ...named(agenda), ...slot, says: says as { paper: string } }));
  expect(await wrong({}, { paper: id(99) })).toBe('not-found');
  expect(await wrong({ meetingId: other?.id ?? '' }, { notNeeded: 'x' })).toBe('not-found');
  expect(await wrong({ meetingId: null }, { notNeeded: 'x' })).toBe('not-found');
  expect(await wrong({ expectationId: id(98) }, { notNeeded: 'x' })).toBe('gone');
  const accounts = find(await slots(keeper), 'Accounts', 2026);
  expect(
    await refusedAs(sayOfExpected(keeper, { ...named(accounts), startYear: 1900, says: { notNeeded: 'x' } })),
  ).toBe('not-found');
});

it('what was said goes with the meeting, and with what the plan expects no more', async () => {
  const agenda = find(await slots(keeper), 'Agenda', '2026-11-03');
  const accounts = find(await slots(keeper), 'Accounts', 2026);
  for (const slot of [agenda, accounts]) await sayOfExpected(keeper, { ...named(slot), says: { notNeeded: 'No' } });
  const [meeting] = (await meetingsOf(keeper, { dossierId: board })).filter((each) => each.day === '2026-11-03');
  if (!meeting) throw new Error('The meeting is not there');
  await removeMeeting(keeper, { meetingId: meeting.id, revision: meeting.revision });
  const says = () => db().$count(expectedSay, eq(expectedSay.reason, 'No'));
  expect(await says()).toBe(1);
  const { revision } = await planOf(keeper, { seriesId: series });
  await setPlan(keeper, { seriesId: series, folders, expected: expected.slice(0, 2), revision });
  expect(await says()).toBe(0);
  expect(inWords(await slots(keeper)).some((each) => each.startsWith('Accounts'))).toBe(false);
});

it('an expectation whose column is in use no longer is met by nothing, and takes nothing else along', async () => {
  const column = await defineColumn(keeper, { ...plainFields, placeId: series, name: 'Remark', type: 'text' });
  const { revision } = await planOf(keeper, { seriesId: series });
  const remark = paper(15, 'Remarked', { timing: 'once', conditions: [{ of: column.id, filled: false }] });
  const put = (at: number) =>
    setPlan(keeper, { seriesId: series, folders, expected: [...expected.slice(0, 2), remark], revision: at });
  await put(revision);
  const met = inWords(await slots(keeper)).filter((each) => each.endsWith('met'));
  expect(met).toContain('Remarked -: met');
  await retireColumn(keeper, { columnId: column.id, retired: true, revision: 0 });
  const after = inWords(await slots(keeper));
  expect(after).toContain('Remarked -: gap');
  expect(after.filter((each) => each.endsWith('met'))).toEqual(met.filter((each) => !each.startsWith('Remarked')));
  expect(await refusedAs(put(revision + 1))).toBe('invalid');
});

it('a closed year is told as closed; its gaps stay gaps, and nothing can be filed in it', async () => {
  const { children } = await openPlace(keeper, { placeId: board });
  const year = children.find((child) => child.filingYear === 2026);
  await setStandstill(keeper, {
    placeId: year?.id ?? '',
    closed: true,
    locked: false,
    reason: 'Done',
    revision: year?.revision ?? 0,
  });
  const rack = await now(() => openRack(keeper, { seriesId: series }));
  const row = rack.rows.find((each) => each.name === 'Board');
  expect(row?.places.map((each) => each?.closed)).toEqual([false, true]);
  expect(row?.cells[1]?.gaps).toBeGreaterThan(0);
  expect(find(await slots(keeper), 'Agenda', '2026-07-14').place).toBeNull();
  expect(await db().$count(place, eq(place.closed, true))).toBe(1);
});
