import { sql } from 'drizzle-orm';
import { readCsv, writeCsv } from '@/core/interchange/block';
import type { Actor } from '@/server/gate/actor';
import { addTerm, changeTerm, createList, importList, listOf, listsWithUses, plainTerms } from '@/server/columns/lists';
import { forecastMerge, mergeTerm } from '@/server/columns/mergeTerms';
import { setValues, undoValues } from '@/server/columns/setValues';
import { suggest } from '@/server/columns/suggest';
import { applyTable, previewTable, valuesTable } from '@/server/interchange/table';
import { db } from '@/server/db/client';
import { journal } from '@/server/db/schema';
import { docketOf } from '@/server/documents/docket';
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
import { dropLibrary, open, refusedAs } from '../library';
import { beginDescribing, define, folder, paper, shown, statusList } from './describing';

let keeper: Actor;
let officer: Actor;
let reader: Actor;

beforeAll(async () => {
  ({ keeper, officer, reader } = await beginDescribing());
});
afterAll(dropLibrary);

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
