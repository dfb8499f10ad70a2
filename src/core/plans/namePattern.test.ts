import { fillName, readNamePattern, type NameFacts, type PlanTiming } from './namePattern';

const facts: NameFacts = {
  dossier: 'Finance & audit',
  reference: 'FAC',
  year: { startYear: 2026, lastYear: 2027, label: '2026–27' },
  meeting: { day: '2028-02-29', title: 'Special meeting' },
};
const made = (pattern: string, timing: PlanTiming = 'meeting', of: NameFacts = facts): string => {
  const read = readNamePattern(pattern, timing);
  if (!read.ok) return read.issue.says;
  const name = fillName(read.value, of);
  return name.ok ? name.value : name.issue.says;
};

it.each([
  ['Minutes', 'Minutes'],
  ['{dossier} {reference}', 'Finance & audit FAC'],
  ['Accounts {year}', 'Accounts 2026–27'],
  ['{year:first}/{year:last}', '2026/2027'],
  ['{meeting}', '29 Feb 2028'],
  ['{meeting:d MMM} {title}', '29 Feb Special meeting'],
  ['{meeting:yyyy-MM-dd}', '2028-02-29'],
  ['{meeting:EEEE d MMMM}', 'Tuesday 29 February'],
  ['  Ferry   {reference} ', 'Ferry   FAC'],
])('“%s” gives “%s”', (pattern, name) => {
  expect(made(pattern)).toBe(name);
});

it.each([
  ['{client}', 'once', 'There is no part {client}. Here a name knows {dossier}, {reference}.'],
  ['{year}', 'once', '{year} is for folders made once per filing year.'],
  ['{meeting:d MMM}', 'year', '{meeting:d MMM} is for folders made once per meeting.'],
  ['{meeting:hh}', 'meeting', 'A day is written with d dd MMM MMMM MM yy yyyy EEE EEEE, not hh.'],
  ['{year:middle}', 'year', '{year:…} knows first and last, not middle.'],
  ['{dossier:short}', 'once', '{dossier} has no other form.'],
  ['Minutes {year', 'year', 'A brace stands alone here. Parts are written {year}, with both braces.'],
  ['Minutes }', 'once', 'A brace stands alone here. Parts are written {year}, with both braces.'],
  ['', 'once', 'A folder needs a name.'],
  ['   ', 'once', 'A folder needs a name.'],
] as const)('“%s”, %s, is refused with a sentence', (pattern, timing, says) => {
  expect(made(pattern, timing)).toBe(says);
});

it('of which nothing comes is refused when it is filled', () => {
  expect(made('{reference}', 'once', { ...facts, reference: null })).toMatch(/^A name is needed/u);
});
