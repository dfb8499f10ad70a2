import { plainFields } from '../columns/contract';
import { columnTypes, type Column, type ColumnType } from '../columns/model';
import type { Condition, Part } from './conditions';
import { checkConditions, groupWays, propertyName, senseOf } from './property';

const idOf = (type: ColumnType): string =>
  `00000000-0000-4000-8000-${String(columnTypes.indexOf(type)).padStart(12, '0')}`;
const columns = columnTypes.map((type): Column => ({
  ...plainFields,
  id: idOf(type),
  placeId: '',
  name: `A ${type}`,
  type,
  position: 0,
  retired: type === 'yesNo',
  revision: 0,
}));
const refusedAs = (...parts: Part[]): string | null => {
  const checked = checkConditions(parts, columns);
  return checked.ok ? null : checked.issue.kind;
};
const picks = (of: string, ...anyOf: (string | null)[]): Condition => ({ of, anyOf });

it('fails closed on a column that is retired or was never there, also deep in blocks', () => {
  const never = '00000000-0000-4000-8000-00000000ffff';
  expect(refusedAs(picks(never, 'x'))).toBe('gone');
  expect(refusedAs({ how: 'any', parts: [{ how: 'none', parts: [picks(never, 'x')] }] })).toBe('gone');
  expect(refusedAs(picks(idOf('yesNo'), 'x'))).toBe('gone');
  expect(senseOf(idOf('yesNo'), columns)).toBeNull();
  expect(propertyName(never, columns)).toBe('A column that is not here');
});

it.each<[string, Condition]>([
  ['words of a number', { of: 'size', text: 'contains', words: '1' }],
  ['a range of a choice', { of: idOf('choice'), from: 1, to: 2 }],
  ['a stretch of days of a text', { of: idOf('text'), span: { is: 'today' } }],
  ['who of a document', { of: idOf('document'), who: ['me'] }],
  ['values of a long text', picks(idOf('longText'), 'x')],
  ['emptiness of who may open it', { of: 'openTo', filled: true }],
  ['since the last look of a mere day', { of: idOf('date'), span: { is: 'since-look' } }],
  ['a month that is none', picks(idOf('date'), '2026-13')],
  ['a day of nonsense', picks('filedAt', 'yesterday')],
])('refuses to ask %s', (_name, condition) => {
  expect(refusedAs(condition)).toBe('invalid');
});

it.each<[string, Condition]>([
  ['a month or none of a day', picks(idOf('date'), '2026-07', null)],
  ['since the last look of a moment', { of: 'changedAt', span: { is: 'since-look' } }],
  ['words of a long text', { of: idOf('longText'), text: 'contains', words: 'x' }],
  ['me of a person', { of: idOf('person'), who: ['me'] }],
  ['nothing at all of anything', { of: 'size', from: null, to: null }],
])('takes %s', (_name, condition) => {
  expect(refusedAs(condition)).toBeNull();
});

it('groups every property but long texts and who may open it', () => {
  for (const column of columns.filter((each) => !each.retired))
    expect(groupWays[senseOf(column.id, columns) ?? 'openTo'].length > 0).toBe(column.type !== 'longText');
});
