import { slotAt, type Expectation } from '../../filing/expected';
import { good, type Result } from '../../errors/result';
import type { Asker, Question, ViewPlace } from '../question';
import { checkConditions } from '../property';
import { passOf } from './pass';
import { Scan } from './scan';
import type { Tally } from './tally';

/** Asks what lies in the dossiers of a series, or in one, and which expected papers are there. */
export interface HoldingsQuestion {
  /** A series or a dossier. */
  readonly placeId: string;
  readonly expected: readonly Pick<Expectation, 'id' | 'timing' | 'folderId' | 'conditions'>[];
  /** Whether the papers themselves are wanted, and not only what they meet: for a large series they are many. */
  readonly withPapers: boolean;
}

/** What lies in one year of a dossier; a paper that stands in several counts in each. */
export interface Held {
  readonly dossierId: string;
  /** Null: beside its years. */
  readonly startYear: number | null;
  readonly papers: number;
  readonly pages: number;
  readonly bytes: number;
  readonly lastFiledMs: number;
}

export interface Holdings {
  readonly held: readonly Held[];
  /** The expected papers that are there, by `slotKey`. */
  readonly met: readonly string[];
  /** For each of them the paper last filed of those that are it; none where they were not wanted. */
  readonly papers: readonly string[];
}

const nowhere = -1;

/**
 * What is held and what is met in a series, for one person: only of papers that they may see. An expectation whose conditions
 * speak of a column that is in use no longer is met by nothing: it must not take the rest along.
 */
export function holdingsFrom(tally: Tally, question: HoldingsQuestion, asker: Asker): Result<Holdings> {
  const { placeId, expected, withPapers } = question;
  const sound = expected.filter(({ conditions }) => checkConditions(conditions, tally.world.columns).ok);
  const scan = new Scan(tally, allBelow(placeId), asker);
  const spots = new Spots(tally, placeId);
  const met = sound.map((each) => metBy(scan, spots, each));
  return good({
    held: heldIn(scan, spots),
    met: met.flatMap(({ keys }) => keys),
    papers: withPapers ? met.flatMap(({ rows }) => rows.map((row) => tally.ids.idOf(row))) : [],
  });
}

const allBelow = (placeId: string): Question => ({
  placeId,
  below: true,
  conditions: [],
  groupings: [],
  sorts: [],
  counts: [],
  measures: [],
  start: 0,
  limit: 0,
});

/** Where each place stands in its dossier, by the codes of places. */
class Spots {
  readonly #keys = new Map<number, readonly string[]>();
  readonly inside: Uint8Array;

  constructor(
    readonly tally: Tally,
    placeId: string,
  ) {
    this.inside = Uint8Array.from(tally.places, (place) =>
      Number(place.lineage.length > dossierDepth && place.lineage.includes(placeId)),
    );
  }

  place = (code: number): ViewPlace => this.tally.places[code] as ViewPlace;
  dossierId = (code: number): string => this.place(code).lineage[dossierDepth] as string;

  plannedKeys(code: number): readonly string[] {
    const there = this.#keys.get(code);
    if (there) return there;
    const { lineage, plannedKey } = this.place(code);
    const parent = this.tally.placeCodes.get(lineage.at(-2) ?? '');
    const above = parent === undefined || lineage.length <= dossierDepth + 1 ? none : this.plannedKeys(parent);
    const keys = plannedKey === null ? above : [...above, plannedKey];
    this.#keys.set(code, keys);
    return keys;
  }
}
/** Where in its lineage a dossier stands: after the library and the series. */
const dossierDepth = 2;
const none: readonly string[] = [];

/** The places inside in which the paper of a row stands for the asker. */
function standsIn(scan: Scan, { inside }: Spots, row: number): readonly number[] {
  const home = scan.tally.homes[row] as number;
  if (scan.tally.isApart[row] === 0) return inside[home] === 1 ? [home] : [];
  return (scan.standing.get(row) ?? []).filter((code) => inside[code] === 1);
}

function heldIn(scan: Scan, spots: Spots): Held[] {
  const { tally, rows } = scan;
  const { pages, sizes, filedAtMs, isApart, homes } = tally;
  /** Which cell each place belongs to. */
  const cellOf = new Int32Array(tally.places.length).fill(nowhere);
  const cells: { dossierId: string; startYear: number | null }[] = [];
  const known = new Map<string, number>();
  for (let code = 0; code < cellOf.length; code += 1) {
    if (spots.inside[code] === 0) continue;
    const dossierId = spots.dossierId(code);
    const startYear = spots.place(code).filingYear;
    const key = `${dossierId} ${startYear}`;
    const cell = known.get(key) ?? cells.push({ dossierId, startYear }) - 1;
    known.set(key, cell);
    cellOf[code] = cell;
  }
  const sums = cells.map((cell) => ({ ...cell, papers: 0, pages: 0, bytes: 0, lastFiledMs: 0 }));
  const add = (cell: number, row: number): void => {
    const sum = sums[cell];
    if (!sum) return;
    const count = pages.numbers[row] as number;
    sum.papers += 1;
    if (!Number.isNaN(count)) sum.pages += count;
    sum.bytes += sizes.numbers[row] as number;
    sum.lastFiledMs = Math.max(sum.lastFiledMs, filedAtMs[row] as number);
  };
  for (let at = 0; at < rows.length; at += 1) {
    const row = rows[at] as number;
    if (isApart[row] === 0) add(cellOf[homes[row] as number] as number, row);
    else for (const cell of new Set(standsIn(scan, spots, row).map((code) => cellOf[code] as number))) add(cell, row);
  }
  return sums.filter((sum) => sum.papers > 0);
}

/** The slots that papers fill, each with the row of the one last filed. */
function metBy(
  scan: Scan,
  spots: Spots,
  expected: HoldingsQuestion['expected'][number],
): { readonly keys: readonly string[]; readonly rows: readonly number[] } {
  const { tally } = scan;
  const unasked = -2;
  /** The slot that a paper in each place could be: a number of `keys`. */
  const slotOf = new Int32Array(tally.places.length).fill(unasked);
  const keys: string[] = [];
  const best: number[] = [];
  const known = new Map<string, number>();
  const slotIn = (code: number): number => {
    const there = slotOf[code] as number;
    if (there !== unasked) return there;
    const key = slotAt(expected, {
      dossierId: spots.dossierId(code),
      startYear: spots.place(code).filingYear,
      plannedKeys: spots.plannedKeys(code),
    });
    const slot = key === null ? nowhere : (known.get(key) ?? keys.push(key) - 1);
    if (key !== null) known.set(key, slot);
    return (slotOf[code] = slot);
  };
  for (const row of passOf(scan, expected.conditions).all)
    for (const code of standsIn(scan, spots, row)) {
      const slot = slotIn(code);
      if (slot === nowhere) continue;
      const before = best[slot];
      if (before === undefined || isLater(tally, row, before)) best[slot] = row;
    }
  return { keys, rows: best };
}

/** Filed later; of two filed at once, the one whose id comes first, so that the answer is always the same. */
function isLater({ filedAtMs, ids }: Tally, row: number, than: number): boolean {
  const difference = (filedAtMs[row] as number) - (filedAtMs[than] as number);
  return difference > 0 || (difference === 0 && ids.compare(row, than) < 0);
}
