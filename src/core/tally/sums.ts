import { type Measure, type Totals } from '../views/question';
import type { Scan } from './scan';
import { noDay } from './stores';

/** The lines of papers: one for each group of the last level that a row is in. */
export interface Lines {
  /** Rows of the tally. */
  readonly at: Int32Array;
  /** The group of the last level, by its code over all levels; null without levels. */
  readonly leaf: Int32Array | null;
}

/** Sums by group, as parallel arrays. */
export interface Summed {
  readonly papers: Int32Array;
  readonly pages: Float64Array;
  readonly bytes: Float64Array;
  readonly measures: readonly SummedMeasure[];
}

interface SummedMeasure {
  readonly filled: Int32Array;
  readonly sum: Float64Array;
  readonly least: Float64Array;
  readonly most: Float64Array;
  readonly scale: number;
}

/** Sums rows without groups: in variables, which the processor need not look for in lists. */
export function sumAll(
  rows: Int32Array,
  pages: Float64Array,
  bytes: Float64Array,
  measures: readonly Measured[],
): Summed {
  let [pageSum, byteSum] = [0, 0];
  for (let at = 0; at < rows.length; at += 1) {
    const row = rows[at] as number;
    const count = pages[row] as number;
    pageSum += Number.isNaN(count) ? 0 : count;
    byteSum += bytes[row] as number;
  }
  return {
    papers: Int32Array.of(rows.length),
    pages: Float64Array.of(pageSum),
    bytes: Float64Array.of(byteSum),
    measures: measures.map((measure) =>
      measure.kind === 'number' ? sumAllNumbers(rows, measure) : sumDays({ at: rows, leaf: null }, 1, measure.days),
    ),
  };
}

function sumAllNumbers(rows: Int32Array, { numbers, scale }: MeasuredNumbers): SummedMeasure {
  let [filled, all, least, most] = [0, 0, Infinity, -Infinity];
  for (let at = 0; at < rows.length; at += 1) {
    const value = numbers[rows[at] as number] as number;
    if (Number.isNaN(value)) continue;
    filled += 1;
    all += scale === 1 ? value : Math.round(value * scale);
    if (value < least) least = value;
    if (value > most) most = value;
  }
  return {
    filled: Int32Array.of(filled),
    sum: Float64Array.of(all),
    least: Float64Array.of(least),
    most: Float64Array.of(most),
    scale,
  };
}

/** Sums the lines of each group. */
export function sum(
  { at, leaf }: Lines,
  size: number,
  pages: Float64Array,
  bytes: Float64Array,
  measures: readonly Measured[],
): Summed {
  const papers = new Int32Array(size);
  const pageSums = new Float64Array(size);
  const byteSums = new Float64Array(size);
  for (let entry = 0; entry < at.length; entry += 1) {
    const group = leaf === null ? 0 : (leaf[entry] as number);
    const row = at[entry] as number;
    const count = pages[row] as number;
    papers[group] = (papers[group] as number) + 1;
    if (!Number.isNaN(count)) pageSums[group] = (pageSums[group] as number) + count;
    byteSums[group] = (byteSums[group] as number) + (bytes[row] as number);
  }
  return {
    papers,
    pages: pageSums,
    bytes: byteSums,
    measures: measures.map((measure) =>
      measure.kind === 'number' ? sumNumbers({ at, leaf }, size, measure) : sumDays({ at, leaf }, size, measure.days),
    ),
  };
}

const emptySum = (size: number, scale: number): SummedMeasure => ({
  filled: new Int32Array(size),
  sum: new Float64Array(size),
  least: new Float64Array(size).fill(Infinity),
  most: new Float64Array(size).fill(-Infinity),
  scale,
});

function sumNumbers({ at, leaf }: Lines, size: number, { numbers, scale }: MeasuredNumbers): SummedMeasure {
  const summed = emptySum(size, scale);
  const { filled, sum, least, most } = summed;
  for (let entry = 0; entry < at.length; entry += 1) {
    const value = numbers[at[entry] as number] as number;
    if (Number.isNaN(value)) continue;
    const group = leaf === null ? 0 : (leaf[entry] as number);
    filled[group] = (filled[group] as number) + 1;
    sum[group] = (sum[group] as number) + (scale === 1 ? value : Math.round(value * scale));
    if (value < (least[group] as number)) least[group] = value;
    if (value > (most[group] as number)) most[group] = value;
  }
  return summed;
}

function sumDays({ at, leaf }: Lines, size: number, days: Int32Array): SummedMeasure {
  const summed = emptySum(size, 1);
  const { filled, least, most } = summed;
  for (let entry = 0; entry < at.length; entry += 1) {
    const day = days[at[entry] as number] as number;
    if (day === noDay) continue;
    const group = leaf === null ? 0 : (leaf[entry] as number);
    filled[group] = (filled[group] as number) + 1;
    if (day < (least[group] as number)) least[group] = day;
    if (day > (most[group] as number)) most[group] = day;
  }
  return summed;
}

/** The totals of one group. */
export function totalsOf(summed: Summed | undefined, group: number): Totals {
  if (!summed) throw new Error('Sums of a level that is not there');
  return {
    papers: summed.papers[group] ?? 0,
    pages: summed.pages[group] ?? 0,
    bytes: summed.bytes[group] ?? 0,
    measures: summed.measures.map((each): Measure => {
      const filled = each.filled[group] ?? 0;
      return {
        filled,
        sum: (each.sum[group] ?? 0) / each.scale,
        least: filled > 0 ? (each.least[group] ?? null) : null,
        most: filled > 0 ? (each.most[group] ?? null) : null,
      };
    }),
  };
}

interface MeasuredNumbers {
  readonly kind: 'number';
  readonly numbers: Float64Array;
  /** Sums are computed in units of 1/scale, so that pence add up exactly. */
  readonly scale: number;
}

/** A property that is summed. */
export type Measured = MeasuredNumbers | { readonly kind: 'day'; readonly days: Int32Array };

/** How a property is summed. */
export function measureOf(scan: Scan, of: string): Measured {
  const lane = scan.lane(of);
  if (lane.kind === 'number') return { kind: 'number', numbers: lane.numbers, scale: scaleOf(scan, of) };
  if (lane.kind !== 'day') throw new Error(`${of} has nothing to sum`);
  return { kind: 'day', days: lane.days };
}

/** No currency of ISO 4217 has more than four decimals. */
/** Ten to the decimals of a column: sums are of whole numbers. */
export const scaleOf = (scan: Scan, of: string): number =>
  scan.tally.world.columns.some((each) => each.id === of && each.type === 'amount') ? 10_000 : 1;
