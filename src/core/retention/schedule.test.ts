import { nameKey } from '../text/fold';
import { keptInWords, readSchedule, writeSchedule, type ScheduledClass } from './schedule';

const classes: readonly ScheduledClass[] = [
  {
    name: 'Invoices',
    authority: 'Tax law, “section 21”',
    start: 'yearEnd',
    columnId: null,
    months: 72,
    end: 'destroy',
  },
  { name: 'Leases, ended', authority: 'Line one\nline two', start: 'column', columnId: 'c', months: 144, end: 'look' },
  { name: 'Minutes', authority: '', start: 'filed', columnId: null, months: null, end: 'keep' },
  { name: '=Closed()', authority: '', start: 'closed', columnId: null, months: 18, end: 'handOver' },
];
const columnId = (name: string): string | null => (nameKey(name) === 'lease ends' ? 'c' : null);
const read = (csv: string) => {
  const lines = readSchedule(csv, columnId);
  return lines.ok
    ? lines.value.map(({ line, read: each }) => (each.ok ? each.value : `${line}: ${each.issue.says}`))
    : lines.issue.says;
};

it('comes in as it went out, whatever stands in it', () => {
  expect(read(writeSchedule(classes, () => 'Lease ends'))).toEqual(classes);
});

it('takes years, other words’ case, semicolons and columns in any order', () => {
  expect(
    read(
      'then;Kept for months;name;counted;authority;date column\nDESTROY;7 years;Old;from the closing of its dossier;;',
    ),
  ).toEqual([{ name: 'Old', authority: '', start: 'closed', columnId: null, months: 84, end: 'destroy' }]);
});

it.each([
  ['', 'There is nothing in it'],
  ['Name,Then\nA,destroy', 'It has no column “Authority”, “Counted”'],
])('refuses %j as a whole', (csv, says) => {
  expect(read(csv)).toContain(says);
});

it('says of each line that cannot be taken in why, and takes the rest', () => {
  const head = 'Name,Authority,Counted,Date column,Kept for months,Then\n';
  const lines = read(
    `${head}A,,filed,,12,destroy\na,,filed,,12,destroy\nB,,some day,,12,destroy\nC,,filed,,12,burn\nD,,column,Weather,12,destroy\nE,,filed,,,destroy\nF,,filed,,soon,destroy\nG,,filed,,0,destroy\n,,filed,,1,destroy\nH,,filed,,1,look`,
  );
  expect(lines).toEqual([
    expect.objectContaining({ name: 'A' }),
    '3: “a” is there twice.',
    expect.stringContaining('4: “some day” is no start'),
    expect.stringContaining('5: “burn” is no end'),
    '6: No column of dates is called “Weather”.',
    expect.stringContaining('7: It says no time'),
    expect.stringContaining('8: “soon” is no time'),
    expect.stringContaining('9: “0” is no time'),
    expect.stringContaining('10: '),
    expect.objectContaining({ name: 'H' }),
  ]);
});

it('says in words how long', () => {
  expect(classes.map(keptInWords)).toEqual([
    '6 years from the end of its filing year, then destroy',
    '12 years from a date of the paper, then look again',
    'kept for good',
    '18 months from the closing of its dossier, then hand over to an archive',
  ]);
});
