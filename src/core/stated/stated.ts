import type { PlacedWord } from '../reading/find';
import { bearsOut } from './agreement';
import { searchKey } from '../text/fold';
import { labelFinder, linking, type Label, type LabelAt } from './labels';
import { singleKinds, type Around, type Candidate, type SingleKind, type Stated } from './model';
import { periodOn } from './period';
import { readAt, textOf } from './readers';
import { cellsOfPages, spotOf, type Cell, type Word } from './rows';
import { chanceOf, signsOf } from './sureness';

/**
 * What a paper states: of each kind the likeliest, or none. Found by the words that stand beside or above it, by its form,
 * and by what agrees with it elsewhere.
 * @param pages the words of each page with their places
 */
export function statedIn(pages: readonly (readonly PlacedWord[])[], around: Around): Stated[] {
  const looked = cellsOfPages(pages);
  const labelAt = labelFinder(around.taught);
  const period = looked.map(({ cells, page }) => periodOn(cells, page, around)).find((each) => each !== null) ?? null;
  const found = looked.flatMap(({ cells, page }) =>
    candidatesOn(cells, page, labelAt).filter((each) => !isOurs(each, around) && !isOf(period, each)),
  );
  const taken = new Map<SingleKind, Candidate>();
  for (const kind of ['number', 'amount', 'due', 'day'] as const) {
    // The day by which it is to be paid is not also the day of the paper, unless words say so.
    const due = taken.get('due')?.value;
    const those = kind === 'day' ? found.filter(({ value, by }) => by !== null || value !== due) : found;
    const best = likeliest(kind, those, around);
    if (best) taken.set(kind, best);
  }
  const single = [...taken.values()].map(({ score, ...each }) => ({
    ...each,
    sure: chanceOf(signsOf({ ...each, score }, found, { around, taken })),
  }));
  return period ? [...single, period] : single;
}

/** Whether a day is one of the two of a period: no word says that it is anything else. */
const isOf = (period: Stated | null, { kind, by, page, value }: Candidate): boolean =>
  (kind === 'day' || kind === 'due') && by === null && page === period?.page && period.value.split('/').includes(value);

const isOurs = ({ kind, value }: Candidate, { references }: Around): boolean =>
  kind === 'number' && references?.has(searchKey(value)) === true;

/** What nothing but its form speaks for. */
const unsaid = { number: 0.05, day: 0.3, due: 0.3, amount: 0.1 } as const;
/** So much more says it where something agrees: the number stands in the subject, the amount is the sum of two others. */
const agreeing = 0.4;
/** What says less is not told. */
const leastScore = 0.2;
/** How much of what its words say counts by where the value stands. */
const behind = { sameCell: 1, nextCell: 0.97, below: 0.94, apart: 0.85 } as const;
/** So many words may stand between a label and its value, and only those that link. */
const mostBetween = 3;
/** A value below its label is at most so many rows down, and so far, in parts of the page. */
const furthest = { rows: 3, down: 0.06 } as const;

function candidatesOn(cells: readonly Cell[], page: number, labelAt: LabelAt): Candidate[] {
  const found: Candidate[] = [];
  for (const [at, cell] of cells.entries())
    for (let from = 0; from < cell.words.length;) {
      const label = labelAt(cell.words, from);
      if (!label) {
        found.push(...byForm(cell.words, from, page));
        from += 1;
        continue;
      }
      const end = from + label.words.length;
      if (label.kind !== null) {
        const said = cell.words.slice(from, end);
        const value = valueOf({ ...label, kind: label.kind }, cells, at, end, labelAt);
        if (value)
          found.push({
            ...value.read,
            kind: label.kind,
            by: textOf(said).replace(/[:.#]+$/u, ''),
            page,
            spot: spotOf(value.words),
            score: label.weight * value.position,
            ...(label.taught === undefined ? {} : { isTaught: true }),
          });
      }
      from = end;
    }
  return found;
}

/** The value that a label belongs to: behind it, in the next cell of its row, or below it. */
function valueOf(
  { kind, words: said, taught }: Label & { readonly kind: SingleKind },
  cells: readonly Cell[],
  at: number,
  end: number,
  labelAt: LabelAt,
) {
  const cell = cells[at] as Cell;
  const readFrom = (words: readonly Word[], from: number) =>
    readAt(kind, words, from, kind === 'number' ? taught : undefined);
  for (let from = end; from < cell.words.length && from <= end + mostBetween; from += 1) {
    if (labelAt(cell.words, from)) break;
    const read = readFrom(cell.words, from);
    if (!read && !linking.has(cell.words[from]?.key ?? '') && cell.words[from]?.key !== '') return null;
    if (read) return { ...read, position: from === end ? behind.sameCell : behind.apart };
  }
  // Words that follow the label and are no value: the label is a part of a sentence.
  if (cell.words.length > end + mostBetween) return null;
  for (let next = at + 1; cells[next]?.row === cell.row && next <= at + 2; next += 1) {
    const words = cells[next]?.words ?? [];
    if (labelAt(words, 0)) break;
    const read = readFrom(words, 0);
    if (read) return { ...read, position: next === at + 1 ? behind.nextCell : behind.apart };
  }
  const over = spotOf(cell.words.slice(end - said.length, end));
  for (const below of cells) {
    if (below.row <= cell.row || below.row > cell.row + furthest.rows) continue;
    const spot = spotOf(below.words);
    if (spot.top - over.bottom > furthest.down || spot.left > over.right || spot.right < over.left) continue;
    const from = below.words.findIndex(({ right }) => right > over.left - 0.01);
    const read = readFrom(below.words, Math.max(0, from)) ?? readFrom(below.words, 0);
    if (read) return { ...read, position: below.row === cell.row + 1 ? behind.below : behind.apart };
    break;
  }
  return null;
}

/** What may be a value though no label says so: any day and amount, a number. */
function byForm(words: readonly Word[], from: number, page: number): Candidate[] {
  return singleKinds.flatMap((kind) => {
    const found = kind === 'due' && !isByThen(words, from) ? null : readAt(kind, words, from);
    // A year that stands alone numbers nothing.
    if (!found || (kind === 'number' && /^(?:19|20)\d\d$/u.test(found.read.value))) return [];
    return [{ ...found.read, kind, by: null, page, spot: spotOf(found.words), score: unsaid[kind] }];
  });
}

/** Whether the words before a day make it one by which something is done. */
const isByThen = (words: readonly Word[], from: number): boolean =>
  ['by', 'before', 'terms'].includes(words[from - 1]?.key ?? '');

/** The likeliest of some, what was taught before all else; of equal scores the largest amount, of all else the first. */
function likeliest(kind: SingleKind, found: readonly Candidate[], around: Around): Candidate | undefined {
  const among = found
    .filter((each) => each.kind === kind)
    .map((each) => ({ ...each, score: Math.min(1, each.score + (bearsOut(each, found, around) ? agreeing : 0)) }))
    .filter(({ score }) => score >= leastScore);
  return among.toSorted(
    (one, other) =>
      Number(other.isTaught ?? false) - Number(one.isTaught ?? false) ||
      other.score - one.score ||
      (kind === 'amount' ? Number(other.value) - Number(one.value) : 0),
  )[0];
}
