import { tallyOf } from '../../../tests/oracle/agree';
import { Naive } from '../../../tests/oracle/naive';
import { RandomLibrary } from '../../../tests/oracle/randomLibrary';
import type { PlanTiming } from '../plans/namePattern';
import type { ViewPaper, ViewPlace } from '../views/question';
import { holdingsFrom, type HoldingsQuestion } from './holdings';

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

/** The slots that papers fill, looked for one standing at a time. */
function naiveMet(library: RandomLibrary, stood: readonly Stood[], expected: Expected): Map<string, string> {
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
      const before = met.get(key);
      if (
        !before ||
        paper.filedAtMs > before.filedAtMs ||
        (paper.filedAtMs === before.filedAtMs && paper.id < before.id)
      )
        met.set(key, paper);
    }
  return new Map([...met].map(([key, paper]) => [key, paper.id]));
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
  let [found, held] = [0, 0];
  for (let seed = 1; seed <= 60; seed += 1) {
    const library = new RandomLibrary(seed);
    const tally = tallyOf(library);
    for (let round = 0; round < 6; round += 1) {
      const question = library.question();
      const asker = library.asker(question);
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
      const wanted = new Map(expected.flatMap((each) => [...naiveMet(library, standing(each.conditions), each)]));
      expect(new Map(told.value.papers)).toEqual(wanted);
      const { occasions, marks } = told.value.met;
      const marked = occasions.flatMap((occasion, at) =>
        expected.filter((_each, bit) => ((marks[at] ?? 0) >> bit) & 1).map((each) => `${each.id} ${occasion}`),
      );
      expect(marked.sort()).toEqual([...wanted.keys()].sort());
      const bare = holdingsFrom(tally, { placeId, expected, folders, withPapers: false }, asker);
      expect(bare).toEqual({ ok: true, value: { ...told.value, papers: [] } });
      const cells = naiveHeld(library, standing([]), folders);
      expect(new Map(told.value.held.map(({ cell, ...sums }) => [cell, sums]))).toEqual(cells);
      found += wanted.size;
      held += cells.size;
    }
  }
  expect(found).toBeGreaterThan(200);
  expect(held).toBeGreaterThan(400);
});
