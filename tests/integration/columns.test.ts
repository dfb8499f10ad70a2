// Over 400 lines: one library is made once and every part of describing is tried on it, subject after subject.
import fc from 'fast-check';
import { eq, sql } from 'drizzle-orm';
import { resolveGiven, shownValues, type GivingPlace } from '@/core/columns/given';
import { plainFields, type ColumnFields } from '@/core/columns/contract';
import { sameValue, type Value, type Values } from '@/core/columns/model';
import { readCsv, writeCsv } from '@/core/interchange/block';
import { Refusal } from '@/core/errors/refusal';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/access/actor';
import { changeColumn, defineColumn, retireColumn } from '@/server/columns/define';
import { forecastGiven, givenOf, setGiven } from '@/server/columns/given';
import {
  addTerm,
  changeTerm,
  createList,
  forecastMerge,
  importList,
  listOf,
  listsWithUses,
  mergeTerm,
  plainTerms,
} from '@/server/columns/lists';
import { columnsAt } from '@/server/columns/read';
import { forecastType, setType } from '@/server/columns/retype';
import { setCells, setValues, undoValues } from '@/server/columns/setValues';
import { suggest } from '@/server/columns/suggest';
import { applyTable, previewTable, valuesTable } from '@/server/columns/table';
import { missingValues, valuesOf } from '@/server/columns/values';
import { db } from '@/server/db/client';
import { document, givenValue, journal, place, valueBatch, valueChange } from '@/server/db/schema';
import { forecastPaperMove, movePapers, putInPlaces } from '@/server/documents/amend';
import { docketOf } from '@/server/documents/docket';
import { ledgerPage } from '@/server/documents/ledger';
import { openView } from '@/server/views/open';
import {
  allLabels,
  changeLabel,
  createLabel,
  labelledPapers,
  labelsOn,
  mergeLabel,
  putLabel,
  removeLabel,
} from '@/server/labels/labels';
import { journalOf } from '@/server/journal/read';
import { verifyJournal } from '@/server/journal/verify';
import { createDossier, createFolder } from '@/server/places/create';
import { movePlace } from '@/server/places/move';
import { openPlace } from '@/server/places/open';
import { fillWithPapers } from '../../bench/large';
import { dropLibrary, freshLibrary, furnished, newcomer, open, plainQuestion } from '../library';

let keeper: Actor;
let officer: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let rootId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  home = await furnished(keeper);
  officer = await newcomer(keeper, 'Off Icer');
  reader = await newcomer(keeper, 'Rea Der');
  const [root] = await db().select({ id: place.id }).from(place).where(eq(place.kind, 'library'));
  rootId = root?.id ?? '';
});
afterAll(dropLibrary);

const refusedAs = (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'done',
    (error: unknown) => (error instanceof Refusal ? error.issue.kind : String(error)),
  );

let counter = 0;
const define = async (type: ColumnFields['type'], placeId: string, more: Partial<ColumnFields> = {}) =>
  (await defineColumn(keeper, { ...plainFields, name: `${type} ${(counter += 1)}`, type, placeId, ...more })).id;

const folder = (name: string, parentId = home.year.id) =>
  createFolder(keeper, { parentId, name: `${name} ${(counter += 1)}` });
const paper = (placeId: string, name = 'paper', actor = keeper) =>
  fileBuffer(actor, placeId, `${name}.txt`, Buffer.from(`${name} ${(counter += 1)}\n`));
const shown = async (id: string): Promise<Values> => (await docketOf(keeper, { documentId: id })).values;
const revisionOf = async (placeId: string) => (await openPlace(keeper, { placeId })).place.revision;
const give = async (placeId: string, given: Parameters<typeof setGiven>[1]['given']) =>
  setGiven(keeper, { placeId, given, revision: await revisionOf(placeId) });
const statusList = async (names: string[]) => {
  const { id } = await createList(keeper, { name: `List ${(counter += 1)}`, terms: names });
  const { terms } = await listOf(keeper, id);
  return { id, term: (name: string) => terms.find((each) => each.name === name)?.id ?? '' };
};

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

describe('given values', () => {
  it('fill what arrives, cannot be contradicted, and change with the place, said before', async () => {
    // A series of its own: what a series gives reaches far.
    const home = await furnished(keeper, 'Giving');
    const [committee, year, meeting, note] = [
      await define('dossier', home.series.id, { name: 'Committee' }),
      await define('text', home.series.id, { name: 'Year' }),
      await define('date', home.series.id, { name: 'Meeting' }),
      await define('text', home.series.id, { name: 'Note to file' }),
    ];
    await give(home.series.id, [
      { columnId: committee, mode: 'fixed', value: null, binding: 'dossier' },
      { columnId: year, mode: 'fixed', value: null, binding: 'filingYear' },
      { columnId: meeting, mode: 'fixed', value: null, binding: 'meetingDay' },
      { columnId: note, mode: 'offered', value: 'as offered', binding: null },
    ]);
    const july = await createFolder(keeper, {
      parentId: home.year.id,
      name: '14 Jul meeting',
      meetingDay: '2026-07-14',
    });
    const id = await paper(july.id, 'Minutes');
    expect(await shown(id)).toMatchObject({
      [committee]: home.dossier.id,
      [year]: home.year.name,
      [meeting]: '2026-07-14',
      [note]: 'as offered',
    });
    expect(
      await setValues(keeper, { documentIds: [id], values: { [committee]: null, [note]: 'its own' } }),
    ).toMatchObject({ changed: 1, fixed: 1 });
    const [cell] = (await setCells(keeper, { cells: [{ documentId: id, columnId: year, text: '1999' }] })).outcomes;
    expect(cell).toMatchObject({ state: 'refused' });

    const board = await createDossier(keeper, { seriesId: home.series.id, name: 'Full board', reference: null });
    const forecast = await forecastPaperMove(keeper, { documentIds: [id], toId: board.id });
    expect(forecast.values.map((each) => each.name).sort()).toEqual(['Committee', 'Meeting', 'Year']);
    const { backTo, entryId } = await movePapers(keeper, { documentIds: [id], toId: board.id });
    expect(await shown(id)).toEqual({ [committee]: board.id, [note]: 'its own' });
    await putInPlaces(keeper, { homes: backTo, undoing: entryId });
    expect(await shown(id)).toMatchObject({ [committee]: home.dossier.id, [meeting]: '2026-07-14', [note]: 'its own' });
  });

  it('say how many papers a change of the sheet alters before it does, and by whom each is given', async () => {
    const where = await folder('Sheets');
    const column = await define('text', where.id);
    const inner = await folder('Inner', where.id);
    const ids = [await paper(where.id), await paper(inner.id)];
    await setValues(keeper, { documentIds: [ids[0] ?? ''], values: { [column]: 'mine' } });
    const given = [{ columnId: column, mode: 'fixed' as const, value: 'theirs', binding: null }];
    expect(await forecastGiven(keeper, { placeId: where.id, given })).toMatchObject({
      papers: 2,
      columns: [{ papers: 2, overwritten: 1 }],
    });
    expect(await give(where.id, given)).toEqual({ papers: 2 });
    expect((await givenOf(keeper, { placeId: inner.id })).inForce).toMatchObject([
      { columnId: column, value: 'theirs', fromName: where.name },
    ]);
    await give(where.id, []);
    expect((await shown(ids[0] ?? ''))[column]).toBe('mine');
    expect((await shown(ids[1] ?? ''))[column]).toBeUndefined();
    expect(await refusedAs(setGiven(keeper, { placeId: where.id, given, revision: 0 }))).toBe('conflict');
  });

  it('agree with a plain walk up the tree for every paper, after random sheets and moves', async () => {
    const column = await define('text', rootId, { name: 'Anything' });
    const top = await folder('Random');
    const places = [top];
    for (let made = 0; made < 10; made += 1) {
      const parent = places[Math.floor((made * 7) % places.length)] ?? top;
      places.push(await folder('Random', parent.id));
    }
    const papers = await Promise.all(places.map((each) => paper(each.id)));
    const steps = fc.sample(
      fc.record({
        kind: fc.constantFrom('give', 'take', 'move', 'own'),
        at: fc.nat(places.length - 1),
        to: fc.nat(places.length - 1),
        mode: fc.constantFrom('fixed' as const, 'offered' as const),
        value: fc.constantFrom('a', 'b', 'c'),
      }),
      { numRuns: 40, seed: 7 },
    );
    for (const { kind, at, to, mode, value } of steps) {
      const [one, other] = [places[at], places[to]];
      if (!one || !other) continue;
      if (kind === 'give') await give(one.id, [{ columnId: column, mode, value, binding: null }]);
      else if (kind === 'take') await give(one.id, []);
      else if (kind === 'own')
        await setValues(keeper, { documentIds: [papers[to] ?? ''], values: { [column]: value } });
      else if (one.id !== top.id) await movePlace(keeper, { placeId: one.id, toId: other.id }).catch(() => undefined);
    }
    const sheets = await db().select().from(givenValue).where(eq(givenValue.columnId, column));
    const rows = await db().select().from(place);
    const byId = new Map(rows.map((row) => [row.id, row]));
    const documents = await db()
      .select()
      .from(document)
      .where(sql`${document.id} = any(${sql.param(papers)}::uuid[])`);
    expect(documents).toHaveLength(papers.length);
    for (const each of documents) {
      // The plain walk: from the home upwards, the first sheet that speaks of the column.
      let expected: Value | undefined = each.ownValues[column];
      for (let at = byId.get(each.homeId); at; at = at.parentId === null ? undefined : byId.get(at.parentId)) {
        const here = sheets.find((sheet) => sheet.placeId === at?.id);
        if (!here) continue;
        if (here.mode === 'fixed') expected = here.value ?? undefined;
        break;
      }
      expect(sameValue(each.shownValues[column], expected)).toBe(true);
      const way = (byId.get(each.homeId)?.lineage ?? []).flatMap((id): GivingPlace[] => {
        const row = byId.get(id);
        const given = sheets.filter((sheet) => sheet.placeId === id);
        return row ? [{ ...row, filingYear: null, given }] : [];
      });
      const resolved = resolveGiven(way, () => 'text').get(column);
      expect(shownValues(each.ownValues, resolved?.mode === 'fixed' ? { [column]: resolved.value } : {})).toEqual(
        each.shownValues,
      );
    }
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

describe('controlled lists', () => {
  it('merge two values: papers, places and other names follow, after a count', async () => {
    const where = await folder('Merging');
    const list = await statusList(['Finance', 'Finanse', 'Audit']);
    const column = await define('choices', where.id, { listId: list.id });
    const id = await paper(where.id);
    await setValues(keeper, { documentIds: [id], values: { [column]: [list.term('Finanse'), list.term('Finance')] } });
    const merge = { termId: list.term('Finanse'), intoId: list.term('Finance') };
    expect(await forecastMerge(keeper, merge)).toEqual({ papers: 1, places: 0 });
    await mergeTerm(keeper, merge);
    expect((await shown(id))[column]).toEqual([list.term('Finance')]);
    expect((await listOf(keeper, list.id)).terms.find((each) => each.name === 'Finance')?.otherNames).toEqual([
      'Finanse',
    ]);
    const uses = (await listsWithUses(keeper)).find((each) => each.id === list.id);
    expect(uses?.uses).toEqual({ [list.term('Finance')]: 1 });
  });

  it('refuse a value merged into itself or below itself, or standing under itself, or named as another', async () => {
    const list = await statusList(['Top', 'Other']);
    const { id: inner } = await addTerm(keeper, { listId: list.id, name: 'Inner', parentId: list.term('Top') });
    expect(await refusedAs(mergeTerm(keeper, { termId: list.term('Top'), intoId: list.term('Top') }))).toBe(
      'into-itself',
    );
    expect(await refusedAs(mergeTerm(keeper, { termId: list.term('Top'), intoId: inner }))).toBe('into-itself');
    expect(
      await refusedAs(changeTerm(keeper, { termId: list.term('Top'), name: 'Top', otherNames: [], parentId: inner })),
    ).toBe('into-itself');
    expect(await refusedAs(addTerm(keeper, { listId: list.id, name: 'OTHER', parentId: null }))).toBe('name-taken');
    expect(await refusedAs(addTerm(reader, { listId: list.id, name: 'Mine', parentId: null }))).toBe('not-allowed');
  });

  it('come in from CSV, levels and other names with them, and again without doubling', async () => {
    const { id: listId } = await createList(keeper, { name: 'Imported', terms: [] });
    const text = 'Value,Other names,Retired\r\nFinance,Money; Accounts,\r\nFinance > Audit,,\r\nOld,,yes\r\n';
    expect(await importList(keeper, { listId, form: 'csv', text })).toEqual({ added: 3, changed: 0 });
    expect(await importList(keeper, { listId, form: 'csv', text })).toEqual({ added: 0, changed: 0 });
    expect(plainTerms(await listOf(keeper, listId))).toEqual([
      { way: ['Finance'], otherNames: ['Money', 'Accounts'], retired: false },
      { way: ['Finance', 'Audit'], otherNames: [], retired: false },
      { way: ['Old'], otherNames: [], retired: true },
    ]);
  });
});

describe('values as a table', () => {
  it('go out and come in unchanged, and a corrected one changes just its cells, with faults by line', async () => {
    const where = await folder('Table');
    const [text, number] = [
      await define('text', where.id, { name: 'Remark' }),
      await define('number', where.id, { name: 'Berths' }),
    ];
    const ids = [await paper(where.id, 'one'), await paper(where.id, 'two')];
    await setValues(keeper, { documentIds: ids, values: { [text]: '=HYPERLINK("x")', [number]: -5 } });
    const { rows } = await valuesTable(keeper, where.id, undefined, []);
    const csv = writeCsv(rows);
    expect(csv).toContain(`'=HYPERLINK`);
    const content = (out: string) => Buffer.from(out).toString('base64');
    expect(await previewTable(keeper, { placeId: where.id, form: 'csv', content: content(csv) })).toMatchObject({
      changes: [],
      errors: [],
    });
    const corrected = readCsv(csv);
    const at = corrected[0]?.indexOf('Berths') ?? -1;
    const [first = [], second = []] = corrected.slice(1);
    first[at] = '7';
    second[at] = 'seven';
    const changed = { placeId: where.id, form: 'csv' as const, content: content(writeCsv(corrected)) };
    expect(await previewTable(keeper, changed)).toMatchObject({
      papers: 1,
      changes: [{ line: 2, columnName: 'Berths', before: '-5', after: '7' }],
      errors: [{ line: 3, column: 'Berths' }],
    });
    expect(await refusedAs(applyTable(keeper, { ...changed, onlyGood: false }))).toBe('invalid');
    const done = await applyTable(keeper, { ...changed, onlyGood: true });
    expect(done).toMatchObject({ changed: 1, errors: 1 });
    await undoValues(keeper, { entryId: done.entryId ?? 0 });
    expect((await shown(first[0] ?? ''))[number]).toBe(-5);
  });
});

describe('labels', () => {
  it('are put on and taken off many papers, lead to them, and leave them untouched when they go', async () => {
    const where = await folder('Labels');
    await open(keeper, where.id, officer, 'officer');
    const ids = [await paper(where.id), await paper(where.id), await paper(where.id)];
    const { id } = await createLabel(keeper, { name: 'For approval', hue: 'rust', shared: true });
    expect((await putLabel(officer, { labelId: id, documentIds: ids.slice(0, 2), on: true })).changed).toHaveLength(2);
    expect((await putLabel(officer, { labelId: id, documentIds: ids, on: true })).changed).toEqual([ids[2]]);
    expect(await labelsOn(officer, { documentIds: ids })).toMatchObject({ papers: 3, bearing: { [id]: 3 } });
    expect((await labelledPapers(officer, { labelId: id })).papers).toHaveLength(3);
    expect((await labelledPapers(reader, { labelId: id })).papers).toHaveLength(0);
    expect(await refusedAs(removeLabel(officer, { labelId: id }))).toBe('not-allowed');
    const before = await shown(ids[0] ?? '');
    const { id: other } = await createLabel(keeper, { name: 'Approve', hue: 'reed', shared: true });
    expect(await mergeLabel(keeper, { labelId: id, intoId: other })).toEqual({ papers: 3 });
    expect(await removeLabel(keeper, { labelId: other })).toEqual({ papers: 3 });
    expect(await shown(ids[0] ?? '')).toEqual(before);
  });

  it('that are private are nobody else’s: not listed, not on papers, not in their journal', async () => {
    const where = await folder('Private');
    await open(keeper, where.id, officer, 'reader');
    const id = await paper(where.id);
    const mine = await createLabel(officer, { name: 'Look again', hue: 'plum', shared: false });
    await putLabel(officer, { labelId: mine.id, documentIds: [id], on: true });
    expect((await allLabels(officer)).map((each) => each.name)).toContain('Look again');
    expect((await allLabels(keeper)).map((each) => each.name)).not.toContain('Look again');
    expect((await docketOf(officer, { documentId: id })).labels).toEqual([mine.id]);
    expect((await docketOf(keeper, { documentId: id })).labels).toEqual([]);
    expect(await refusedAs(putLabel(keeper, { labelId: mine.id, documentIds: [id], on: false }))).toBe('not-found');
    expect(await refusedAs(createLabel(officer, { name: 'Ours', hue: 'plum', shared: true }))).toBe('not-allowed');
    expect(
      await refusedAs(changeLabel(officer, { labelId: mine.id, name: 'Look twice', hue: 'plum', revision: 5 })),
    ).toBe('conflict');
    const [told] = await db()
      .select({ papers: sql<number>`count(*)::int` })
      .from(journal)
      .where(sql`${journal.detail}::text like '%Look again%'`);
    expect(told?.papers).toBe(0);
  });
});

describe('suggested values', () => {
  it('come from the title and from how like-named papers were described, each with its reason', async () => {
    const where = await folder('Suggested');
    const list = await statusList(['Minutes', 'Agenda']);
    const types = await define('choice', where.id, { listId: list.id, name: 'Kind of paper' });
    const owner = await define('text', where.id, { name: 'Written by' });
    const old = await Promise.all([1, 2, 3, 4].map((each) => paper(where.id, `Harbour report ${each} May`)));
    await setValues(keeper, { documentIds: old, values: { [owner]: 'Petra' } });
    const ids = [await paper(where.id, 'Minutes of 12 May'), await paper(where.id, 'Harbour report 9 June')];
    const { papers: suggested } = await suggest(keeper, { documentIds: ids });
    const of = (id: string | undefined) => suggested.find((each) => each.documentId === id)?.suggestions ?? [];
    expect(of(ids[0])).toEqual(
      expect.arrayContaining([{ columnId: types, value: list.term('Minutes'), because: 'the title says “Minutes”' }]),
    );
    expect(of(ids[1])).toEqual(
      expect.arrayContaining([{ columnId: owner, value: 'Petra', because: '4 of 4 papers named so here have it' }]),
    );
    expect(await shown(ids[0] ?? '')).not.toHaveProperty(types);
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
