import { eq } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import { sameValue } from '@/core/columns/model';
import type { Actor } from '@/server/gate/actor';
import { changeColumn, defineColumn, retireColumn } from '@/server/columns/define';
import { changeTerm, listOf } from '@/server/columns/lists';
import { columnsAt } from '@/server/columns/read';
import { forecastType, setType } from '@/server/columns/retype';
import { setCells, setValues, undoValues } from '@/server/columns/setValues';
import { missingValues, valuesOf } from '@/server/columns/values';
import { db } from '@/server/db/client';
import { document, journal, valueBatch, valueChange } from '@/server/db/schema';
import { ledgerPage } from '@/server/documents/ledger';
import { openView } from '@/server/views/open';
import { journalOf } from '@/server/journal/read';
import { verifyJournal } from '@/server/journal/verify';
import { createDossier } from '@/server/dossiers/create';
import { fillWithPapers } from '../../bench/large';
import { dropLibrary, open, plainQuestion, refusedAs, type furnished } from '../library';
import { beginDescribing, define, folder, paper, shown, statusList } from './describing';

let keeper: Actor;
let officer: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  ({ keeper, officer, reader, home } = await beginDescribing());
});
afterAll(dropLibrary);

describe('columns', () => {
  it('are in force at their place and below, and nowhere else; two of one name never meet', async () => {
    const here = await define('text', home.dossier.id, { name: 'Officer' });
    const other = await createDossier(keeper, { seriesId: home.series.id, name: 'Other', reference: null });
    const at = async (placeId: string) => (await columnsAt(keeper, { placeId })).columns.map((column) => column.id);
    expect(await at(home.year.id)).toContain(here);
    expect(await at(other.id)).not.toContain(here);
    expect(await refusedAs(define('text', home.year.id, { name: 'OFFICER' }))).toBe('name-taken');
    expect(await refusedAs(define('text', home.series.id, { name: 'officer' }))).toBe('name-taken');
    expect(await refusedAs(define('text', other.id, { name: 'Officer' }))).toBe('done');
    expect(
      await refusedAs(defineColumn(reader, { ...plainFields, name: 'Mine', type: 'text', placeId: home.dossier.id })),
    ).toBe('not-found');
  });

  it('hide their values when retired, and show them again; a stale change is a conflict', async () => {
    const where = await folder('Retired');
    const column = await define('text', where.id);
    const id = await paper(where.id);
    await setValues(keeper, { documentIds: [id], values: { [column]: 'kept' } });
    await retireColumn(keeper, { columnId: column, retired: true, revision: 0 });
    expect(await refusedAs(setValues(keeper, { documentIds: [id], values: { [column]: 'other' } }))).toBe('gone');
    // Someone who was editing it is told in its cells, and what they typed is not lost on the way.
    expect((await setCells(keeper, { cells: [{ documentId: id, columnId: column, text: 'typed' }] })).outcomes).toEqual(
      [{ state: 'refused', says: 'This column is no longer in use here. What you typed was not saved.' }],
    );
    expect((await valuesOf(keeper, { documentIds: [id] })).columns.map((each) => each.id)).not.toContain(column);
    expect(await refusedAs(changeColumn(keeper, { ...plainFields, name: 'x', columnId: column, revision: 0 }))).toBe(
      'conflict',
    );
    await retireColumn(keeper, { columnId: column, retired: false, revision: 1 });
    expect((await shown(id))[column]).toBe('kept');
  });

  it('say before a change of type what converts and what is lost, and do just that', async () => {
    const where = await folder('Types');
    const column = await define('text', where.id);
    const ids = await Promise.all(
      ['12', '1,250.5', 'about ten', '12'].map(async (value) => {
        const id = await paper(where.id);
        await setValues(keeper, { documentIds: [id], values: { [column]: value } });
        return id;
      }),
    );
    const to = { type: 'number' as const, listId: null, unit: 'm', decimals: null, currency: '' };
    await open(keeper, where.id, officer, 'manager');
    expect(await refusedAs(forecastType(officer, { columnId: column, ...to }))).toBe('not-allowed');
    const forecast = await forecastType(keeper, { columnId: column, ...to });
    expect(forecast).toMatchObject({ converts: 3, lost: 1, examples: [{ text: 'about ten', papers: 1 }] });
    await setType(keeper, { columnId: column, ...to, revision: 0, addTerms: false });
    expect(await Promise.all(ids.map(async (id) => (await shown(id))[column]))).toEqual([12, 1250.5, undefined, 12]);
  });

  it('that are required count the 300 papers that lack them, and a default fills those filed later', async () => {
    const where = await folder('Required');
    await fillWithPapers(keeper, [where.id], 300);
    const made = await defineColumn(keeper, {
      ...plainFields,
      name: 'Needed',
      type: 'yesNo',
      placeId: where.id,
      required: true,
      defaultValue: true,
    });
    expect(made.missing).toBe(300);
    const id = await paper(where.id);
    expect((await shown(id))[made.id]).toBe(true);
    expect(await missingValues(keeper, { placeId: where.id })).toMatchObject([{ columnId: made.id, papers: 300 }]);
  });
});

describe('setting values', () => {
  it('sets 5,000 papers in one act with one journal entry, and undoes it to every former value', async () => {
    const where = await folder('Five thousand');
    const list = await statusList(['current', 'archived']);
    const column = await define('choice', where.id, { listId: list.id });
    await fillWithPapers(keeper, [where.id], 5000);
    const ids = (await db().select({ id: document.id }).from(document).where(eq(document.homeId, where.id))).map(
      (row) => row.id,
    );
    await setValues(keeper, { documentIds: ids.slice(0, 2000), values: { [column]: list.term('archived') } });
    const before = await db()
      .select({ id: document.id, own: document.ownValues })
      .from(document)
      .where(eq(document.homeId, where.id));
    const entries = await db().$count(journal);
    const began = performance.now();
    const { changed, entryId } = await setValues(keeper, {
      documentIds: ids,
      values: { [column]: list.term('current') },
    });
    const took = performance.now() - began;
    expect(changed).toBe(5000);
    expect(await db().$count(journal)).toBe(entries + 1);
    const [batch] = await db()
      .select()
      .from(valueBatch)
      .where(eq(valueBatch.entryId, entryId ?? 0));
    expect(await db().$count(valueChange, eq(valueChange.batchId, batch?.id ?? ''))).toBe(5000);
    expect(await valuesOf(keeper, { documentIds: ids })).toMatchObject({
      values: expect.arrayContaining([expect.objectContaining({ columnId: column, state: 'same' })]),
    });
    const undone = await undoValues(keeper, { entryId: entryId ?? 0 });
    expect(undone).toMatchObject({ restored: 5000, left: 0 });
    const after = await db()
      .select({ id: document.id, own: document.ownValues })
      .from(document)
      .where(eq(document.homeId, where.id));
    const byId = new Map(after.map((row) => [row.id, row.own]));
    expect(before.every((row) => sameValue(row.own[column], byId.get(row.id)?.[column]))).toBe(true);
    expect(await valuesOf(keeper, { documentIds: ids })).toMatchObject({
      values: expect.arrayContaining([expect.objectContaining({ columnId: column, state: 'several', filled: 2000 })]),
    });
    console.log(`A column of 5,000 papers set in one act: ${Math.round(took)} ms`);
  });

  it('leaves what was changed since when it undoes, and says how many', async () => {
    const where = await folder('Undo');
    const column = await define('text', where.id);
    const ids = [await paper(where.id), await paper(where.id)];
    const { entryId } = await setValues(keeper, { documentIds: ids, values: { [column]: 'one' } });
    await setValues(keeper, { documentIds: [ids[0] ?? ''], values: { [column]: 'two' } });
    const undone = await undoValues(keeper, { entryId: entryId ?? 0 });
    expect(undone).toMatchObject({ restored: 1, left: 1 });
    expect((await shown(ids[0] ?? ''))[column]).toBe('two');
    await undoValues(keeper, { entryId: undone.entryId ?? 0 });
    expect((await shown(ids[1] ?? ''))[column]).toBe('one');
  });

  it('reads cells as they were typed, saves the good, and says of each other one why not', async () => {
    const where = await folder('Cells');
    const list = await statusList(['Current', 'Archived']);
    await changeTerm(keeper, { termId: list.term('Archived'), name: 'Archived', otherNames: ['Old'], parentId: null });
    const [status, sum, day] = [
      await define('choice', where.id, { listId: list.id }),
      await define('amount', where.id, { currency: 'GBP' }),
      await define('date', where.id),
    ];
    const [one, two] = [await paper(where.id), await paper(where.id)];
    const cells = [
      [one, status, ' CURRENT '],
      [two, status, 'old'],
      [one, sum, '£1,234.50'],
      [two, sum, '1.234,50'],
      [one, day, '31 Feb 2026'],
      [two, day, '14.7.26'],
    ].map(([documentId = '', columnId = '', text = '']) => ({ documentId, columnId, text, was: null }));
    const { outcomes, entryId } = await setCells(keeper, { cells });
    expect(outcomes).toMatchObject([
      { state: 'saved', value: list.term('Current') },
      { state: 'saved', value: list.term('Archived') },
      { state: 'saved', value: 1234.5 },
      { state: 'refused', says: '“1.234,50” has its comma where a point belongs: write 1,234.50.' },
      { state: 'refused', says: 'There is no day 31 Feb 2026.' },
      { state: 'saved', value: '2026-07-14' },
    ]);
    const stale = await setCells(keeper, { cells: [{ documentId: one, columnId: sum, text: '5', was: null }] });
    expect(stale.outcomes).toEqual([{ state: 'changed', value: 1234.5 }]);
    expect(stale.entryId).toBeNull();
    await undoValues(keeper, { entryId: entryId ?? 0 });
    expect(await shown(one)).toEqual({});
  });

  it('lets an open list grow by what is typed, once for all spellings, and a closed one not', async () => {
    const where = await folder('Open');
    const list = await statusList(['Tides']);
    const column = await define('choices', where.id, { listId: list.id, open: true });
    const ids = [await paper(where.id), await paper(where.id)];
    const { outcomes } = await setCells(keeper, {
      cells: [
        { documentId: ids[0] ?? '', columnId: column, text: 'Dredging; tides' },
        { documentId: ids[1] ?? '', columnId: column, text: 'DREDGING' },
      ],
    });
    expect(outcomes.every((each) => each.state === 'saved')).toBe(true);
    expect((await listOf(keeper, list.id)).terms.map((each) => each.name)).toEqual(['Tides', 'Dredging']);
  });

  it('takes 100,000 pasted cells, and refuses those that are not papers of this library', async () => {
    const where = await folder('Pasted');
    const column = await define('number', where.id);
    await fillWithPapers(keeper, [where.id], 1000);
    const ids = (await db().select({ id: document.id }).from(document).where(eq(document.homeId, where.id))).map(
      (row) => row.id,
    );
    const cells = Array.from({ length: 100_000 }, (_, index) => ({
      documentId: ids[index % 1000] ?? '',
      columnId: column,
      text: String(index % 1000),
    }));
    cells[99_999] = { documentId: '00000000-0000-4000-8000-000000000000', columnId: column, text: '1' };
    const { outcomes } = await setCells(keeper, { cells });
    expect(outcomes.filter((each) => each.state === 'saved')).toHaveLength(99_999);
    expect(outcomes.at(-1)).toMatchObject({ state: 'refused' });
  });

  it('is for those who may amend; others are told, and those without sight learn nothing', async () => {
    const where = await folder('Amending');
    const column = await define('text', where.id);
    const id = await paper(where.id);
    await open(keeper, where.id, reader, 'reader');
    expect(await refusedAs(setValues(reader, { documentIds: [id], values: { [column]: 'x' } }))).toBe('not-allowed');
    expect(await refusedAs(setValues(officer, { documentIds: [id], values: { [column]: 'x' } }))).toBe('not-found');
    expect(
      (await setCells(reader, { cells: [{ documentId: id, columnId: column, text: 'x' }] })).outcomes,
    ).toMatchObject([{ state: 'refused' }]);
    expect(await refusedAs(valuesOf(officer, { documentIds: [id] }))).toBe('not-found');
  });

  it('does not name what a value refers to where that is not open to the reader', async () => {
    const where = await folder('Referring');
    const column = await define('document', where.id);
    const secret = await paper((await folder('Secret')).id, 'Secret pact');
    const id = await paper(where.id);
    await setValues(keeper, { documentIds: [id], values: { [column]: secret } });
    await open(keeper, where.id, officer, 'officer');
    const ask = {
      placeId: where.id,
      sort: 'title' as const,
      direction: 'up' as const,
      filter: '',
      after: null,
      limit: 10,
    };
    expect((await ledgerPage(keeper, ask)).names).toEqual({ [secret]: 'Secret pact' });
    expect((await ledgerPage(officer, ask)).names).toEqual({});
    const view = { ...plainQuestion, placeId: where.id, counts: [column] };
    expect((await openView(officer, view)).counts[column]).toEqual({ kind: 'values', values: [], more: 0 });
    expect(await refusedAs(setValues(officer, { documentIds: [id], values: { [column]: secret } }))).toBe('not-found');
  });
});

describe('the ledger with columns', () => {
  it('filters by values with counts under the other conditions, and sorts with empty last both ways', async () => {
    const where = await folder('Filtered');
    const list = await statusList(['current', 'archived']);
    const [status, weight] = [await define('choice', where.id, { listId: list.id }), await define('number', where.id)];
    const ids = [];
    for (const [term, number] of [
      ['current', 2],
      ['current', 10],
      ['archived', 1],
      [null, null],
    ] as const) {
      const id = await paper(where.id);
      ids.push(id);
      await setValues(keeper, {
        documentIds: [id],
        values: { [status]: term === null ? null : list.term(term), [weight]: number },
      });
    }
    const conditions = [{ of: status, anyOf: [list.term('current')] }];
    const ask = { placeId: where.id, sort: weight, direction: 'up' as const, filter: '', after: null, limit: 10 };
    const page = await ledgerPage(keeper, { ...ask, conditions });
    expect(page.rows.map((row) => row.values[weight])).toEqual([2, 10]);
    expect(page.totals?.papers).toBe(2);
    const view = await openView(keeper, { ...plainQuestion, placeId: where.id, conditions, counts: [status] });
    const counts = view.counts[status]?.kind === 'values' ? view.counts[status].values : [];
    expect(counts).toHaveLength(3);
    expect(counts).toEqual(
      expect.arrayContaining([
        { value: list.term('current'), name: 'current', papers: 2 },
        { value: list.term('archived'), name: 'archived', papers: 1 },
        { value: null, name: expect.stringMatching(/^No /u), papers: 1 },
      ]),
    );
    const order = async (direction: 'up' | 'down') =>
      (await ledgerPage(keeper, { ...ask, direction })).rows.map((row) => row.values[weight]);
    expect(await order('up')).toEqual([1, 2, 10, undefined]);
    expect(await order('down')).toEqual([10, 2, 1, undefined]);
    expect(
      await refusedAs(ledgerPage(keeper, { ...ask, conditions: [{ of: crypto.randomUUID(), anyOf: ['x'] }] })),
    ).toBe('gone');
  });
});

it('leaves a journal whose chain is whole', async () => {
  expect((await verifyJournal()).brokenAt).toBeNull();
});

it('tells in the journal of no more papers than its reader may see', async () => {
  const [near, far] = [await folder('Near'), await folder('Far')];
  const column = await define('text', home.series.id);
  const ids = [
    await paper(near.id),
    await paper(near.id),
    await paper(far.id),
    await paper(far.id),
    await paper(far.id),
  ];
  await setValues(keeper, { documentIds: ids, values: { [column]: 'x' } });
  await open(keeper, near.id, reader, 'reader');
  const told = async (actor: Actor) => {
    const lines = await journalOf(actor, { subject: 'place', id: near.id, before: null });
    return lines.find((line) => line.words.startsWith('set text'))?.words;
  };
  expect(await told(keeper)).toMatch(/of 5 papers$/u);
  expect(await told(reader)).toMatch(/of 2 papers$/u);
});
