import { checkFields, officerOf, readDetail, readDetails, spanOf, type DetailField } from './details';

const field = (id: string, kind: DetailField['kind'], choices: readonly string[] = []): DetailField => ({
  id,
  name: id,
  kind,
  choices,
});
const nobody = () => null;
const find = (words: string) => (words === 'Oona Marsh' ? 'p-oona' : null);

it.each<[DetailField, string, string | null]>([
  [field('Contact', 'text'), '  Ann  ', 'Ann'],
  [field('Contact', 'text'), '   ', null],
  [field('Mail', 'email'), 'Ann@Tenants.Example', 'ann@tenants.example'],
  [field('Since', 'started'), '1 Apr 2024', '2024-04-01'],
  [field('Since', 'day'), '2024-02-29', '2024-02-29'],
  [field('Standing', 'choice', ['Paid up', 'In arrears']), 'IN ARREARS', 'In arrears'],
  [field('Officer', 'officer'), 'Oona Marsh', 'p-oona'],
])('%j reads “%s” as %s', (of, raw, kept) => {
  expect(readDetail(of, raw, find)).toEqual({ ok: true, value: kept });
});

it.each<[DetailField, string, RegExp]>([
  [field('Mail', 'email'), 'ann at tenants', /no e-mail address/u],
  [field('Since', 'day'), '31 Feb 2024', /./u],
  [field('Standing', 'choice', ['Paid up']), 'Late', /one of: Paid up/u],
  [field('Officer', 'officer'), 'Nobody Known', /No one colleague/u],
  [field('Contact', 'text'), 'x'.repeat(401), /at most 400/u],
])('%j refuses “%s”, naming the field', (of, raw, says) => {
  const read = readDetail(of, raw, nobody);
  if (read.ok) throw new Error('It was taken');
  expect(read.issue.fields).toEqual([{ path: `details.${of.id}`, says: expect.stringMatching(says) as string }]);
});

describe('the details of a dossier', () => {
  const fields = [field('from', 'started'), field('to', 'ended'), field('who', 'officer')];
  it('are read together; an end before the start is refused', () => {
    expect(readDetails(fields, { from: '2024-04-01', to: '', other: 'x' }, nobody)).toEqual({
      ok: true,
      value: { from: '2024-04-01' },
    });
    expect(readDetails(fields, { from: '2024-04-01', to: '2024-03-31' }, nobody)).toMatchObject({ ok: false });
    expect(readDetails(fields, { from: '2024-04-01', to: '2024-04-01' }, nobody)).toMatchObject({ ok: true });
  });
  it('say from when to when it ran, and who is responsible', () => {
    const details = { from: '2024-04-01', who: 'p-oona' };
    expect(spanOf(fields, details)).toEqual({ started: '2024-04-01', ended: null });
    expect(officerOf(fields, details)).toBe('p-oona');
    expect(officerOf([], details)).toBeNull();
  });
});

it('fields have names that differ, words for a choice, and one of each kind that means something', () => {
  const wrong = (...fields: DetailField[]): string => {
    const checked = checkFields(fields);
    return checked.ok ? 'sound' : (checked.issue.fields?.[0]?.path ?? '');
  };
  expect(wrong(field('a', 'day'), field('b', 'day'), field('c', 'officer'))).toBe('sound');
  expect(wrong(field('a', 'text'), field('A', 'text'))).toBe('fields.1.name');
  expect(wrong(field('Reference', 'text'))).toBe('fields.0.name');
  expect(wrong(field('a', 'officer'), field('b', 'officer'))).toBe('fields.1.kind');
  expect(wrong(field('a', 'choice'))).toBe('fields.0.choices');
  expect(wrong(field('a', 'choice', ['x', 'X']))).toBe('fields.0.choices');
});
