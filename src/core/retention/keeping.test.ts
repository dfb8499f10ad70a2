import fc from 'fast-check';
import { dayNumber, isoDay, type DayNumber } from '../calendar/period';
import { keepingCalendar, keptBy, longest, standingOf, type KeepingFacts } from './keeping';
import type { RetentionClass } from './model';

const day = (iso: string): DayNumber => dayNumber(iso) as DayNumber;
const made = (part: Partial<RetentionClass>): RetentionClass => ({
  id: part.name ?? 'class',
  name: 'class',
  authority: '',
  start: 'filed',
  columnId: null,
  months: 84,
  end: 'destroy',
  ...part,
});
const facts = (part: Partial<KeepingFacts> = {}): KeepingFacts => ({
  filed: day('2023-06-05'),
  dayIn: () => null,
  closed: null,
  filingYear: null,
  ...part,
});
const april = keepingCalendar(4);
const until = (by: RetentionClass, of: KeepingFacts, calendar = april) => {
  const kept = keptBy(by, of, calendar);
  return kept.until === null ? null : isoDay(kept.until);
};

/*
 * Worked by hand. The periods are those of one country, the United Kingdom, from memory: records of company meetings ten
 * years from the meeting (Companies Act 2006, section 355); accounting records of a private company three years, of a public
 * one six, from when they were made (section 388); records for corporation tax six years from the end of the accounting
 * period (Finance Act 1998, schedule 18, paragraph 21); employers' payroll records three years after the tax year (Income
 * Tax (PAYE) Regulations 2003, regulation 97); simple contracts six years from the breach, deeds twelve (Limitation Act 1980,
 * sections 5 and 8), which is why leases are kept for twelve years after they end.
 */
describe('statutory periods, worked by hand', () => {
  const heldOn = (iso: string) => facts({ dayIn: (id) => (id === 'day' ? day(iso) : null) });

  it.each([
    [
      'minutes of a meeting on 14 July 2026',
      made({ start: 'column', columnId: 'day', months: 120 }),
      heldOn('2026-07-14'),
      '2036-07-14',
    ],
    [
      'minutes of a meeting on 29 February 2024',
      made({ start: 'column', columnId: 'day', months: 120 }),
      heldOn('2024-02-29'),
      '2034-02-28',
    ],
    ['accounts of a private company made on 5 June 2023', made({ months: 36 }), facts(), '2026-06-05'],
    [
      'tax records of the year to 31 March 2024',
      made({ start: 'yearEnd', months: 72 }),
      facts({ filingYear: 2023 }),
      '2030-03-31',
    ],
    ['the same, filed in no year', made({ start: 'yearEnd', months: 72 }), facts(), '2030-03-31'],
    [
      'a lease that ended on 30 September 2025',
      made({ start: 'column', columnId: 'day', months: 144 }),
      heldOn('2025-09-30'),
      '2037-09-30',
    ],
    [
      'papers of a tenant who left on 1 March 2024',
      made({ start: 'closed', months: 72 }),
      facts({ closed: day('2024-03-01') }),
      '2030-03-01',
    ],
  ])('%s', (_what, by, of, expected) => {
    expect(until(by, of)).toBe(expected);
  });

  it('payroll of the tax year that ends in April, in a library whose years are those of the calendar', () => {
    expect(until(made({ start: 'yearEnd', months: 36 }), facts({ filed: day('2024-02-01') }), keepingCalendar(1))).toBe(
      '2027-12-31',
    );
  });
});

it('is over on the day after the last', () => {
  const kept = keptBy(made({ months: 12 }), facts(), april);
  expect(standingOf(kept, day('2024-06-05'))).toBe('running');
  expect(standingOf(kept, day('2024-06-06'))).toBe('over');
  // A start in the future: nothing is over.
  expect(standingOf(keptBy(made({ months: 1 }), facts({ filed: day('2030-01-01') }), april), day('2026-01-01'))).toBe(
    'running',
  );
});

it('guesses nothing where the day is missing', () => {
  for (const by of [made({ start: 'column', columnId: 'day' }), made({ start: 'closed' })])
    expect(standingOf(keptBy(by, facts(), april), day('2099-01-01'))).toBe('noStart');
});

it('keeps for good what is kept for good, with or without a time', () => {
  for (const months of [null, 12])
    expect(standingOf(keptBy(made({ end: 'keep', months }), facts(), april), day('2999-01-01'))).toBe('forGood');
});

describe('where several classes speak', () => {
  const seven = made({ name: 'seven years' });
  const ten = made({ name: 'ten years', months: 120 });
  const wins = (classes: readonly RetentionClass[], of = facts()) => longest(classes, of, april)?.kept.by.name;

  it('the longest wins, however near the others are', () => {
    expect(wins([seven, ten])).toBe('ten years');
    expect(wins([ten, seven])).toBe('ten years');
    expect(
      wins([seven, made({ name: 'from closing', start: 'closed', months: 12 })], facts({ closed: day('2035-01-01') })),
    ).toBe('from closing');
  });

  it('of two alike the nearer one is named', () => {
    expect(longest([seven, made({ name: 'as long' })], facts(), april)).toMatchObject({ at: 0 });
  });

  it('what is kept for good wins, then what is not known; and what an archive is to have is not destroyed', () => {
    const good = made({ name: 'for good', end: 'keep', months: null });
    const open = made({ name: 'open', start: 'closed', months: 1 });
    const archive = made({ name: 'archive', end: 'handOver', months: 12 });
    expect(wins([seven, open, good, archive])).toBe('for good');
    expect(wins([seven, open, archive])).toBe('open');
    expect(longest([seven, archive], facts(), april)).toMatchObject({
      kept: { by: { name: 'seven years' } },
      end: 'handOver',
    });
  });

  it('no class speaks where there is none', () => {
    expect(longest([], facts(), april)).toBeNull();
  });

  it('a further class never makes anything shorter', () => {
    const any = fc.record({
      start: fc.constantFrom('filed' as const, 'closed' as const, 'yearEnd' as const),
      months: fc.integer({ min: 1, max: 400 }),
      end: fc.constantFrom('destroy' as const, 'look' as const, 'keep' as const, 'handOver' as const),
    });
    fc.assert(
      fc.property(
        fc.array(any, { minLength: 1, maxLength: 5 }),
        any,
        fc.option(fc.integer({ min: 10_000, max: 25_000 }), { nil: null }),
        fc.integer({ min: 15_000, max: 30_000 }),
        (some, further, closed, today) => {
          const of = facts({ closed });
          const standing = (classes: readonly RetentionClass[]) => {
            const keeping = longest(classes, of, april);
            return keeping === null ? null : { stands: standingOf(keeping.kept, today), end: keeping.end };
          };
          const before = standing(some.map(made));
          const after = standing([...some, further].map(made));
          if (before?.stands !== 'over') expect(after?.stands).not.toBe('over');
          if (before?.stands === 'forGood') expect(after?.stands).toBe('forGood');
          if (before?.end === 'handOver') expect(after?.end).not.toBe('destroy');
        },
      ),
      { seed: 4102, numRuns: 300 },
    );
  });
});
