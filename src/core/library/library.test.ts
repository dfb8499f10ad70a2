import { settingsSchema } from './contract';
import { greatestMaxFileBytes, isTimeZone } from './model';

const settings = {
  name: 'Trust',
  timeZone: 'Europe/London',
  yearStartMonth: 4,
  yearLabels: 'both',
  maxFileBytes: 5_000_000,
  families: ['pdf'],
  scanLanguages: ['eng'],
  trayDays: 90,
  exportDays: 7,
  backupEveryDays: null,
  revision: 0,
};
const says = (change: object): string | null => {
  const read = settingsSchema.safeParse({ ...settings, ...change });
  return read.success ? null : (read.error.issues[0]?.message ?? '');
};

it('takes settings that hold together', () => {
  expect(says({})).toBeNull();
});

it.each([
  [{ timeZone: 'Europe/Saltmarrow' }, /no time zone/u],
  [{ yearStartMonth: 13 }, /./u],
  [{ yearLabels: 'roman' }, /./u],
  [{ maxFileBytes: 10 }, /At least 1 MB/u],
  [{ maxFileBytes: greatestMaxFileBytes + 1 }, /At most 4,000 MB/u],
  [{ families: [] }, /At least one kind/u],
  [{ families: ['programs'] }, /./u],
  [{ scanLanguages: [] }, /At least one language/u],
  [{ trayDays: 0 }, /At least one day/u],
  [{ trayDays: 1.5 }, /./u],
  [{ exportDays: null }, /./u],
  [{ exportDays: 91 }, /At most 90 days/u],
  [{ backupEveryDays: 366 }, /At most 365 days/u],
  [{ scanLanguages: ['eng+../x'] }, /./u],
  [{ name: '   ' }, /A name is needed/u],
])('refuses %j with a word', (change, words) => {
  expect(says(change)).toMatch(words);
});

it('knows time zones by their IANA names', () => {
  expect([isTimeZone('UTC'), isTimeZone('America/St_Johns'), isTimeZone('Nowhere/At_all'), isTimeZone('')]).toEqual([
    true,
    true,
    false,
    false,
  ]);
});
