import { listHeadings, readList, readSums, writeSums } from './lists';

it('reads values by path, and the title; what is no value is left out of a list of the library’s own', () => {
  const found = readList([
    [...listHeadings, 'Status', 'Kind'],
    ['A/x.pdf', 'The x', 'PDF', 'A', '1 May 2026', 'Maren', '3', '900', 'Final', 'Report'],
    ['A/y.pdf', 'y', 'PDF', 'A', '1 May 2026', 'Maren', '3', '900', '', ''],
  ]);
  expect(found.get('A/x.pdf')).toEqual({ title: 'The x', cells: { Status: 'Final', Kind: 'Report' } });
  expect(found.get('A/y.pdf')).toEqual({ title: 'y', cells: {} });
});

it('reads any table that has paths', () => {
  const found = readList([
    ['Status', ' path ', ''],
    ['Draft', './A\\x.pdf', 'lost'],
  ]);
  expect([...found]).toEqual([['A/x.pdf', { title: '', cells: { Status: 'Draft' } }]]);
  expect(
    readList([
      ['File', 'Status'],
      ['x', 'Draft'],
    ]).size,
  ).toBe(0);
  expect(readList([]).size).toBe(0);
});

it('reads sums as it writes them, and those of binary files', () => {
  const sum = 'ab'.repeat(32);
  expect([...readSums(writeSums([{ sha256: sum, path: 'A b/ü.pdf' }]))]).toEqual([['A b/ü.pdf', sum]]);
  expect([...readSums(`${sum.toUpperCase()} *./x.pdf\r\nnot a sum  y\n`)]).toEqual([['x.pdf', sum]]);
});
