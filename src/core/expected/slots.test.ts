import { dayNumber, isoDay } from '../calendar/period';
import { eachState, occasionsOf, slotsOf, type ExpectingDossier } from './slots';
import { readPlannedKey } from '../plans/plannedKey';
import { checkExpected, maxExpected, type Expectation } from '../plans/expectation';
import type { PlannedFolder } from '../plans/plan';

const day = (iso: string): number => dayNumber(iso) ?? NaN;
const expectation = (id: string, timing: Expectation['timing'], more: Partial<Expectation> = {}): Expectation => ({
  id,
  timing,
  name: id,
  folderId: null,
  conditions: [],
  dueDays: 0,
  dueFrom: 'start',
  ...more,
});
const dossier = (more: Partial<ExpectingDossier> = {}): ExpectingDossier => ({
  id: 'd',
  years: [2025, 2026],
  meetings: [
    { id: 'm1', day: day('2025-07-14'), startYear: 2025 },
    { id: 'm2', day: day('2026-05-01'), startYear: 2026 },
    { id: 'm0', day: day('2024-05-01'), startYear: 2024 },
  ],
  started: null,
  ended: null,
  made: day('2025-04-03'),
  bareStep: false,
  ...more,
});
const told = (expected: readonly Expectation[], of: ExpectingDossier): string[] =>
  slotsOf(of, { expected, met: new Map(), waived: new Map(), today: 0 }, 4).map(
    ({ expectation: { id }, occasion: { startYear, meetingId }, due }) =>
      `${id} ${startYear ?? '-'} ${meetingId ?? '-'} due ${isoDay(due)}`,
  );

describe('what is expected of a dossier', () => {
  const agenda = expectation('agenda', 'meeting', { dueDays: -7 });
  const minutes = expectation('minutes', 'meeting', { dueDays: 14 });
  const report = expectation('report', 'year', { dueDays: 61, dueFrom: 'end' });
  const lease = expectation('lease', 'once', { dueDays: 30 });

  it('is first for itself, then year by year, the meetings of each before what is for the year', () => {
    expect(told([report, minutes, lease, agenda], dossier())).toEqual([
      'lease - - due 2025-05-03',
      'minutes 2025 m1 due 2025-07-28',
      'agenda 2025 m1 due 2025-07-07',
      'report 2025 - due 2026-05-31',
      'minutes 2026 m2 due 2026-05-15',
      'agenda 2026 m2 due 2026-04-24',
      'report 2026 - due 2027-05-31',
    ]);
  });

  it('is due from the day the dossier started where that is known, and from a year’s first or last day', () => {
    expect(told([lease], dossier({ started: day('2026-02-27') }))).toEqual(['lease - - due 2026-03-29']);
    const opening = expectation('opening', 'year', { dueDays: 0, dueFrom: 'start' });
    expect(told([opening], dossier({ years: [2027] }))).toEqual(['opening 2027 - due 2027-04-01']);
    // A leap day: 29 February 2028 and 31 days after it.
    expect(told([expectation('x', 'once', { dueDays: 31 })], dossier({ started: day('2028-02-29') }))).toEqual([
      'x - - due 2028-03-31',
    ]);
  });

  it('is nothing for years that lie wholly before its start or after its end', () => {
    expect(told([report], dossier({ started: day('2026-04-01') }))).toEqual(['report 2026 - due 2027-05-31']);
    expect(told([report], dossier({ started: day('2026-03-31') }))).toHaveLength(2);
    expect(told([report], dossier({ ended: day('2026-03-31') }))).toEqual(['report 2025 - due 2026-05-31']);
    expect(told([report], dossier({ ended: day('2026-04-01') }))).toHaveLength(2);
  });

  it('is not told where only a step to something below it is known', () => {
    expect(told([lease, report, minutes], dossier({ bareStep: true }))).toEqual([]);
  });
});

it('reads of a planned folder’s key which folder it is, and whether a meeting’s', () => {
  const folderId = '00000000-0000-4000-8000-00000000000a';
  const meetingId = '00000000-0000-4000-8000-0000000000aa';
  expect(readPlannedKey(folderId)).toEqual({ folderId, meetingId: null });
  expect(readPlannedKey(`${folderId} 2026`)).toEqual({ folderId, meetingId: null });
  expect(readPlannedKey(`${folderId} ${meetingId}`)).toEqual({ folderId, meetingId });
});

it('counts a paper that is there as there, the day it is due as not yet late, and what is waived as no gap', () => {
  const [occasion] = occasionsOf(dossier({ years: [], meetings: [] }), 4);
  if (!occasion) throw new Error('a dossier is an occasion itself');
  const expected = Array.from({ length: maxExpected }, (_each, at) => expectation(`e${at}`, 'once'));
  for (const at of [0, 1, maxExpected - 1]) {
    const mark = new Map([[occasion.key, 2 ** at]]);
    const none = new Map<string, number>();
    const state = (met: typeof none, waived: typeof none, today: number) => {
      const states = new Map<string, string>();
      eachState(occasion, { expected, met, waived, today }, ({ id }, is) => states.set(id, is));
      return states.get(`e${at}`);
    };
    expect(state(mark, mark, occasion.start + 99)).toBe('met');
    expect(state(none, none, occasion.start)).toBe('ahead');
    expect(state(none, none, occasion.start + 1)).toBe('gap');
    expect(state(none, mark, occasion.start + 1)).toBe('waived');
    // What is said of another says nothing of this one.
    const other = new Map([[occasion.key, 2 ** maxExpected - 1 - 2 ** at]]);
    expect(state(other, other, occasion.start + 1)).toBe('gap');
  }
});

describe('expectations', () => {
  const folders: PlannedFolder[] = [
    { id: 'f', parentId: null, timing: 'meeting', pattern: 'Papers' },
    { id: 'g', parentId: null, timing: 'once', pattern: 'Lease' },
  ];
  const wrong = (...expected: Expectation[]): string => {
    const checked = checkExpected(expected, { byYear: true, folders }, []);
    return checked.ok ? 'sound' : `${checked.issue.fields?.[0]?.path}: ${checked.issue.says}`;
  };
  it('have names that differ among those of one kind, and folders of the plan that are made as often', () => {
    expect(wrong(expectation('Minutes', 'meeting', { folderId: 'f' }), expectation('Minutes', 'year'))).toBe('sound');
    expect(wrong(expectation('Minutes', 'meeting'), expectation('MINUTES', 'meeting'))).toBe(
      'expected.1.name: “MINUTES” is expected twice.',
    );
    expect(wrong(expectation(' ', 'once'))).toBe('expected.0.name: An expected paper needs a name.');
    expect(wrong(expectation('x', 'once', { folderId: 'gone' }))).toMatch(/^expected\.0\.folderId: The folder/u);
    expect(wrong(expectation('x', 'once', { folderId: 'f' }))).toMatch(/not made as often/u);
    expect(wrong(expectation('x', 'once', { dueDays: 1.5 }))).toMatch(/^expected\.0\.dueDays/u);
    expect(wrong(expectation('x', 'once', { conditions: [{ of: 'no-such-column', anyOf: ['a'] }] }))).toMatch(
      /^expected\.0\.conditions: A condition speaks of a column/u,
    );
  });
});
