import fc from 'fast-check';
import { Lexicon } from './lexicon';
import type { Names } from './format';
import type { Column, Term, Value } from './model';
import type { Vocabulary } from './read';
import { readCsv, writeCsv } from '../interchange/block';
import { idHeading, pathHeading, planTable, tableOf, titleHeading, type TablePaper } from './table';

const term = (id: string, name: string): Term => ({
  id,
  listId: 'types',
  parentId: null,
  name,
  otherNames: [],
  position: 0,
  retired: false,
});
const lexicon = new Lexicon([term('m', 'Minutes'), term('a', 'Agenda')]);
const names: Names = { terms: () => lexicon, named: () => undefined };
const vocabulary: Vocabulary = { terms: () => lexicon, person: () => null, dossier: () => null, document: () => null };

const column = (id: string, name: string, type: Column['type']): Column => ({
  id,
  placeId: 'p',
  name,
  help: '',
  type,
  listId: type === 'choice' ? 'types' : null,
  open: false,
  unit: '',
  decimals: null,
  currency: type === 'amount' ? 'GBP' : '',
  required: false,
  meaning: 'none',
  defaultValue: null,
  position: 0,
  retired: false,
  revision: 0,
});
const columns = [
  column('type', 'Paper type', 'choice'),
  column('sum', 'Amount', 'amount'),
  column('note', 'Remark', 'text'),
];

const paper = (
  id: string,
  title: string,
  shown: Record<string, Value> = {},
  more: Partial<TablePaper> = {},
): TablePaper => ({
  id,
  title,
  path: `Board / Finance / ${title}`,
  shown,
  fixed: {},
  mayAmend: true,
  ...more,
});
const papers = [
  paper('1', 'One', { type: 'm', sum: 12.5 }),
  paper('2', 'Two', { note: 'kept' }, { fixed: { note: 'kept' } }),
  paper('3', 'Three', {}, { mayAmend: false }),
];
const plan = (rows: string[][], of = papers) => planTable(rows, of, columns, names, vocabulary);

describe('a table of values', () => {
  it('names its columns in its first line, and each paper by id, path and title', () => {
    expect(tableOf(papers, columns, names).slice(0, 2)).toEqual([
      [idHeading, pathHeading, titleHeading, 'Paper type', 'Amount', 'Remark'],
      ['1', 'Board / Finance / One', 'One', 'Minutes', '12.5', ''],
    ]);
  });

  it('changes nothing when it comes back as it went out, through a CSV as well', () => {
    const values = fc.record(
      {
        type: fc.constantFrom('m', 'a'),
        sum: fc.integer({ min: -1e7, max: 1e7 }).map((pence) => (pence === 0 ? 0 : pence / 100)),
        note: fc.constantFrom('=1+1', '-5', "'quoted", 'a,b', 'with "quotes"', '+44 1', '@all'),
      },
      { requiredKeys: [] },
    );
    fc.assert(
      fc.property(fc.array(values, { minLength: 1, maxLength: 8 }), (all) => {
        const some = all.map((shown, index) => paper(String(index), `Paper ${index}`, shown as Record<string, Value>));
        const back = readCsv(writeCsv(tableOf(some, columns, names)));
        expect(plan(back, some)).toEqual({ papers: 0, changes: [], errors: [], ignoredColumns: [] });
      }),
      { seed: 17 },
    );
  });

  it('says each change with what is there now and what would be', () => {
    const planned = plan([
      [idHeading, 'Paper type', 'Amount'],
      ['1', 'agenda', ''],
      ['3', '', ''],
    ]);
    expect(planned.errors).toEqual([]);
    expect(planned.papers).toBe(1);
    expect(planned.changes).toEqual([
      {
        line: 2,
        documentId: '1',
        title: 'One',
        columnId: 'type',
        columnName: 'Paper type',
        before: 'Minutes',
        after: 'Agenda',
        value: 'a',
      },
      {
        line: 2,
        documentId: '1',
        title: 'One',
        columnId: 'sum',
        columnName: 'Amount',
        before: '12.5',
        after: '',
        value: null,
      },
    ]);
  });

  it('matches by path where there is no id, in any case', () => {
    expect(
      plan([
        [pathHeading, 'Remark'],
        ['BOARD / FINANCE / ONE', 'by its path'],
      ]).changes,
    ).toMatchObject([{ documentId: '1', after: 'by its path' }]);
  });

  it('names every fault by its line and column, and goes on with the rest', () => {
    const planned = plan([
      [idHeading, 'Paper type', 'Amount', 'Remark', 'Unheard of'],
      ['1', 'Minuets', '1.234,50', 'good', 'x'],
      ['2', '', '', 'mine', ''],
      ['3', 'Agenda', '', '', ''],
      ['9', '', '', '', ''],
      ['1', '', '', 'again', ''],
    ]);
    expect(planned.ignoredColumns).toEqual(['Unheard of']);
    expect(planned.changes).toMatchObject([{ line: 2, columnId: 'note', after: 'good' }]);
    expect(planned.errors.map(({ line, column: name }) => [line, name])).toEqual([
      [2, 'Paper type'],
      [2, 'Amount'],
      [3, 'Remark'],
      [4, 'Paper type'],
      [5, ''],
      [6, ''],
    ]);
    expect(planned.errors[2]?.says).toBe('The place fixes it as “kept”; it cannot be set on the paper.');
    expect(planned.errors[5]?.says).toBe('The paper stands in line 2 already.');
  });

  it('is refused as a whole where its first line says not which paper a line is of', () => {
    expect(
      plan([
        ['Name', 'Paper type'],
        ['One', 'Agenda'],
      ]),
    ).toMatchObject({ changes: [], errors: [{ line: 1 }] });
    expect(plan([])).toMatchObject({ changes: [], errors: [{ line: 1 }] });
  });

  it('takes a column that stands twice only once, and says so', () => {
    const planned = plan([
      [idHeading, 'Remark', 'remark'],
      ['1', 'first', 'second'],
    ]);
    expect(planned.changes).toMatchObject([{ after: 'first' }]);
    expect(planned.errors).toMatchObject([{ line: 1, column: 'remark' }]);
  });

  it('tells apart two papers of one path only by their ids', () => {
    const twins = [paper('1', 'One'), paper('2', 'One')];
    expect(
      plan(
        [
          [pathHeading, 'Remark'],
          ['Board / Finance / One', 'x'],
        ],
        twins,
      ).errors[0]?.says,
    ).toContain('More than one paper');
    expect(
      plan(
        [
          [idHeading, pathHeading, 'Remark'],
          ['2', 'Board / Finance / One', 'x'],
        ],
        twins,
      ).changes,
    ).toMatchObject([{ documentId: '2' }]);
  });

  it('finds 40 bad lines among 5,000, and every good one', () => {
    const many = Array.from({ length: 5000 }, (_, index) => paper(String(index), `Paper ${index}`));
    const bad = new Set(Array.from({ length: 40 }, (_, index) => index * 125));
    const rows = many.map(({ id }, index) => [id, bad.has(index) ? 'a lot' : String(index)]);
    const planned = plan([[idHeading, 'Amount'], ...rows], many);
    expect(planned.errors.map((each) => each.line)).toEqual([...bad].map((index) => index + 2));
    expect(planned.changes).toHaveLength(4960);
  });
});
