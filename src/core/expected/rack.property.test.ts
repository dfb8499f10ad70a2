import { Chance } from '../../../tests/oracle/chance';
import { filingYearSpanDays } from '../calendar/period';
import { occasionKey, type ExpectingDossier } from './slots';
import type { Expectation } from '../plans/expectation';
import { rackRow, stateLetters, type RackMatter } from './rack';
import { countStates, courseInWords, layOutSquares, squareSize } from './squares';

const today = 20_500;

interface Wanted {
  readonly key: string;
  readonly at: number;
  readonly startYear: number | null;
  readonly meetingId: string | null;
  readonly due: number;
}

/** What is expected of a dossier, one rule at a time; in the order in which it is shown. */
function wantedOf(expected: readonly Expectation[], dossier: ExpectingDossier): Wanted[] {
  if (dossier.bareStep) return [];
  const { id, started, ended, made } = dossier;
  const wanted = (timing: string, startYear: number | null, meetingId: string | null, start: number, end: number) =>
    expected.flatMap((each, at): Wanted[] => {
      if (each.timing !== timing) return [];
      const due = (each.dueFrom === 'end' ? end : start) + each.dueDays;
      return [{ key: occasionKey(id, startYear, meetingId), at, startYear, meetingId, due }];
    });
  return [
    ...wanted('once', null, null, started ?? made, started ?? made),
    ...dossier.years.flatMap((year) => {
      const { from, to } = filingYearSpanDays(year, 4);
      const outside = (ended !== null && ended < from) || (started !== null && started > to);
      return [
        ...dossier.meetings
          .filter((meeting) => meeting.startYear === year)
          .flatMap(({ id: meetingId, day }) => wanted('meeting', year, meetingId, day, day)),
        ...(outside ? [] : wanted('year', year, null, from, to)),
      ];
    }),
  ];
}
function randomCase(chance: Chance): { dossier: ExpectingDossier; matter: RackMatter } {
  const years = [2024, 2025, 2026].filter(() => chance.happens(0.8));
  const expected = Array.from({ length: chance.whole(0, 5) }, (_each, at): Expectation => ({
    id: `e${at}`,
    timing: chance.pick(['once', 'year', 'meeting'] as const),
    name: `Paper ${at}`,
    folderId: null,
    conditions: [],
    dueDays: chance.whole(-30, 90),
    dueFrom: chance.pick(['start', 'end'] as const),
  }));
  const dossier: ExpectingDossier = {
    id: 'd',
    years,
    meetings: Array.from({ length: chance.whole(0, 9) }, (_each, at) => {
      const startYear = chance.pick([2023, 2024, 2025, 2026]);
      return { id: `m${at}`, day: 19_800 + (startYear - 2024) * 365 + chance.whole(0, 300), startYear };
    }),
    started: chance.happens(0.3) ? today - chance.whole(0, 900) : null,
    ended: chance.happens(0.2) ? today - chance.whole(0, 400) : null,
    made: today - 700,
    bareStep: chance.happens(0.1),
  };
  const some = (share: number) => {
    const marks = new Map<string, number>();
    for (const { key, at } of wantedOf(expected, dossier))
      if (chance.happens(share)) marks.set(key, (marks.get(key) ?? 0) + 2 ** at);
    return marks;
  };
  const holdings = new Map(
    [null, 2024, 2025, 2026].map((year) => [
      occasionKey('d', year, null),
      {
        papers: chance.whole(0, 40),
        pages: chance.whole(0, 400),
        bytes: chance.whole(0, 1e6),
        lastFiledMs: chance.whole(1, 9),
      },
    ]),
  );
  return {
    dossier,
    matter: {
      expected,
      columns: [2024, 2025, 2026].map((year) => ({ kind: 'year', key: String(year), label: '', current: false })),
      columnOf: () => null,
      yearStartMonth: 4,
      today,
      holding: (occasion) => holdings.get(occasion),
      met: some(0.5),
      waived: some(0.2),
    },
  };
}

it('has a square for every expected paper, once, in the cell of its year, and counts no gap twice', () => {
  let squares = 0;
  for (let seed = 0; seed < 600; seed += 1) {
    const { dossier, matter } = randomCase(new Chance(seed));
    const row = rackRow(dossier, matter);
    const slots = wantedOf(matter.expected, dossier);
    const naive = (year: number | null) =>
      slots
        .filter((slot) => slot.startYear === year)
        .map((slot) => {
          const has = (marks: RackMatter['met']) => Math.floor((marks.get(slot.key) ?? 0) / 2 ** slot.at) % 2 === 1;
          if (has(matter.met)) return stateLetters.met;
          if (has(matter.waived)) return stateLetters.waived;
          return slot.due < today ? stateLetters.gap : stateLetters.ahead;
        })
        .join('');
    expect(row.squares).toBe(naive(null));
    [2024, 2025, 2026].forEach((year, at) => {
      const cell = row.cells[at];
      expect(cell === null).toBe(!dossier.years.includes(year));
      expect(cell?.squares.replaceAll(' ', '') ?? '').toBe(cell ? naive(year) : '');
      expect(cell?.gaps ?? 0).toBe(countStates(cell?.squares ?? '').gap);
      // Those of one meeting stand together: as many groups as there are meetings, and one for the year.
      const groups = new Set(slots.filter((slot) => slot.startYear === year).map((slot) => slot.meetingId));
      if (cell) expect(cell.squares.split(' ').filter(Boolean)).toHaveLength(groups.size);
    });
    const all = [row.squares, ...row.cells.map((cell) => cell?.squares ?? '')].join('');
    expect(row.gaps).toBe(countStates(all).gap);
    expect(row.whole.papers).toBe(
      [null, ...dossier.years].reduce<number>(
        (sum, year) => sum + (matter.holding(occasionKey('d', year, null))?.papers ?? 0),
        0,
      ),
    );
    squares += all.length;
  }
  expect(squares).toBeGreaterThan(3000);
});

it('draws every square of a row within its width, and none over another', () => {
  for (let seed = 0; seed < 300; seed += 1) {
    const chance = new Chance(seed);
    const letters = Array.from({ length: chance.whole(0, 60) }, () => chance.pick(['m', 'a', 'g', 'w', ' '])).join('');
    const width = chance.whole(40, 200);
    const { squares, height } = layOutSquares(letters, width);
    expect(squares.map((square) => stateLetters[square.state]).join('')).toBe(letters.replaceAll(' ', ''));
    expect(squares.map((square) => square.at)).toEqual(squares.map((_square, at) => at));
    expect(new Set(squares.map(({ x, y }) => `${x} ${y}`)).size).toBe(squares.length);
    for (const { x, y } of squares) {
      expect(x + squareSize.side).toBeLessThanOrEqual(width);
      expect(y + squareSize.side).toBeLessThanOrEqual(height);
    }
  }
});

it('says in a word how a row stands', () => {
  expect(['', 'mm', 'mw', 'ma', 'mag', 'gg a'].map(courseInWords)).toEqual([
    '',
    'complete',
    'complete',
    'on course',
    '1 gap',
    '2 gaps',
  ]);
});
