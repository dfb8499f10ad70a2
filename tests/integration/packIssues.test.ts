import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import { addItems, changeItem, removeItem } from '@/server/agenda/items';
import { fileAgenda, fileAgendas } from '@/server/agenda/printed';
import { agendaSheet } from '@/server/agenda/read';
import { readContent } from '@/server/blobs/content';
import { writableDb } from '@/server/db/client';
import { packCopy, packIssue } from '@/server/db/schema';
import { destroyPapers } from '@/server/disposal/destroy';
import { disposePapers } from '@/server/disposal/dispose';
import type { Actor } from '@/server/gate/actor';
import { makeNextCopy } from '@/server/packs/copies';
import { addPapers, addSection, moveEntry, removeEntry } from '@/server/packs/entries';
import { beginPack } from '@/server/packs/fromAgenda';
import { issuePack, stopIssue, withdrawIssue } from '@/server/packs/issue';
import { makeNextIssue } from '@/server/packs/make';
import { packNotes, writeNoteOnPage } from '@/server/packs/notes';
import { setCoverPicture } from '@/server/packs/picture';
import { packContent, readPack } from '@/server/packs/reading';
import { removePlace } from '@/server/places/amend';
import { createFolder } from '@/server/places/create';
import { dropLibrary, refusedAs } from '../library';
import { say } from '../sheets';
import { plainItem } from './calls';
import { board, keeper, now } from './expecting';
import {
  beginPacking,
  secretary,
  chair,
  member,
  stranger,
  meetingId,
  id,
  sheet,
  entryOf,
  begun,
  paperOf,
  issued,
  copy,
} from './packing';

beforeAll(async () => {
  await beginPacking();
  const { items, agenda } = await agendaSheet(keeper, { of: { meetingId } });
  const within = { parentId: items[1]?.id ?? null, beforeId: null };
  await addItems(secretary, { agendaId: agenda?.id ?? '', ...within, titles: ['Cost'] });
});
afterAll(dropLibrary);

describe('an issue', () => {
  it('has every page with its number, contents and bookmarks that lead to it, as other programs read them', async () => {
    const packId = await begun();
    const issueId = await issued(packId);
    const { pages, bookmarks, opened, leadsTo } = await copy(chair, issueId);
    // The chair may not see the paper of the closed folder, though the section is for them.
    const read = await readPack(chair, { issueId });
    expect(read.leftOut).toEqual(['Pages 16 to 19 are not part of your copy.']);
    // Cover, contents, sheet, 3 of minutes, sheet, 3 of the plan, 2 of the tender, the note, the photograph, sheet, 4 of the
    // claim: by hand. The item of costs has no papers, and so no sheet.
    expect(read.pagesInWords).toBe('19 pages in all');
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
    expect(bookmarks).toEqual(contents.map(({ title, page }) => [title, page]));
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
    expect([read.called, read.pagesInWords]).toEqual(['Supplement 1 to issue 1', 'Pages 20 to 24']);
    expect(read.contents.map(({ title, number, page }) => [title, number, page])).toEqual([
      ['2 Works', '22', 3],
      ['Late', '23', 4],
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

  it('is supplemented with pages that are let in where they belong', async () => {
    const packId = await begun();
    const whole = await issued(packId);
    const works = (await entryOf(packId, '2 Works')).id;
    await addPapers(secretary, { packId, parentId: works, documentIds: [id('Late')] });
    const { id: late } = await entryOf(packId, 'Late');
    await moveEntry(secretary, { entryId: late, parentId: works, beforeId: (await entryOf(packId, 'Tender')).id });
    const supplement = await issued(packId, false, 'letIn');
    const read = await readPack(member, { issueId: supplement });
    // By hand: the plan ends on page 10 of the whole, and its section has its sheet there.
    const { contents } = await readPack(member, { issueId: whole });
    expect(contents.find(({ title }) => title === 'Tender')?.number).toBe('11');
    expect([read.called, read.pagesInWords]).toEqual(['Supplement 1 to issue 1', 'Let in: pages 10a to 10b']);
    expect(read.contents.map(({ title, number, page }) => [title, number, page])).toEqual([
      ['2 Works', '10a', 3],
      ['Late', '10a', 3],
    ]);
    const { pages } = await copy(member, supplement);
    expect(pages).toHaveLength(4);
    expect(pages[1]).toMatch(/Late +10a/u);
    expect(pages[3]).toMatch(/Late page 2[^]*Pack page 10b\n/u);
    await writeNoteOnPage(member, { issueId: supplement, noteId: randomUUID(), page: 4, text: 'Here' });
    expect((await packNotes(member, { issueId: supplement })).map(({ number }) => number)).toEqual(['10b']);
    // What goes on after it goes on behind the whole.
    await addPapers(secretary, { packId, parentId: null, documentIds: [await paperOf('Last of all')] });
    const next = await readPack(member, { issueId: await issued(packId, false, 'supplement') });
    expect(next.pagesInWords).toBe('Pages 20 to 22');
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
    const { contents, pagesInWords } = await readPack(member, { issueId });
    expect(contents.find(({ title }) => title === 'Minutes')).toMatchObject({ number: '5', page: 5 });
    expect(pagesInWords).toBe('20 pages in all');
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

it('from the first issue on the printed agenda is made again only when somebody asks', async () => {
  const of = { meetingId };
  const agendaNow = async () => (await agendaSheet(keeper, { of })).agenda;
  await issued(await begun());
  const agendaId = (await agendaNow())?.id ?? '';
  await now(() => fileAgenda(secretary, { agendaId }));
  expect(await now(fileAgendas)).toBe(1);
  await now(() => addItems(secretary, { agendaId, parentId: null, beforeId: null, titles: ['Late item'] }));
  expect(await agendaNow()).toMatchObject({ filing: 'done', issued: true });
  await now(() => fileAgenda(secretary, { agendaId }));
  expect((await agendaNow())?.filing).toBe('waiting');
});

it('a picture of the library is on the cover of whoever gets the pack, and stays if its paper goes', async () => {
  const packId = await begun();
  const set = (who: Actor, documentId: string | null) => now(() => setCoverPicture(who, { packId, documentId }));
  expect(await refusedAs(set(secretary, id('Minutes')))).toBe('kind-refused');
  expect(await refusedAs(set(member, id('Photo')))).toBe('not-allowed');
  expect(await refusedAs(set(stranger, id('Photo')))).toBe('not-found');
  await set(secretary, id('Photo'));
  expect((await sheet(packId)).hasPicture).toBe(true);
  const issueId = await issued(packId);
  await set(secretary, null);
  const { cover } = await copy(member, issueId);
  // `pdfimages -list` names each picture of the page: one, as wide and high as it was.
  expect(cover.filter((line) => line.includes('jpeg'))).toEqual([expect.stringMatching(/\b900\s+600\b/u)]);
  expect((await sheet(packId)).hasPicture).toBe(false);
});
