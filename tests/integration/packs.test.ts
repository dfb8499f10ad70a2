import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { degrees, PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { eq } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import { addItems, changeItem, removeItem } from '@/server/agenda/items';
import { beginAgenda } from '@/server/agenda/begin';
import { attachPapers, detachPaper } from '@/server/agenda/papers';
import { agendaSheet } from '@/server/agenda/read';
import { readContent } from '@/server/blobs/content';
import { writableDb } from '@/server/db/client';
import { packCopy, packIssue } from '@/server/db/schema';
import { destroyPapers } from '@/server/disposal/destroy';
import { disposePapers } from '@/server/disposal/dispose';
import type { Actor } from '@/server/gate/actor';
import { meetingsOf, removeMeeting } from '@/server/meetings/meetings';
import { makeNextCopy } from '@/server/packs/copies';
import { addPapers, addSection, changeEntry, moveEntry, removeEntry, setPack } from '@/server/packs/entries';
import { beginPack, takeAgenda } from '@/server/packs/fromAgenda';
import { issuePack, stopIssue, withdrawIssue } from '@/server/packs/issue';
import { makeNextIssue } from '@/server/packs/make';
import { packSheet, packsOf } from '@/server/packs/read';
import { packContent, readPack } from '@/server/packs/reading';
import { removePlace } from '@/server/places/amend';
import { createFolder } from '@/server/places/create';
import { dropLibrary, newcomer, refusedAs } from '../library';
import { readPaper } from '../reading';
import { placeOn, say } from '../sheets';
import { plainItem } from './calls';
import { beginExpecting, board, keeper, now } from './expecting';

let secretary: Actor;
let chair: Actor;
let member: Actor;
let stranger: Actor;
let meetingId: string;
let closed: string;
const papers = new Map<string, string>();
const id = (name: string): string => papers.get(name) ?? '';

/** A PDF whose pages say their paper's name and number. */
async function pdf(name: string, sizes: readonly (readonly [number, number, number?])[]): Promise<Buffer> {
  const made = await PDFDocument.create();
  for (const [at, [width, height, turn = 0]] of sizes.entries()) {
    const page = made.addPage([width, height]);
    page.setRotation(degrees(turn));
    page.drawText(`${name} page ${at + 1}`, { x: 60, y: 100, size: 14 });
  }
  return Buffer.from(await made.save());
}
const upright = (pages: number) => Array.from({ length: pages }, () => [595, 842] as const);

beforeAll(async () => {
  await beginExpecting();
  [secretary, chair, member, stranger] = (await Promise.all(
    ['Sec Retary', 'Cha Ir', 'Mem Ber', 'Stran Ger'].map((name) => newcomer(keeper, name)),
  )) as [Actor, Actor, Actor, Actor];
  await say(keeper, placeOn(board), [
    { who: secretary, gives: ['see', 'take', 'add', 'amend'] },
    ...[chair, member].map((who) => ({ who, gives: ['see', 'take'] as const })),
  ]);
  meetingId = (await meetingsOf(keeper, { dossierId: board }))[0]?.id ?? '';
  closed = (await now(() => createFolder(keeper, { parentId: board, name: 'Closed matters' }))).id;
  await say(keeper, placeOn(closed), [{ who: secretary, gives: ['see', 'take', 'add', 'amend'] }], false);
  const file = async (name: string, ending: string, content: Buffer, placeId = board) =>
    papers.set(name, await now(() => fileBuffer(keeper, placeId, `${name}.${ending}`, content)));
  await file('Minutes', 'pdf', await pdf('Minutes', upright(3)));
  await file(
    'Plan',
    'pdf',
    await pdf('Plan', [
      [1191, 842],
      [595, 842, 90],
      [842, 595],
    ]),
  );
  await file('Tender', 'pdf', await pdf('Tender', upright(2)));
  await file('Claim', 'pdf', await pdf('Claim', upright(4)), closed);
  await file('Late', 'pdf', await pdf('Late', upright(2)));
  await file('Note', 'txt', Buffer.from('Wind and tide at the bar\n'));
  await file(
    'Photo',
    'png',
    await sharp({ create: { width: 900, height: 600, channels: 3, background: '#0d4a50' } })
      .png()
      .toBuffer(),
  );
  await file('Drawings', 'zip', Buffer.from('504b0506000000000000000000000000000000000000', 'hex'));
  await file('Secret drawings', 'zip', Buffer.from(`504b0506${'00'.repeat(18)}`, 'hex'), closed);
  for (const documentId of papers.values()) await readPaper(documentId);
  const { agendaId } = await now(() => beginAgenda(secretary, { of: { meetingId } }));
  const titles = ['Minutes of the last meeting', 'Works', 'Claim of a tenant'];
  const { itemIds } = await now(() => addItems(secretary, { agendaId, parentId: null, beforeId: null, titles }));
  const attach = (at: number, ...names: string[]) =>
    now(() => attachPapers(secretary, { itemId: itemIds[at] ?? '', documentIds: names.map(id) }));
  await attach(0, 'Minutes');
  await attach(1, 'Plan', 'Tender', 'Note', 'Photo');
  await attach(2, 'Claim');
  await changeItem(secretary, {
    itemId: itemIds[2] ?? '',
    ...plainItem,
    title: 'Claim of a tenant',
    readers: [chair.personId],
    revision: 0,
  });
}, 180_000);
afterAll(dropLibrary);

/** Another paper of one page, read. */
async function paperOf(name: string): Promise<string> {
  const documentId = await now(async () => fileBuffer(keeper, board, `${name}.pdf`, await pdf(name, upright(1))));
  await readPaper(documentId);
  return documentId;
}
const sheet = (packId: string, who = secretary) => packSheet(who, { packId });
const entryOf = async (packId: string, title: string) => {
  const found = (await sheet(packId)).entries.find((each) => each.title === title);
  if (!found) throw new Error(`There is no entry ${title}`);
  return found;
};
/** A pack of the meeting, of its own for each test. */
const begun = async (): Promise<string> => (await now(() => beginPack(secretary, { of: { meetingId } }))).packId;
async function issued(packId: string, asFiles = false, as: 'whole' | 'supplement' = 'whole'): Promise<string> {
  const { issueId } = await now(() => issuePack(secretary, { packId, asFiles, as }));
  expect(await makeNextIssue()).toBe(true);
  while (await makeNextCopy());
  return issueId;
}

/** Somebody's copy as bytes, and what outside programs read of it. */
async function copy(who: Actor, issueId: string) {
  const content = await packContent(who, issueId, 'take');
  const pieces: Uint8Array[] = [];
  for await (const piece of readContent(content)) pieces.push(piece);
  const folder = mkdtempSync(path.join(tmpdir(), 'pack-'));
  const file = path.join(folder, 'copy.pdf');
  writeFileSync(file, Buffer.concat(pieces));
  const run = (program: string, ...words: string[]) => execFileSync(program, words, { encoding: 'utf8' });
  // qpdf finds no fault in its structure, and says so by its exit.
  run('qpdf', '--check', file);
  const pages = run('pdftotext', '-layout', file, '-').split('\f').slice(0, -1);
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const opened = await getDocument({ data: new Uint8Array(Buffer.concat(pieces)) }).promise;
  const leadsTo = async (destination: unknown): Promise<number> => {
    const [page] = destination as [{ num: number; gen: number }];
    return (await opened.getPageIndex(page)) + 1;
  };
  rmSync(folder, { recursive: true });
  return { pages, opened, leadsTo };
}

describe('a pack of a meeting', () => {
  it('begins with the sections and papers of its agenda, and takes later what is new there', async () => {
    const packId = await begun();
    const { entries } = await sheet(packId);
    expect(entries.map(({ title, parentId }) => [title, parentId !== null])).toEqual([
      ['1 Minutes of the last meeting', false],
      ['Minutes', true],
      ['2 Works', false],
      ...['Plan', 'Tender', 'Note', 'Photo'].map((name) => [name, true]),
      ['3 Claim of a tenant', false],
      ['Claim', true],
    ]);
    expect(entries.find(({ title }) => title === '3 Claim of a tenant')?.readers?.map(({ name }) => name)).toEqual([
      'Cha Ir',
    ]);
    // What was taken out by hand stays out.
    await removeEntry(secretary, { entryId: (await entryOf(packId, 'Note')).id, removed: true });
    expect(await takeAgenda(secretary, { packId })).toEqual({ sections: 0, papers: 0 });
    const { items, agenda } = await agendaSheet(keeper, { of: { meetingId } });
    await addItems(secretary, {
      agendaId: agenda?.id ?? '',
      parentId: items[1]?.id ?? null,
      beforeId: null,
      titles: ['Cost'],
    });
    expect(await takeAgenda(secretary, { packId })).toEqual({ sections: 1, papers: 0 });
    expect((await entryOf(packId, '2.1 Cost')).parentId).toBe((await entryOf(packId, '2 Works')).id);
    // What comes under an item whose section was taken out is not put elsewhere.
    const works = (await entryOf(packId, '2 Works')).id;
    const plan = (await entryOf(packId, 'Plan')).id;
    await removeEntry(secretary, { entryId: plan, removed: true });
    await removeEntry(secretary, { entryId: works, removed: true });
    await attachPapers(secretary, { itemId: items[1]?.id ?? '', documentIds: [id('Late')] });
    expect(await takeAgenda(secretary, { packId })).toEqual({ sections: 0, papers: 0 });
    expect(await refusedAs(removeEntry(secretary, { entryId: plan, removed: false }))).toBe('conflict');
    const attached = (await agendaSheet(keeper, { of: { meetingId } })).items[1]?.papers.at(-1);
    await detachPaper(secretary, { agendaPaperId: attached?.id ?? '' });
    expect(await refusedAs(removeMeeting(keeper, { meetingId, revision: 0 }))).toBe('conflict');
  });

  it('takes each paper once, in the section that the agenda has for it', async () => {
    const packId = await begun();
    await removeEntry(secretary, { entryId: (await entryOf(packId, 'Tender')).id, removed: true });
    const both = [1, 2].map(() => addPapers(secretary, { packId, parentId: null, documentIds: [id('Tender')] }));
    expect((await Promise.all(both)).map(({ added }) => added).sort()).toEqual([0, 1]);
    expect((await entryOf(packId, 'Tender')).parentId).toBe((await entryOf(packId, '2 Works')).id);
    expect(await addPapers(secretary, { packId, parentId: null, documentIds: [id('Plan'), id('Drawings')] })).toEqual({
      added: 1,
      already: 1,
    });
  });

  it('is put together by those who may amend there alone; others are told of what is issued', async () => {
    const packId = await begun();
    expect(await refusedAs(packSheet(member, { packId }))).toBe('not-allowed');
    expect(await refusedAs(packSheet(stranger, { packId }))).toBe('not-found');
    expect(await refusedAs(addSection(member, { packId, parentId: null, title: 'Mine' }))).toBe('not-allowed');
    const mine = (await packsOf(secretary, { of: { meetingId } })).map((each) => each.id);
    expect(mine).toContain(packId);
    expect((await packsOf(member, { of: { meetingId } })).map((each) => each.id)).not.toContain(packId);
  });

  it('is ordered, renamed and cut by hand, without touching the papers; undone where something was taken out', async () => {
    const packId = await begun();
    const { entryId } = await addSection(secretary, { packId, parentId: null, title: 'For reading' });
    const plan = await entryOf(packId, 'Plan');
    await moveEntry(secretary, { entryId: plan.id, parentId: entryId, beforeId: null });
    const change = { entryId: plan.id, heldVersion: null, readers: null };
    expect(await refusedAs(changeEntry(secretary, { ...change, title: 'Harbour plan', pages: '1-9' }))).toBe('invalid');
    await changeEntry(secretary, { ...change, title: 'Harbour plan', pages: '2' });
    expect(await entryOf(packId, 'Harbour plan')).toMatchObject({
      parentId: entryId,
      pages: '2',
      paper: { title: 'Plan' },
    });
    // A paper holds nothing.
    const minutes = await entryOf(packId, 'Minutes');
    expect(await refusedAs(moveEntry(secretary, { entryId: minutes.id, parentId: plan.id, beforeId: null }))).toBe(
      'conflict',
    );
    const before = (await sheet(packId)).entries.map(({ title }) => title);
    expect(await removeEntry(secretary, { entryId, removed: true })).toEqual({ entries: 2 });
    await removeEntry(secretary, { entryId, removed: false });
    expect((await sheet(packId)).entries.map(({ title }) => title)).toEqual(before);
    const { name, description, preparedBy, forWhom, day, stampPlace, sheets } = await sheet(packId);
    const fields = { name, description, preparedBy, forWhom, day, stampPlace, sheets, packId, revision: 0 };
    await setPack(secretary, { ...fields, forWhom: 'The board' });
    expect(await refusedAs(setPack(keeper, { ...fields, forWhom: 'Nobody' }))).toBe('conflict');
  });
});

describe('an issue', () => {
  it('has every page with its number, contents and bookmarks that lead to it, as other programs read them', async () => {
    const packId = await begun();
    const issueId = await issued(packId);
    const { pages, opened, leadsTo } = await copy(chair, issueId);
    // The chair may not see the paper of the closed folder, though the section is for them.
    const read = await readPack(chair, { issueId });
    expect(read.leftOut).toEqual(['Pages 16 to 19 are not part of your copy.']);
    // Cover, contents, sheet, 3 of minutes, sheet, 3 of the plan, 2 of the tender, the note, the photograph, sheet, 4 of the
    // claim: by hand. The item of costs has no papers, and so no sheet.
    expect(read.lastPage).toBe(19);
    expect(pages).toHaveLength(16);
    expect(pages[0]).toContain('Board, 12 May 2026');
    expect(pages[15]).toContain('Pages 16 to 19 are not part of your copy.');
    const inside = pages.slice(2, 15).map((page) => page.replaceAll(/\s+/gu, ' ').trim());
    for (const [at, page] of inside.entries()) expect(page).toContain(`Pack page ${at + 3} of 19`);
    expect(inside[1]).toContain('Minutes page 1');
    expect(inside[5]).toContain('Plan page 1');
    expect(inside[6]).toContain('Plan page 2');
    expect(inside[10]).toContain('Wind and tide');

    const contents = read.contents.filter(({ page }) => page !== null);
    const links = await (await opened.getPage(2)).getAnnotations();
    const landed = await Promise.all(links.map(({ dest }: { dest: unknown }) => leadsTo(dest)));
    expect(landed).toEqual(contents.map(({ page }) => page));
    const outline = (await opened.getOutline()) ?? [];
    expect(outline.map(({ title }) => title)).toEqual([
      '1 Minutes of the last meeting',
      '2 Works',
      '3 Claim of a tenant',
    ]);
    const within = outline[1]?.items ?? [];
    expect(within.map(({ title }) => title)).toEqual(['Plan', 'Tender', 'Note', 'Photo']);
    expect(await leadsTo(within[1]?.dest)).toBe(contents.find(({ title }) => title === 'Tender')?.page);
    // Landscape, turned and A3 pages keep their size.
    const size = async (page: number) => (await opened.getPage(page)).getViewport({ scale: 1 });
    expect([(await size(8)).width, (await size(9)).width, (await size(10)).width].map(Math.round)).toEqual([
      1191, 842, 842,
    ]);
  });

  it('is for each person what they may see, numbered alike, and follows access as it is now', async () => {
    const packId = await begun();
    const issueId = await issued(packId);
    const [ofSecretary, ofChair, ofMember] = await Promise.all(
      [secretary, chair, member].map(async (who) => ({
        read: await readPack(who, { issueId }),
        ...(await copy(who, issueId)),
      })),
    );
    expect(ofSecretary?.read.leftOut).toEqual([]);
    expect(ofSecretary?.pages.join('')).toContain('Claim page 4');
    expect(ofChair?.pages.join('')).toContain('Claim of a tenant');
    expect(ofChair?.pages.join('')).not.toContain('Claim page');
    expect(ofMember?.read.leftOut).toEqual(['Pages 15 to 19 are not part of your copy.']);
    expect(ofMember?.pages.join('')).not.toMatch(/Claim/u);
    expect(JSON.stringify(await ofMember?.opened.getOutline())).not.toMatch(/Claim/u);
    expect(await refusedAs(readPack(stranger, { issueId }))).toBe('not-found');
    expect(await refusedAs(packContent(stranger, issueId, 'see'))).toBe('not-found');
    // A paper that is closed to somebody afterwards is not in their copy any more.
    await say(keeper, { kind: 'paper', id: id('Tender') }, [{ who: secretary, gives: ['see', 'take'] }], false);
    const after = await readPack(member, { issueId });
    expect(after.copy).toBeNull();
    expect(await refusedAs(packContent(member, issueId, 'see'))).toBe('not-found');
    expect(await makeNextCopy()).toBe(true);
    expect((await copy(member, issueId)).pages.join('')).not.toMatch(/Tender/u);
    // One that came to no end says so, and is not waited for.
    const mine = eq(packCopy.issueId, issueId);
    await writableDb()
      .update(packCopy)
      .set({ sha256: null, attempts: 3, beatAt: new Date(0) })
      .where(mine);
    expect(await makeNextCopy()).toBe(false);
    expect(await readPack(member, { issueId })).toMatchObject({ copy: null, copyFailed: true });
    await say(keeper, { kind: 'paper', id: id('Tender') }, [], true);
  });

  it('is supplemented by what comes in later, with pages that go on, and says so', async () => {
    const packId = await begun();
    expect(await refusedAs(issuePack(secretary, { packId, asFiles: false, as: 'supplement' }))).toBe('invalid');
    const first = await issued(packId);
    expect(await refusedAs(issuePack(secretary, { packId, asFiles: false, as: 'supplement' }))).toBe('invalid');
    const works = (await entryOf(packId, '2 Works')).id;
    await addPapers(secretary, { packId, parentId: works, documentIds: [id('Late')] });
    const supplement = await issued(packId, false, 'supplement');
    const read = await readPack(member, { issueId: supplement });
    // The first issue has 19 pages. Cover, contents, the sheet of the section, and two pages: by hand.
    expect([read.called, read.firstPage, read.lastPage]).toEqual(['Supplement 1 to issue 1', 20, 24]);
    expect(read.contents.map(({ title, number, page }) => [title, number, page])).toEqual([
      ['2 Works', 22, 3],
      ['Late', 23, 4],
    ]);
    expect(read.supplementTo).toMatchObject({ id: first, called: 'Issue 1' });
    const { pages } = await copy(member, supplement);
    expect(pages).toHaveLength(5);
    expect(pages[0]).toContain('Supplement 1 to issue 1');
    expect(pages[4]).toMatch(/Late page 2[^]*Pack page 24 of 24/u);
    expect((await readPack(member, { issueId: first })).supplements).toEqual([
      { id: supplement, called: 'Supplement 1 to issue 1', pages: 5 },
    ]);
    // The next goes on behind it; the whole, issued again, begins at one.
    const [note] = [await paperOf('Later still')];
    await addPapers(secretary, { packId, parentId: null, documentIds: [note] });
    const next = await readPack(member, { issueId: await issued(packId, false, 'supplement') });
    expect([next.called, next.firstPage]).toEqual(['Supplement 2 to issue 1', 25]);
    const again = await readPack(member, { issueId: await issued(packId) });
    expect([again.called, again.firstPage, again.contents.some(({ title }) => title === 'Late')]).toEqual([
      'Issue 2',
      1,
      true,
    ]);
  });

  it('keeps from others what the agenda has made confidential since the pack was begun, wherever the section lies', async () => {
    const packId = await begun();
    const { items } = await agendaSheet(keeper, { of: { meetingId } });
    const works = items.find(({ title }) => title === 'Works');
    const says = { ...plainItem, itemId: works?.id ?? '', title: 'Works' };
    await changeItem(secretary, { ...says, readers: [chair.personId], revision: works?.revision ?? 0 });
    // The item of costs lies in it on the agenda, and not in the pack any more.
    await moveEntry(secretary, { entryId: (await entryOf(packId, '2.1 Cost')).id, parentId: null, beforeId: null });
    expect((await entryOf(packId, '2.1 Cost')).readers?.map(({ name }) => name)).toEqual(['Cha Ir']);
    const issueId = await issued(packId);
    expect((await copy(member, issueId)).pages.join('')).not.toMatch(/Plan page|Tender|Works|Cost/u);
    expect((await copy(chair, issueId)).pages.join('')).toMatch(/Plan page/u);
    // Taken off the agenda, it is still as confidential as it was there.
    await removeItem(secretary, { itemId: works?.id ?? '', removed: true });
    expect((await entryOf(packId, '2 Works')).readers?.map(({ name }) => name)).toEqual(['Cha Ir']);
    await removeItem(secretary, { itemId: works?.id ?? '', removed: false });
    await changeItem(secretary, { ...says, readers: null, revision: (works?.revision ?? 0) + 1 });
    expect((await entryOf(packId, '2 Works')).readers).toBeNull();
  });

  it('has as many pages of contents in everybody’s copy, so that numbers agree where most lines are left out', async () => {
    const packId = await begun();
    const claim = (await entryOf(packId, '3 Claim of a tenant')).id;
    for (let at = 0; at < 30; at += 1) await addSection(secretary, { packId, parentId: claim, title: `Annex ${at}` });
    const issueId = await issued(packId);
    const { pages } = await copy(member, issueId);
    expect(pages[2]).toContain('Contents, continued');
    expect(pages[4]?.replaceAll(/\s+/gu, ' ')).toMatch(/Minutes page 1 .*Pack page 5 of 20/u);
    const { contents, lastPage } = await readPack(member, { issueId });
    expect(contents.find(({ title }) => title === 'Minutes')).toMatchObject({ number: 5, page: 5 });
    expect(lastPage).toBe(20);
  });

  it('names what cannot be pages before, and lists it as a file once that is chosen', async () => {
    const packId = await begun();
    await addPapers(secretary, { packId, parentId: null, documentIds: [id('Drawings')] });
    const refused = await issuePack(secretary, { packId, asFiles: false, as: 'whole' }).catch(
      (error: Error) => error.message,
    );
    expect(refused).toContain('“Drawings”: of a kind that has no pages');
    await addPapers(secretary, { packId, parentId: null, documentIds: [id('Secret drawings')] });
    const issueId = await issued(packId, true);
    const last = async (who: Actor) => (await copy(who, issueId)).pages.at(-1);
    expect(await last(secretary)).toMatch(/Drawings.zip[^]*Secret drawings.zip[^]*Pack page 20 of 20/u);
    // Of files, too, everybody is told only of those that are open to them.
    expect(await last(member)).toMatch(/Drawings.zip[^]*Pack page 20 of 20/u);
    expect((await copy(member, issueId)).pages.join('')).not.toContain('Secret');
    // A pack of files alone is its cover, its contents and their list.
    const files = (await now(() => beginPack(secretary, { of: { placeId: board, name: 'Files' } }))).packId;
    await addPapers(secretary, { packId: files, parentId: null, documentIds: [id('Drawings')] });
    expect((await copy(member, await issued(files, true))).pages).toHaveLength(3);
  });

  it('is not made of what lies in the tray, and fails whole where a paper goes while it waits', async () => {
    const packId = await begun();
    const { issueId } = await now(() => issuePack(secretary, { packId, asFiles: false, as: 'whole' }));
    expect(await refusedAs(issuePack(keeper, { packId, asFiles: false, as: 'whole' }))).toBe('conflict');
    await now(() => disposePapers(keeper, { documentIds: [id('Photo')] }));
    expect(await makeNextIssue()).toBe(true);
    const [row] = (await sheet(packId)).issues;
    expect(row).toMatchObject({
      id: issueId,
      state: 'failed',
      fault: 'papers',
      faultWords: '“Photo” was disposed of meanwhile.',
    });
    // Who did not issue it is not told which paper it was: it may not be open to them.
    expect((await sheet(packId, keeper)).issues[0]).toMatchObject({ fault: 'papers', faultWords: '' });
    expect(await refusedAs(issuePack(secretary, { packId, asFiles: true, as: 'whole' }))).toBe('conflict');
    expect(await refusedAs(readPack(secretary, { issueId }))).toBe('not-found');
    await removeEntry(secretary, { entryId: (await entryOf(packId, 'Photo')).id, removed: true });
    await issued(packId);
  });

  it('is stopped, taken over where its maker died, and made by one of two workers', async () => {
    const packId = await begun();
    const first = await now(() => issuePack(secretary, { packId, asFiles: false, as: 'whole' }));
    await stopIssue(secretary, { issueId: first.issueId });
    expect(await makeNextIssue()).toBe(false);
    const { issueId } = await now(() => issuePack(secretary, { packId, asFiles: false, as: 'whole' }));
    // A worker had begun and was not heard of again.
    await writableDb()
      .update(packIssue)
      .set({ state: 'making', attempts: 1, beatAt: new Date(0), done: 3 })
      .where(eq(packIssue.id, issueId));
    expect((await Promise.all([makeNextIssue(), makeNextIssue()])).sort()).toEqual([false, true]);
    const [row] = (await sheet(packId)).issues;
    expect(row).toMatchObject({ called: 'Issue 2', state: 'done', pages: 18 });
    await Promise.all([makeNextCopy(), makeNextCopy()]);
    while (await makeNextCopy());
    expect(await writableDb().$count(packCopy, eq(packCopy.issueId, issueId))).toBeGreaterThan(1);
  });

  it('outlives a paper of the same content that is destroyed, and keeps its place from being removed', async () => {
    const packId = await begun();
    const issueId = await issued(packId);
    const pieces: Uint8Array[] = [];
    for await (const piece of readContent(await packContent(secretary, issueId, 'take'))) pieces.push(piece);
    const copied = await now(() => fileBuffer(keeper, board, 'The pack itself.pdf', Buffer.concat(pieces)));
    await now(() => disposePapers(keeper, { documentIds: [copied] }));
    await now(() => destroyPapers(keeper, { documentIds: [copied] }));
    expect((await copy(secretary, issueId)).pages.length).toBeGreaterThan(10);
    const folder = await now(() => createFolder(keeper, { parentId: board, name: 'Of a pack' }));
    await beginPack(keeper, { of: { placeId: folder.id, name: 'Loose papers' } });
    expect(await refusedAs(removePlace(keeper, { placeId: folder.id }))).toBe('conflict');
  });

  it('is withdrawn with a reason: it says so, and nothing of it is given out', async () => {
    const packId = await begun();
    const issueId = await issued(packId);
    await withdrawIssue(secretary, { issueId, reason: 'The wrong tender' });
    expect(await readPack(member, { issueId })).toMatchObject({
      state: 'withdrawn',
      endReason: 'The wrong tender',
      contents: [],
      copy: null,
    });
    expect(await refusedAs(packContent(member, issueId, 'see'))).toBe('gone');
    expect(await refusedAs(withdrawIssue(secretary, { issueId, reason: 'Again' }))).toBe('conflict');
  });
});
