import { Lexicon } from './lexicon';
import type { Column, Term } from './model';
import { nameShape, suggestValues, type Described } from './suggest';

const column = (id: string, type: Column['type']): Column => ({
  id,
  placeId: 'p',
  name: id,
  help: '',
  type,
  listId: type === 'choice' ? 'types' : null,
  open: false,
  unit: '',
  decimals: null,
  currency: '',
  required: false,
  meaning: 'none',
  defaultValue: null,
  position: 0,
  retired: false,
  revision: 0,
});
const term = (id: string, name: string, otherNames: readonly string[] = [], retired = false): Term => ({
  id,
  listId: 'types',
  parentId: null,
  name,
  otherNames,
  position: 0,
  retired,
});
const lexicon = new Lexicon([
  term('m', 'Minutes', ['Record of meeting']),
  term('i', 'Invoice', ['Bill']),
  term('ir', 'Invoice reminder'),
  term('o', 'Notes', [], true),
]);
const columns = [
  column('date', 'date'),
  column('type', 'choice'),
  column('tenant', 'dossier'),
  column('author', 'text'),
];
const suggest = (title: string, described: readonly Described[] = [], shown = {}) =>
  suggestValues(title, shown, {
    columns,
    terms: () => lexicon,
    dossierByReference: (reference) => (reference === 'T-014' ? { id: 'd14', name: 'Cockle Oysters' } : undefined),
    described,
  });

it.each([
  ['Letter 14.7.26', '2026-07-14'],
  ['Letter of 14 July 2026', '2026-07-14'],
  ['Letter 2026-07-14', '2026-07-14'],
  ['Letter_14-07-2026_final', '2026-07-14'],
  ['Report, July 2026', '2026-07-01'],
])('finds the day in “%s”, day first', (title, value) => {
  expect(suggest(title)).toContainEqual(expect.objectContaining({ columnId: 'date', value }));
});

it.each(['Letter from today', 'Berth 12', 'Report 2026', 'Notice no. 5 of the pilots'])(
  'sees no day in “%s”',
  (title) => {
    expect(suggest(title).filter((each) => each.columnId === 'date')).toEqual([]);
  },
);

it('finds references that the library has, and says whose', () => {
  expect(suggest('Rent review T-014')).toContainEqual({
    columnId: 'tenant',
    value: 'd14',
    because: 'the title has the reference T-014 of Cockle Oysters',
  });
  expect(suggest('Rent review T-999').some((each) => each.columnId === 'tenant')).toBe(false);
});

it('finds the type by its words, the longest first, by other names too, never a retired one', () => {
  expect(suggest('Minutes of 12 May')).toContainEqual({
    columnId: 'type',
    value: 'm',
    because: 'the title says “Minutes”',
  });
  expect(suggest('Invoice reminder 47')).toContainEqual(expect.objectContaining({ value: 'ir' }));
  expect(suggest('Electricity bill')).toContainEqual(
    expect.objectContaining({ value: 'i', because: 'the title says “Bill”' }),
  );
  expect(suggest('Billing address').some((each) => each.columnId === 'type')).toBe(false);
  expect(suggest('Notes').some((each) => each.columnId === 'type')).toBe(false);
});

it('learns from like-named papers by counting, and says how many', () => {
  const described = [1, 2, 3, 4].map((number) => ({
    title: `Harbour master’s report ${number} May`,
    shown: { author: number === 4 ? 'Other' : 'Petra' },
  }));
  expect(suggest('Harbour master’s report, 9 June', described)).toContainEqual({
    columnId: 'author',
    value: 'Petra',
    because: '3 of 4 papers named so here have it',
  });
  expect(suggest('Harbour report', described).some((each) => each.columnId === 'author')).toBe(false);
  expect(suggest('Harbour master’s report', described.slice(0, 2)).some((each) => each.columnId === 'author')).toBe(
    false,
  );
});

it('suggests nothing where there is a value already', () => {
  expect(suggest('Minutes of 12 May 2026 T-014', [], { date: '2020-01-01', type: 'i', tenant: 'x' })).toEqual([]);
});

it('takes dates and numbers out of a name to see what is alike', () => {
  expect(nameShape('Minutes of 12 May 2026')).toBe('minutes');
  expect(nameShape('INVOICE 0047')).toBe('invoice');
  expect(nameShape('14.7.26')).toBe('');
});
