import { addItems } from '@/server/agenda/items';
import { attachPapers, detachPaper } from '@/server/agenda/papers';
import { agendaSheet } from '@/server/agenda/read';
import { removeMeeting } from '@/server/meetings/meetings';
import { addPapers, addSection, changeEntry, moveEntry, removeEntry, setPack } from '@/server/packs/entries';
import { takeAgenda } from '@/server/packs/fromAgenda';
import { packSheet, packsOf } from '@/server/packs/read';
import { dropLibrary, refusedAs } from '../library';
import { keeper } from './expecting';
import { beginPacking, secretary, member, stranger, meetingId, id, sheet, entryOf, begun } from './packing';

beforeAll(beginPacking);
afterAll(dropLibrary);

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
