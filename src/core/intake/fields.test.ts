import type { Column, Term } from '../columns/model';
import type { Stated, StatedKind } from '../stated/model';
import { proposedValues } from './fields';

const column = (id: string, name: string, type: Column['type'], more: Partial<Column> = {}): Column => ({
  ...{ id, name, type, placeId: 'p', help: '', listId: null, open: false, unit: '', decimals: null, currency: '' },
  ...{ required: false, meaning: 'none', defaultValue: null, position: 0, retired: false, revision: 0 },
  ...more,
});
const stated = (kind: StatedKind, value: string, more: Partial<Stated> = {}): Stated => ({
  ...{ kind, value, currency: null, words: value, by: null, page: 1, spot: null, sure: 0.9 },
  ...more,
});
const term = (id: string, name: string, otherNames: readonly string[] = [], retired = false): Term => ({
  ...{ id, name, otherNames, retired, listId: 'types', parentId: null, position: 0 },
});
const types = [term('i', 'Invoice', ['Bill']), term('m', 'Minutes'), term('old', 'Receipt', [], true)];
const termsOf = (listId: string) => (listId === 'types' ? types : []);
const proposed = (columns: readonly Column[], all: readonly Stated[], title = '') =>
  proposedValues(columns, all, title, termsOf).map(({ columnId, value }) => [columnId, value]);

it('goes into the columns whose names mean it', () => {
  const columns = [
    column('ref', 'Our reference', 'text'),
    column('no', 'Invoice number', 'text'),
    column('day', 'Document date', 'date'),
    column('due', 'Payment due', 'date'),
    column('until', 'Valid until', 'date', { meaning: 'validUntil' }),
    column('sum', 'Amount', 'amount', { currency: 'GBP' }),
  ];
  const all = [
    stated('number', 'INV-1'),
    stated('day', '2026-11-03'),
    stated('due', '2026-12-03'),
    stated('amount', '1284.60', { currency: 'GBP' }),
  ];
  expect(proposed(columns, all)).toEqual([
    ['no', 'INV-1'],
    ['day', '2026-11-03'],
    ['due', '2026-12-03'],
    ['sum', 1284.6],
  ]);
});

it('goes nowhere where nothing is meant for it, or it is in another currency, or not sure enough', () => {
  const columns = [column('sum', 'Amount', 'amount', { currency: 'GBP' }), column('who', 'Author', 'text')];
  expect(proposed(columns, [stated('amount', '10.00', { currency: 'EUR' }), stated('number', '17')])).toEqual([]);
  expect(proposed(columns, [stated('amount', '10.00', { sure: 0.4 })])).toEqual([]);
  // A day on which something is due is not the day of the paper.
  expect(proposed([column('due', 'Due date', 'date')], [stated('day', '2026-11-03')])).toEqual([]);
  expect(proposed([column('day', 'Document date', 'date')], [stated('due', '2026-11-03')])).toEqual([]);
});

it('a period goes into the columns of its days, or into one as it is written', () => {
  const period = stated('period', '2026-10-01/2026-10-31', { words: '1 to 31 October 2026' });
  const days = [column('from', 'Period from', 'date'), column('until', 'Period to', 'date')];
  expect(proposed(days, [period])).toEqual([
    ['from', '2026-10-01'],
    ['until', '2026-10-31'],
  ]);
  expect(proposed([column('text', 'Billing period', 'text'), column('day', 'Date', 'date')], [period])).toEqual([
    ['text', '1 to 31 October 2026'],
  ]);
});

it('takes the one term of a list that its title names', () => {
  const columns = [column('type', 'Paper type', 'choice', { listId: 'types' })];
  expect(proposed(columns, [], 'Bill for rope')).toEqual([['type', 'i']]);
  expect(proposed(columns, [], 'Invoice and minutes')).toEqual([]);
  expect(proposed(columns, [], 'Receipt')).toEqual([]);
  expect(proposed(columns, [], 'Billing')).toEqual([]);
});
