import { columnName } from './columnName';

it.each([
  [0, 'A'],
  [25, 'Z'],
  [26, 'AA'],
  [51, 'AZ'],
  [52, 'BA'],
  [701, 'ZZ'],
  [702, 'AAA'],
  [16_383, 'XFD'],
])('column %i is %s', (index, name) => {
  expect(columnName(index)).toBe(name);
});
