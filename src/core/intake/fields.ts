import type { Column, Term, Value } from '../columns/model';
import type { Stated, StatedKind } from '../stated/model';
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

/** The words by which a column of a library says what it is for, the plainest first, folded; and the types it may have. */
const meant: Readonly<
  Record<StatedKind, { readonly types: readonly Column['type'][]; readonly names: readonly string[] }>
> = {
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
};

/** The column that is meant for what is stated: by its name, as a whole or as words in it; null: none is. */
function columnFor(kind: StatedKind, columns: readonly Column[]): Column | null {
  const { types, names } = meant[kind];
  const fitting = columns.filter(({ type, meaning }) => types.includes(type) && meaning === 'none');
  const rankOf = ({ name }: Column) => {
    const key = searchKey(name);
    const whole = names.indexOf(key);
    const within = names.findIndex((each) => namesWords(key, each));
    return whole !== -1 ? whole : within !== -1 ? names.length + within : Infinity;
  };
  // A column for the due day is none for the paper’s own, however “date” stands in its name.
  const others = kind === 'day' ? meant.due.names : kind === 'due' ? meant.day.names.slice(0, -1) : [];
  return (
    fitting
      .filter(({ name }) => !others.some((each) => namesWords(searchKey(name), each)))
      .filter((column) => rankOf(column) < Infinity)
      .toSorted((one, other) => rankOf(one) - rankOf(other))[0] ?? null
  );
}

const valueOf = ({ kind, value, currency }: Stated, column: Column): Value | null => {
  if (kind !== 'amount') return value;
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
  for (const each of stated) {
    const column = each.sure < leastSure ? null : columnFor(each.kind, columns);
    const value = column && valueOf(each, column);
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
