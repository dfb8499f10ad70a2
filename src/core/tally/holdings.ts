import { dossierDepth } from '../tree/lineage';
import { folderCell } from '../expected/rackColumns';
import { occasionKey, slotKey } from '../expected/slots';
import { readPlannedKey } from '../plans/plannedKey';
import type { Expectation } from '../plans/expectation';
import type { PlanTiming } from '../plans/namePattern';
import { filingYearOfDay, type DayNumber } from '../calendar/period';
import type { ColumnMeaning } from '../columns/model';
import { good, type Result } from '../errors/result';
import { noDay } from './stores';
import type { Asker, ViewPlace } from '../views/question';
import { checkConditions } from '../views/property';
import { passOf } from './pass';
import { allBelow } from './below';
import { Scan } from './scan';
import type { Tally } from './tally';

/** Asks what the dossiers of a series, or one of them, contain, and which expected papers exist. */
export interface HoldingsQuestion {
  /** A series or a dossier. */
  readonly placeId: string;
  readonly expected: readonly Pick<Expectation, 'id' | 'timing' | 'folderId' | 'conditions'>[];
  /** The planned folders whose papers are counted apart; null: years are counted apart. */
  readonly folders: readonly string[] | null;
  /** Whether to return the papers too, which are many in a large series. */
  readonly withPapers: boolean;
}

/** The contents of a year or planned folder of a dossier, or of the dossier outside these; a paper in several counts in each. */
export interface CellHolding {
  /** `occasionKey` of the year, `folderCell` of the folder, or the dossier. */
  readonly cell: string;
  readonly papers: number;
  readonly pages: number;
  readonly bytes: number;
  readonly lastFiledMs: number;
}

/** Expectations marked by occasion: `Marks` as two parallel lists. */
interface MarkedOccasions {
  readonly occasions: readonly string[];
  readonly marks: readonly number[];
}

/** What the places under a series hold, cell by cell. */
export interface Holdings {
  readonly held: readonly CellHolding[];
  /** Expectations met by occasion: `Marks` as two parallel lists. */
  readonly met: MarkedOccasions;
  /** Of those, the ones whose paper runs out soon: nothing meets them then. */
  readonly ending: MarkedOccasions;
  /** By `slotKey`, the day on which the paper of an expectation runs out or ran out; empty if papers were not asked for. */
  readonly runsOut: readonly (readonly [slot: string, day: DayNumber])[];
  /** By `slotKey`, the newest paper that meets it; empty if papers were not asked for. */
  readonly papers: readonly (readonly [slot: string, paperId: string])[];
}

const nowhere = -1;

/**
 * Contents and met expectations of a series for one person, from papers they may see only. An expectation with a
 * condition on a retired column is met by nothing, without affecting the others.
 */
export function holdingsFrom(tally: Tally, question: HoldingsQuestion, asker: Asker): Result<Holdings> {
  const scan = new Scan(tally, allBelow(question.placeId), asker);
  const spots = spotsOf(tally);
  const inside = tally.within(question.placeId);
  const marks = new Int32Array(spots.occasions.length);
  const endingMarks = new Int32Array(spots.occasions.length);
  const papers: (readonly [string, string])[] = [];
  const runsOut: (readonly [string, DayNumber])[] = [];
  const validity = validityIn(scan);
  for (const [at, expected] of question.expected.entries()) {
    if (!checkConditions(expected.conditions, tally.world.columns).ok) continue;
    const { best, lapsed } = metBy(scan, spots, inside, expected, validity);
    for (const [occasion, row] of best.entries()) {
      const key = spots.occasions[occasion] as string;
      const gone = lapsed[occasion] as number;
      if (row === nowhere && gone !== nowhere && question.withPapers && validity && validity.until(gone) < Infinity)
        runsOut.push([slotKey(expected.id, key), validity.until(gone)]);
      if (row === nowhere) continue;
      marks[occasion] = (marks[occasion] as number) | (1 << at);
      const until = validity && matters(spots, expected.timing, occasion, scan) ? validity.until(row) : Infinity;
      if (until - scan.looking.today <= warnedDays) {
        endingMarks[occasion] = (endingMarks[occasion] as number) | (1 << at);
        if (question.withPapers) runsOut.push([slotKey(expected.id, key), until]);
      }
      if (question.withPapers) papers.push([slotKey(expected.id, key), tally.ids.idOf(row)]);
    }
  }
  const marked = (all: Int32Array): MarkedOccasions => ({
    occasions: spots.occasions.filter((_occasion, at) => all[at] !== 0),
    marks: [...all.filter((mark) => mark !== 0)],
  });
  return good({
    held: heldIn(scan, cellsOf(spots, question.folders), inside),
    met: marked(marks),
    ending: marked(endingMarks),
    runsOut,
    papers,
  });
}

/** Results for a tally's places, kept while the places do not change. */
const found = new WeakMap<Tally, { readonly version: number; readonly spots: Spots }>();

function spotsOf(tally: Tally): Spots {
  const there = found.get(tally);
  if (there?.version === tally.placesVersion) return there.spots;
  const spots = new Spots(tally);
  found.set(tally, { version: tally.placesVersion, spots });
  return spots;
}

/** The occasion of each place of a dossier, by place code, as an index into `occasions`. */
class Spots {
  readonly occasions: string[] = [];
  /** By timing; `nowhere` if there is no such occasion. */
  readonly at: Readonly<Record<PlanTiming, Int32Array>>;
  /** The year, or the dossier outside its years, of each place. */
  readonly cells: Int32Array;
  readonly #numbers = new Map<string, number>();
  /** The parent of each place, up to the dossier. */
  readonly #above: Int32Array;
  readonly #folders = new Map<string, Uint8Array>();

  constructor(readonly tally: Tally) {
    const { places, placeCodes } = tally;
    const none = () => new Int32Array(places.length).fill(nowhere);
    this.#above = none();
    this.at = { once: none(), year: none(), meeting: none() };
    const inDossiers: number[] = [];
    places.forEach(({ lineage }, code) => {
      if (lineage.length <= dossierDepth) return;
      inDossiers.push(code);
      if (lineage.length > dossierDepth + 1) this.#above[code] = placeCodes.get(lineage.at(-2) ?? '') ?? nowhere;
    });
    for (const code of inDossiers) this.#find(code);
    this.cells = this.at.year.map((year, code) => (year === nowhere ? (this.at.once[code] as number) : year));
  }

  #find(code: number): void {
    const { once, year, meeting } = this.at;
    if (once[code] !== nowhere) return;
    const { lineage, filingYear, plannedKey } = this.tally.places[code] as ViewPlace;
    const dossierId = lineage[dossierDepth] as string;
    const above = this.#above[code] as number;
    if (above !== nowhere) this.#find(above);
    once[code] = above === nowhere ? this.#numberOf(occasionKey(dossierId, null, null)) : (once[above] as number);
    if (filingYear !== null)
      year[code] =
        above !== nowhere && this.tally.places[above]?.filingYear === filingYear
          ? (year[above] as number)
          : this.#numberOf(occasionKey(dossierId, filingYear, null));
    const meetingId = plannedKey === null ? null : readPlannedKey(plannedKey).meetingId;
    if (meetingId !== null) meeting[code] = this.#numberOf(meetingId);
    else if (above !== nowhere) meeting[code] = meeting[above] as number;
  }

  #numberOf(occasion: string): number {
    const there = this.#numbers.get(occasion);
    if (there !== undefined) return there;
    const number = this.occasions.push(occasion) - 1;
    this.#numbers.set(occasion, number);
    return number;
  }

  /** 1 for each place that is a planned folder's, or lies in one. */
  in(folderId: string): Uint8Array {
    const there = this.#folders.get(folderId);
    if (there) return there;
    const { places } = this.tally;
    const known = new Int8Array(places.length).fill(nowhere);
    const isIn = (code: number): number => {
      if (known[code] === nowhere) {
        const key = places[code]?.plannedKey ?? null;
        const above = this.#above[code] as number;
        const isIt = key !== null && readPlannedKey(key).folderId === folderId;
        known[code] = isIt ? 1 : above === nowhere ? 0 : isIn(above);
      }
      return known[code] as number;
    };
    const inside = Uint8Array.from(places.keys(), isIn);
    this.#folders.set(folderId, inside);
    return inside;
  }
}

/** Calls back for each row with the places in which the paper lies for the caller. */
function eachStanding(
  { tally, standing }: Scan,
  inside: Uint8Array,
  rows: Int32Array,
  visit: {
    readonly one: (row: number, place: number) => void;
    readonly several: (row: number, places: number[]) => void;
  },
): void {
  const { homes, isApart } = tally;
  for (let at = 0; at < rows.length; at += 1) {
    const row = rows[at] as number;
    const home = homes[row] as number;
    // Nearly all papers lie in one place, and need no list.
    if (isApart[row] !== 0)
      visit.several(
        row,
        (standing.get(row) ?? []).filter((code) => inside[code] === 1),
      );
    else if (inside[home] === 1) visit.one(row, home);
  }
}

/** The cell of each place, by place code; and the keys of cells. */
interface Cells {
  readonly keys: readonly string[];
  readonly at: Int32Array;
}

function cellsOf(spots: Spots, folders: readonly string[] | null): Cells {
  const { occasions } = spots;
  if (folders === null) return { keys: occasions, at: spots.cells };
  const at = spots.at.once.slice();
  const keys = [...occasions];
  for (const folderId of folders) {
    const inside = spots.in(folderId);
    const cells = new Map<number, number>();
    spots.at.once.forEach((dossier, code) => {
      if (inside[code] !== 1 || dossier === nowhere || at[code] !== dossier) return;
      const cell = cells.get(dossier) ?? keys.push(folderCell(occasions[dossier] as string, folderId)) - 1;
      cells.set(dossier, cell);
      at[code] = cell;
    });
  }
  return { keys, at };
}

function heldIn(scan: Scan, { keys, at: cells }: Cells, inside: Uint8Array): CellHolding[] {
  const { pages, sizes, filedAtMs } = scan.tally;
  const sums = () => new Float64Array(keys.length);
  const sum = { papers: sums(), pages: sums(), bytes: sums(), lastFiledMs: sums() };
  const add = (row: number, cell: number): void => {
    if (cell === nowhere) return;
    const count = pages.numbers[row] as number;
    sum.papers[cell] = (sum.papers[cell] as number) + 1;
    if (!Number.isNaN(count)) sum.pages[cell] = (sum.pages[cell] as number) + count;
    sum.bytes[cell] = (sum.bytes[cell] as number) + (sizes.numbers[row] as number);
    sum.lastFiledMs[cell] = Math.max(sum.lastFiledMs[cell] as number, filedAtMs[row] as number);
  };
  eachStanding(scan, inside, scan.rows, {
    one: (row, place) => add(row, cells[place] as number),
    several: (row, places) => new Set(places.map((place) => cells[place] as number)).forEach((cell) => add(row, cell)),
  });
  const held: CellHolding[] = [];
  for (const [at, papers] of sum.papers.entries())
    if (papers > 0)
      held.push({
        cell: keys[at] as string,
        papers,
        pages: sum.pages[at] as number,
        bytes: sum.bytes[at] as number,
        lastFiledMs: sum.lastFiledMs[at] as number,
      });
  return held;
}

/** By occasion, the row of the newest paper that meets an expectation and is valid; and of the newest that is valid no more. */
function metBy(
  scan: Scan,
  spots: Spots,
  inside: Uint8Array,
  { timing, folderId, conditions }: HoldingsQuestion['expected'][number],
  validity: Validity | null,
): { readonly best: Int32Array; readonly lapsed: Int32Array } {
  const none = () => new Int32Array(spots.occasions.length).fill(nowhere);
  const [best, lapsed] = [none(), none()];
  const occasions = spots.at[timing];
  const within = folderId === null ? null : spots.in(folderId);
  const one = (row: number, place: number): void => {
    const occasion = occasions[place] as number;
    if (occasion === nowhere || within?.[place] === 0) return;
    const isGone = validity !== null && !validity.isValid(row) && matters(spots, timing, occasion, scan);
    const newest = isGone ? lapsed : best;
    const before = newest[occasion] as number;
    if (before === nowhere || isLater(scan.tally, row, before)) newest[occasion] = row;
  };
  const several = (row: number, places: readonly number[]) => places.forEach((place) => one(row, place));
  eachStanding(scan, inside, passOf(scan, conditions).all, { one, several });
  return { best, lapsed };
}

/** So many days before a paper runs out that is said. */
const warnedDays = 60;

/** When papers are valid, by their columns that say so. */
interface Validity {
  readonly isValid: (row: number) => boolean;
  /** The last day; Infinity where nothing says one. */
  readonly until: (row: number) => DayNumber;
}

/** Null where no column says anything of validity. */
function validityIn(scan: Scan): Validity | null {
  const lanes = (meaning: ColumnMeaning) =>
    scan.tally.world.columns
      .filter((column) => column.meaning === meaning && !column.retired)
      .flatMap(({ id }) => {
        const lane = scan.lane(id);
        return lane.kind === 'day' ? [lane.days] : [];
      });
  const [froms, untils] = [lanes('validFrom'), lanes('validUntil')];
  if (froms.length + untils.length === 0) return null;
  const { today } = scan.looking;
  const until = (row: number): DayNumber => {
    let least = Infinity;
    for (const days of untils) if (days[row] !== noDay) least = Math.min(least, days[row] as number);
    return least;
  };
  // Without a day from when it is valid a paper is so from the first.
  const isBegun = (row: number): boolean => froms.every((days) => (days[row] as number) <= today);
  return { until, isValid: (row) => isBegun(row) && until(row) >= today };
}

/** Whether validity matters on an occasion: for a dossier itself, and for a year that is not over. A meeting had what it had. */
function matters(spots: Spots, timing: PlanTiming, occasion: number, { looking }: Scan): boolean {
  if (timing === 'once') return true;
  if (timing === 'meeting') return false;
  const year = Number((spots.occasions[occasion] as string).split(' ')[1]);
  return year >= filingYearOfDay(looking.today, looking.yearStartMonth);
}

/** Whether a paper was filed later; ties are broken by id, so that answers are stable. */
function isLater({ filedAtMs, ids }: Tally, row: number, than: number): boolean {
  const difference = (filedAtMs[row] as number) - (filedAtMs[than] as number);
  return difference > 0 || (difference === 0 && ids.compare(row, than) < 0);
}
