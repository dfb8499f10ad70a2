import { tallyOf } from '../../../tests/oracle/agree';
import { Naive } from '../../../tests/oracle/naive';
import { RandomLibrary } from '../../../tests/oracle/randomLibrary';
import { dayNumber, filingYearOfDay } from '../calendar/period';
import type { PlanTiming } from '../plans/namePattern';
import type { ViewPaper, ViewPlace } from '../views/question';
import { holdingsFrom, type HoldingsQuestion } from './holdings';

/** The days before a paper runs out on which that is said. */
const warnedDays = 60;

type Expected = HoldingsQuestion['expected'][number];
type Stood = { readonly paper: ViewPaper; readonly places: readonly ViewPlace[] };

/** The planned folders above a place and itself, outermost first, split into what they are and what they are for. */
function planned(library: RandomLibrary, place: ViewPlace): [folder: string, madeFor: string][] {
  return place.lineage.flatMap((id): [string, string][] => {
    const key = library.places.find((each) => each.id === id)?.plannedKey ?? null;
    if (key === null) return [];
    const [folder = '', madeFor = ''] = key.split(' ');
    return [[folder, madeFor]];
  });
}

/** The first and the last day on which a paper is valid, by all columns in force that say so. */
function validDays(library: RandomLibrary, paper: ViewPaper): { readonly from: number; readonly until: number } {
  const home = library.places.find((place) => place.id === paper.homeId);
  let [from, until] = [-Infinity, Infinity];
  for (const { id, meaning, retired, placeId } of library.world.columns) {
    const day = dayNumber(String(paper.values[id]));
    if (retired || meaning === 'none' || day === null || !home?.lineage.includes(placeId)) continue;
    if (meaning === 'validFrom') from = Math.max(from, day);
    else until = Math.min(until, day);
  }
  return { from, until };
}

/** The slots that papers fill, looked for one standing at a time; and those that papers filled which are valid no more. */
function naiveMet(
  library: RandomLibrary,
  stood: readonly Stood[],
  expected: Expected,
  today: number,
): { readonly met: Map<string, ViewPaper>; readonly gone: Map<string, ViewPaper>; readonly counted: Set<string> } {
  const counted = new Set<string>();
  const gone = new Map<string, ViewPaper>();
  const thisYear = filingYearOfDay(today, library.world.yearStartMonth);
  const met = new Map<string, ViewPaper>();
  for (const { paper, places } of stood)
    for (const place of places) {
      const dossier = place.lineage[2];
      if (dossier === undefined) continue;
      const keys = planned(library, place);
      if (expected.folderId !== null && !keys.some(([folder]) => folder === expected.folderId)) continue;
      const meeting = keys.map(([, madeFor]) => madeFor).findLast((madeFor) => madeFor.length > 4);
      const key =
        expected.timing === 'once'
          ? `${expected.id} ${dossier}`
          : expected.timing === 'year'
            ? place.filingYear !== null && `${expected.id} ${dossier} ${place.filingYear}`
            : meeting !== undefined && `${expected.id} ${meeting}`;
      if (key === false) continue;
      const isCounted =
        expected.timing === 'once' || (expected.timing === 'year' && (place.filingYear ?? 0) >= thisYear);
      if (isCounted) counted.add(key);
      const { from, until } = validDays(library, paper);
      const into = isCounted && (today < from || today > until) ? gone : met;
      const before = into.get(key);
      if (
        !before ||
        paper.filedAtMs > before.filedAtMs ||
        (paper.filedAtMs === before.filedAtMs && paper.id < before.id)
      )
        into.set(key, paper);
    }
  return { met, gone, counted };
}

function naiveHeld(
  library: RandomLibrary,
  stood: readonly Stood[],
  folders: readonly string[] | null,
): Map<string, { papers: number; pages: number; bytes: number; lastFiledMs: number }> {
  const held = new Map<string, { papers: number; pages: number; bytes: number; lastFiledMs: number }>();
  for (const { paper, places } of stood)
    for (const cell of new Set(
      places.flatMap((place) => {
        const dossier = place.lineage[2];
        if (dossier === undefined) return [];
        const part =
          folders === null
            ? place.filingYear
            : folders.find((folder) => planned(library, place).some(([id]) => id === folder));
        return [`${dossier} ${part ?? ''}`.trim()];
      }),
    )) {
      const sum = held.get(cell) ?? { papers: 0, pages: 0, bytes: 0, lastFiledMs: 0 };
      held.set(cell, {
        papers: sum.papers + 1,
        pages: sum.pages + (paper.pageCount ?? 0),
        bytes: sum.bytes + paper.sizeBytes,
        lastFiledMs: Math.max(sum.lastFiledMs, paper.filedAtMs),
      });
    }
  return held;
}

it('finds what lies in each year or planned folder of each dossier, and what meets an expectation, as looking at one paper at a time does', () => {
  let [found, held, ending, lapsed] = [0, 0, 0, 0];
  for (let seed = 1; seed <= 60; seed += 1) {
    const library = new RandomLibrary(seed);
    const tally = tallyOf(library);
    for (let round = 0; round < 6; round += 1) {
      const question = library.question();
      // Every other time somebody asks shortly before a paper runs out, or after.
      const day = [...library.papers.values()].map((paper) => validDays(library, paper).until).sort((a, b) => a - b)[
        round
      ];
      const soonOrLate = day === undefined || day === Infinity ? null : day + (seed % 2 === 0 ? 20 : -20);
      const plain = library.asker(question);
      const asker = round % 2 === 1 && soonOrLate !== null ? { ...plain, today: soonOrLate } : plain;
      const tops = library.places.filter((place) => place.kind === 'series' || place.kind === 'dossier');
      const placeId = tops[(seed + round) % tops.length]?.id ?? '';
      const expected = (['once', 'year', 'meeting'] as PlanTiming[]).map((timing, at): Expected => ({
        id: `e${at}`,
        timing,
        folderId: [null, ...library.plannedFolders][(seed + at) % 4] ?? null,
        conditions: round % 2 === 0 ? [] : question.conditions,
      }));
      const folders = round % 3 === 0 ? library.plannedFolders.slice(0, 2) : null;
      const told = holdingsFrom(tally, { placeId, expected, folders, withPapers: true }, asker);
      if (!told.ok) throw new Error(told.issue.says);
      const standing = (conditions: Expected['conditions']) =>
        new Naive(library.plain, { ...question, placeId, below: true, conditions }, asker).standing();
      const naive = expected.map((each) => naiveMet(library, standing(each.conditions), each, asker.today));
      const wanted = new Map(naive.flatMap(({ met }) => [...met]));
      expect(new Map(told.value.papers)).toEqual(new Map([...wanted].map(([key, paper]) => [key, paper.id])));
      const soon = naive.flatMap(({ met, counted }) =>
        [...met].filter(
          ([key, paper]) => counted.has(key) && validDays(library, paper).until - asker.today <= warnedDays,
        ),
      );
      const gone = naive.flatMap(({ met, gone: lapsed }) =>
        [...lapsed].filter(([key, paper]) => !met.has(key) && validDays(library, paper).until < Infinity),
      );
      expect(new Map(told.value.runsOut)).toEqual(
        new Map([...soon, ...gone].map(([key, paper]) => [key, validDays(library, paper).until])),
      );
      ending += soon.length;
      lapsed += gone.length;
      const marked = ({ occasions, marks }: (typeof told.value)['met']) =>
        occasions
          .flatMap((occasion, at) =>
            expected.filter((_each, bit) => ((marks[at] ?? 0) >> bit) & 1).map((each) => `${each.id} ${occasion}`),
          )
          .sort();
      expect(marked(told.value.met)).toEqual([...wanted.keys()].sort());
      expect(marked(told.value.ending)).toEqual(soon.map(([key]) => key).sort());
      const bare = holdingsFrom(tally, { placeId, expected, folders, withPapers: false }, asker);
      expect(bare).toEqual({ ok: true, value: { ...told.value, papers: [], runsOut: [] } });
      const cells = naiveHeld(library, standing([]), folders);
      expect(new Map(told.value.held.map(({ cell, ...sums }) => [cell, sums]))).toEqual(cells);
      found += wanted.size;
      held += cells.size;
    }
  }
  expect(found).toBeGreaterThan(200);
  expect(held).toBeGreaterThan(400);
  expect(ending).toBeGreaterThan(5);
  expect(lapsed).toBeGreaterThan(4);
});
