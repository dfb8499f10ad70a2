import type { Asker, PropertyCounts, Question } from '../views/question';
import { countsOf } from './count';
import { passOf, type Pass } from './pass';
import { Scan } from './scan';
import { measureOf, sumAll, type Summed } from './sums';
import type { Tally } from './tally';

/** The papers that a question selects, and counts of their values: the same in whatever way they are arranged and paged. */
export class Selection {
  readonly scan: Scan;
  readonly pass: Pass;
  readonly #counts = new Map<string, PropertyCounts>();
  readonly #totals = new Map<string, Summed>();

  constructor(tally: Tally, question: Question, asker: Asker) {
    this.scan = new Scan(tally, question, asker);
    this.pass = passOf(this.scan, question.conditions);
  }

  /** The totals over all of it, with sums of some columns. */
  totals(measures: readonly string[]): Summed {
    const key = measures.join();
    const there = this.#totals.get(key);
    if (there) return there;
    const { pages, sizes } = this.scan.tally;
    const measured = measures.map((of) => measureOf(this.scan, of));
    const summed = sumAll(this.pass.all, pages.numbers, sizes.numbers, measured);
    this.#totals.set(key, summed);
    return summed;
  }

  counts(of: string): PropertyCounts {
    const there = this.#counts.get(of);
    if (there) return there;
    const counted = countsOf(this.scan, this.pass.without(of), of);
    this.#counts.set(of, counted);
    return counted;
  }
}

/** Few, since each has lists as long as the library. */
const mostKept = 4;
const kept = new WeakMap<Tally, { readonly version: number; readonly selections: Map<string, Selection> }>();

/**
 * The selection of a question. The last few are kept until anything changes: who sorts, groups and pages asks for the same
 * papers again and again.
 */
export function selectionFor(tally: Tally, question: Question, asker: Asker): Selection {
  const key = keyOf(question, asker);
  let here = kept.get(tally);
  if (here?.version !== tally.version) {
    here = { version: tally.version, selections: new Map() };
    kept.set(tally, here);
  }
  const { selections } = here;
  const selection = (key === null ? undefined : selections.get(key)) ?? new Selection(tally, question, asker);
  if (key === null) return selection;
  // Puts it last: the first is the one that goes.
  selections.delete(key);
  selections.set(key, selection);
  for (const oldest of selections.keys()) if (selections.size > mostKept) selections.delete(oldest);
  return selection;
}

/** All that a selection depends on; null if it depends on what was read for this question only. */
function keyOf({ placeId, below, conditions }: Question, asker: Asker): string | null {
  const { openTo, found, own, personId, keeper, today, lookedAtMs, ...sets } = asker;
  if (openTo.size > 0 || found.size > 0 || own.size > 0) return null;
  const members = Object.entries(sets).map(([name, set]) => [name, ...set]);
  return JSON.stringify([placeId, below, conditions, personId, keeper, today, lookedAtMs, members]);
}
