import type { PlacedWord } from '../reading/find';
import { bearsOut } from './agreement';
import { searchKey } from '../text/fold';
import { asDayPeriod, writtenIn } from '../text/written';
import { labelsByFirst } from './labels';
import { readMoney } from './money';
import { mostPages, type Around, type Candidate, type SingleKind, type Stated } from './model';
import { periodOn } from './period';
import { cellsOf, spotOf, type Cell, type Word } from './rows';
import { chanceOf, signsOf } from './sureness';

/** A page of more words than this is made to take long, or a table that states nothing of itself. */
const mostWords = 5000;

/**
 * What a paper states: of each kind the likeliest, or none. Found by the words that stand beside or above it, by its form,
 * and by what agrees with it elsewhere.
 * @param pages the words of each page with their places
 */
export function statedIn(pages: readonly (readonly PlacedWord[])[], around: Around): Stated[] {
  const looked = (pages.length <= mostPages ? pages : [...pages.slice(0, mostPages - 1), ...pages.slice(-1)]).map(
    (words, at) => ({ cells: cellsOf(words.slice(0, mostWords)), page: at === mostPages - 1 ? pages.length : at + 1 }),
  );
  const period = looked.map(({ cells, page }) => periodOn(cells, page, around)).find((each) => each !== null) ?? null;
  const found = looked.flatMap(({ cells, page }) =>
    candidatesOn(cells, page).filter((each) => !isOurs(each, around) && !isOf(period, each)),
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
/** So many words may stand between a label and its value, and only these: “Total due in pounds: 12.00”. */
const mostBetween = 3;
const linking = new Set(
  'of is the for in by on to no nr due now a at was and vat incl including inclusive gbp eur usd pounds euros amount payment date £ € $'.split(
    ' ',
  ),
);
/** Behind a number, the sign that it is no money: `12.50 kg`. */
const unit = /^(?:kg|g|t|m|mm|cm|km|l|ml|h|hrs?|hours|days?|%|pcs|kwh)$/u;
/** A value below its label is at most so many rows down, and so far, in parts of the page. */
const furthest = { rows: 3, down: 0.06 } as const;

function candidatesOn(cells: readonly Cell[], page: number): Candidate[] {
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
        const value = valueOf(label.kind, cells, at, end, said);
        if (value)
          found.push({
            ...value.read,
            kind: label.kind,
            by: textOf(said).replace(/[:.#]+$/u, ''),
            page,
            spot: spotOf(value.words),
            score: label.weight * value.position,
          });
      }
      from = end;
    }
  return found;
}

const textOf = (words: readonly Word[]): string => words.map(({ text }) => text).join(' ');

function labelAt(words: readonly Word[], from: number) {
  return labelsByFirst
    .get(words[from]?.key ?? '')
    ?.find((label) => label.words.every((each, at) => words[from + at]?.key === each));
}

type Read = Pick<Stated, 'value' | 'currency' | 'words'>;

/** The value that a label belongs to: behind it, in the next cell of its row, or below it. */
function valueOf(kind: SingleKind, cells: readonly Cell[], at: number, end: number, label: readonly Word[]) {
  const cell = cells[at] as Cell;
  for (let from = end; from < cell.words.length && from <= end + mostBetween; from += 1) {
    if (labelAt(cell.words, from)) break;
    const read = readAt(kind, cell.words, from);
    if (!read && !linking.has(cell.words[from]?.key ?? '') && cell.words[from]?.key !== '') return null;
    if (read) return { ...read, position: from === end ? behind.sameCell : behind.apart };
  }
  // Words that follow the label and are no value: the label is a part of a sentence.
  if (cell.words.length > end + mostBetween) return null;
  for (let next = at + 1; cells[next]?.row === cell.row && next <= at + 2; next += 1) {
    const words = cells[next]?.words ?? [];
    if (labelAt(words, 0)) break;
    const read = readAt(kind, words, 0);
    if (read) return { ...read, position: next === at + 1 ? behind.nextCell : behind.apart };
  }
  const over = spotOf(label);
  for (const below of cells) {
    if (below.row <= cell.row || below.row > cell.row + furthest.rows) continue;
    const spot = spotOf(below.words);
    if (spot.top - over.bottom > furthest.down || spot.left > over.right || spot.right < over.left) continue;
    const from = below.words.findIndex(({ right }) => right > over.left - 0.01);
    const read = readAt(kind, below.words, Math.max(0, from)) ?? readAt(kind, below.words, 0);
    if (read) return { ...read, position: below.row === cell.row + 1 ? behind.below : behind.apart };
    break;
  }
  return null;
}

/** What may be a value though no label says so: any day and amount, a number. */
function byForm(words: readonly Word[], from: number, page: number): Candidate[] {
  return (Object.keys(readers) as SingleKind[]).flatMap((kind) => {
    const found = kind === 'due' && !isByThen(words, from) ? null : readAt(kind, words, from);
    // A year that stands alone numbers nothing.
    if (!found || (kind === 'number' && /^(?:19|20)\d\d$/u.test(found.read.value))) return [];
    return [{ ...found.read, kind, by: null, page, spot: spotOf(found.words), score: unsaid[kind] }];
  });
}

/** Whether the words before a day make it one by which something is done. */
const isByThen = (words: readonly Word[], from: number): boolean =>
  ['by', 'before', 'terms'].includes(words[from - 1]?.key ?? '');

/** A value of that kind that begins at a word. */
function readAt(kind: SingleKind, words: readonly Word[], from: number): { read: Read; words: readonly Word[] } | null {
  for (let length = Math.min(longest[kind], words.length - from); length > 0; length -= 1) {
    const some = words.slice(from, from + length);
    const text = textOf(some).replaceAll(/^[:#]+\s*|[,;:.]+$/gu, '');
    const read = readers[kind](text);
    if (kind === 'amount' && unit.test(words[from + length]?.key ?? '')) continue;
    if (read) return { read: { ...read, words: text }, words: some };
  }
  return null;
}

const longest: Readonly<Record<SingleKind, number>> = { number: 1, day: 5, due: 5, amount: 4 };

function readDay(text: string): Omit<Read, 'words'> | null {
  const [only, ...more] = writtenIn(text);
  const day = asDayPeriod(only?.keys[0] ?? '');
  if (!only || more.length > 0 || only.index !== 0 || only.length !== text.length || day?.length !== 10) return null;
  return { value: day, currency: null };
}

function readAmount(text: string): Omit<Read, 'words'> | null {
  const money = readMoney(text);
  return money && (money.exact || money.currency !== null) ? { value: money.value, currency: money.currency } : null;
}

/** Letters and digits with at most joining signs between them, a digit among them. */
const numberForm = /^(?=.*\d)[\p{L}\p{N}](?:[\p{L}\p{N}/._-]{1,28})[\p{L}\p{N}]$/u;

function readNumber(text: string): Omit<Read, 'words'> | null {
  const bare = text.replace(/^(?:no|nr)[.:]/iu, '');
  if (!numberForm.test(bare) || readDay(bare) || /^\d{1,3}(?:[.,]\d{3})*[.,]\d{2}$/u.test(bare)) return null;
  return { value: bare, currency: null };
}

const readers: Readonly<Record<SingleKind, (text: string) => Omit<Read, 'words'> | null>> = {
  number: readNumber,
  day: readDay,
  due: readDay,
  amount: readAmount,
};

/** The likeliest of some; of equal scores the largest amount, of all else the first. */
function likeliest(kind: SingleKind, found: readonly Candidate[], around: Around): Candidate | undefined {
  const among = found
    .filter((each) => each.kind === kind)
    .map((each) => ({ ...each, score: Math.min(1, each.score + (bearsOut(each, found, around) ? agreeing : 0)) }))
    .filter(({ score }) => score >= leastScore);
  return among.toSorted(
    (one, other) => other.score - one.score || (kind === 'amount' ? Number(other.value) - Number(one.value) : 0),
  )[0];
}
