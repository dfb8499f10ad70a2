import type { Column, Term, Value, Values } from '../columns/model';
import type { SingleKind, Stated } from '../stated/model';
import { searchKey } from '../text/fold';
import { namesWords } from '../text/namesWords';

/** A value that is proposed for a column. */
export interface Proposed {
  readonly columnId: string;
  readonly value: Value;
  /** What the paper states, where it is that; null: the words of a list that stand in its title. */
  readonly stated: Stated | null;
  /** What a person reads as its reason, where nothing is stated. */
  readonly why: string | null;
}

/** What is less sure is shown as nothing: who sees many wrong values stops looking. */
const leastSure = 0.5;

/** What a column may take of what is stated; of a period its first day, its last, or how it is written. */
type Piece = SingleKind | 'from' | 'until' | 'period';

/** The words by which a column of a library says what it is for, the plainest first, folded; and the types it may have. */
const meant: Readonly<Record<Piece, { readonly types: readonly Column['type'][]; readonly names: readonly string[] }>> =
  {
    number: {
      types: ['text'],
      names: [
        'invoice number',
        'invoice no',
        'bill number',
        'document number',
        'our number',
        'number',
        'reference',
        'no',
      ],
    },
    day: {
      types: ['date'],
      names: ['document date', 'invoice date', 'date of issue', 'date of the paper', 'issued', 'dated', 'date'],
    },
    due: { types: ['date'], names: ['due date', 'payment due', 'to be paid by', 'pay by', 'due'] },
    amount: {
      types: ['amount'],
      names: ['invoice total', 'total', 'gross', 'amount due', 'amount', 'sum', 'price', 'cost'],
    },
    from: {
      types: ['date'],
      names: ['period from', 'period starts', 'period start', 'start of period', 'billed from'],
    },
    until: {
      types: ['date'],
      names: ['period until', 'period to', 'period ends', 'period end', 'end of period', 'billed until'],
    },
    period: { types: ['text'], names: ['billing period', 'period'] },
  };

/** The column that is meant for what is stated: by its name, as a whole or as words in it; null: none is. */
function columnFor(piece: Piece, columns: readonly Column[]): Column | null {
  const { types, names } = meant[piece];
  const fitting = columns.filter(({ type, meaning }) => types.includes(type) && meaning === 'none');
  const rankOf = ({ name }: Column) => {
    const key = searchKey(name);
    const whole = names.indexOf(key);
    const within = names.findIndex((each) => namesWords(key, each));
    return whole !== -1 ? whole : within !== -1 ? names.length + within : Infinity;
  };
  // A column for the due day is none for the paper’s own, however “date” stands in its name.
  const others = piece === 'day' ? meant.due.names : piece === 'due' ? meant.day.names.slice(0, -1) : [];
  return (
    fitting
      .filter(({ name }) => !others.some((each) => namesWords(searchKey(name), each)))
      .filter((column) => rankOf(column) < Infinity)
      .toSorted((one, other) => rankOf(one) - rankOf(other))[0] ?? null
  );
}

/** The columns that are meant for what papers state of themselves, whether or not one of them does. */
export const meantForStated = (columns: readonly Column[]): ReadonlySet<string> =>
  new Set((Object.keys(meant) as Piece[]).flatMap((piece) => columnFor(piece, columns)?.id ?? []));

/** What a paper was filed with of what papers state, as `Stated` has it; null: nothing. @param columns those in force where it lies */
export function filedAs(kind: SingleKind, columns: readonly Column[], values: Values): string | null {
  const column = columnFor(kind, columns);
  const value = column ? values[column.id] : undefined;
  return typeof value === 'string' || typeof value === 'number' ? String(value) : null;
}

/** Whether something that is stated is filled in for one of some columns. */
export const isFilledIn = (stated: Stated, columns: readonly Column[]): boolean =>
  proposedValues(columns, [stated], '', () => []).length > 0;

/** What is stated, in the pieces that columns take. */
function piecesOf({ kind, value, words }: Stated): readonly (readonly [Piece, string])[] {
  if (kind !== 'period') return [[kind, value]];
  const [from = '', until = ''] = value.split('/');
  return [
    ['from', from],
    ['until', until],
    ['period', words],
  ];
}

const valueOf = (piece: Piece, value: string, { currency }: Stated, column: Column): Value | null => {
  if (piece !== 'amount') return value;
  return currency === null || currency === column.currency ? Number(value) : null;
};

/**
 * What is proposed for the columns of a place.
 * @param columns those in force there that the place does not fix
 * @param title of the paper
 * @param terms by the id of their list
 */
export function proposedValues(
  columns: readonly Column[],
  stated: readonly Stated[],
  title: string,
  terms: (listId: string) => readonly Term[],
): Proposed[] {
  const proposed: Proposed[] = [];
  for (const each of stated.filter(({ sure }) => sure >= leastSure))
    for (const [piece, written] of piecesOf(each)) {
      const column = columnFor(piece, columns);
      const value = column && valueOf(piece, written, each, column);
      if (column && value !== null && !proposed.some(({ columnId }) => columnId === column.id))
        proposed.push({ columnId: column.id, value, stated: each, why: null });
    }
  const key = searchKey(title);
  for (const { id, type, listId } of columns) {
    if (type !== 'choice' || listId === null) continue;
    const named = terms(listId).filter(
      ({ retired, name, otherNames }) =>
        !retired && [name, ...otherNames].some((each) => namesWords(key, searchKey(each))),
    );
    const [only] = named;
    if (only && named.length === 1)
      proposed.push({ columnId: id, value: only.id, stated: null, why: `“${only.name}” stands in its title.` });
  }
  return proposed;
}
