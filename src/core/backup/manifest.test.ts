import { backupName, isBackupName, isDue, keptBackups, readContents, writeContents } from './manifest';

const hash = (digit: string): string => digit.repeat(64);

it('names a backup after its moment, so that names in order are moments in order', () => {
  const names = ['2026-11-27T10:15:00.999Z', '2026-11-27T10:15:01.000Z', '2027-01-01T00:00:00.000Z'].map((at) =>
    backupName(new Date(at)),
  );
  expect(names).toEqual(['2026-11-27T101500Z', '2026-11-27T101501Z', '2027-01-01T000000Z']);
  expect(names.every(isBackupName)).toBe(true);
  expect(['../2026-11-27T101500Z', '2026-11-27', '', 'making-2026-11-27T101500Z'].some(isBackupName)).toBe(false);
});

it('lists contents and reads the list again, and nothing that is no list', () => {
  const contents = [
    { sha256: hash('a'), sizeBytes: 0 },
    { sha256: hash('b'), sizeBytes: 9_007_199_254_740 },
  ];
  expect(readContents(writeContents(contents))).toEqual(contents);
  expect(readContents('')).toEqual([]);
  for (const line of [`${hash('a')}`, `${hash('a')} -1`, `../../etc/passwd 12`, `${hash('A')} 1`, `${hash('a')}  1`])
    expect(() => readContents(`${line}\n`)).toThrow('a line that is none');
});

it('keeps the newest', () => {
  expect(keptBackups(['b', 'd', 'a', 'c'], 2)).toEqual(['c', 'd']);
  expect(keptBackups(['a'], 5)).toEqual(['a']);
});

it.each([
  [null, 1, true],
  [null, null, false],
  ['2026-11-27T10:00:00.000Z', 1, false],
  ['2026-11-26T10:00:00.001Z', 1, false],
  ['2026-11-26T10:00:00.000Z', 1, true],
  ['2026-11-26T10:00:00.000Z', 7, false],
])('the last at %s and one every %s days: due %s', (lastAt, everyDays, due) => {
  expect(isDue(lastAt, everyDays, new Date('2026-11-27T10:00:00.000Z'))).toBe(due);
});
