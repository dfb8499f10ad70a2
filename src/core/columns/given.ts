import type { PlaceKind } from '../tree/placeKind';
import { sameValue, type Column, type ColumnType, type Value, type Values } from './model';

export const givenModes = ['fixed', 'offered'] as const;
/** `fixed`: always what the place says. `offered`: filled in on arrival, then the paper's own. */
export type GivenMode = (typeof givenModes)[number];

export const bindings = ['dossier', 'filingYear', 'meetingDay'] as const;
/** What of a paper's home a column can be bound to, in place of one value for all. */
export type Binding = (typeof bindings)[number];
export const bindingWords: Record<Binding, string> = {
  dossier: 'the dossier',
  filingYear: 'the filing year',
  meetingDay: 'the day of the meeting',
};

/** The types of column that each binding can fill. A filing year is its label in a text, its first year in a number. */
export const bindingTypes: Record<Binding, readonly ColumnType[]> = {
  dossier: ['dossier', 'text'],
  filingYear: ['text', 'number'],
  meetingDay: ['date', 'text'],
};

/** One line of what a place gives: a value, or a binding to what the place is. Exactly one of the two is there. */
export interface Given {
  readonly columnId: string;
  readonly mode: GivenMode;
  readonly value: Value | null;
  readonly binding: Binding | null;
}

/** A place on the way from the library to a home, with what of it a column can be bound to. */
export interface GivingPlace {
  readonly id: string;
  readonly name: string;
  readonly kind: PlaceKind;
  /** The label of the filing year that it stands in, and that year's first calendar year. */
  readonly filingYear: { readonly label: string; readonly startYear: number } | null;
  /** The day of the meeting whose folder it is, ISO 8601. */
  readonly meetingDay: string | null;
  readonly given: readonly Given[];
}

/** What a home gives in one column, and the place that says so. */
export interface Resolved {
  readonly mode: GivenMode;
  readonly value: Value;
  readonly fromId: string;
  readonly fromName: string;
}

/**
 * What a home gives to the papers filed in it, by column: the nearest place on the way up that says anything wins,
 * column by column. A binding speaks of the home itself; where it has nothing to say (no meeting, no dossier), the
 * next place up is asked. `path` runs from the library down to the home.
 */
export function resolveGiven(
  path: readonly GivingPlace[],
  typeOf: (columnId: string) => ColumnType | undefined,
): ReadonlyMap<string, Resolved> {
  const resolved = new Map<string, Resolved>();
  for (const place of path.toReversed()) {
    for (const given of place.given) {
      const type = typeOf(given.columnId);
      if (resolved.has(given.columnId) || type === undefined) continue;
      const value = given.binding === null ? given.value : bound(given.binding, type, path);
      if (value !== null)
        resolved.set(given.columnId, { mode: given.mode, value, fromId: place.id, fromName: place.name });
    }
  }
  return resolved;
}

/** What a binding comes to at the end of a path; null where there is nothing of the kind on it. */
export function bound(binding: Binding, type: ColumnType, path: readonly GivingPlace[]): Value | null {
  if (!bindingTypes[binding].includes(type)) return null;
  switch (binding) {
    case 'dossier': {
      const dossier = path.findLast((place) => place.kind === 'dossier');
      return dossier ? (type === 'dossier' ? dossier.id : dossier.name) : null;
    }
    case 'filingYear': {
      const year = path.findLast((place) => place.filingYear !== null)?.filingYear;
      return year ? (type === 'number' ? year.startYear : year.label) : null;
    }
    case 'meetingDay':
      return path.findLast((place) => place.meetingDay !== null)?.meetingDay ?? null;
  }
}

/** The values of one mode out of what a home gives. */
export const givenAs = (mode: GivenMode, resolved: ReadonlyMap<string, Resolved>): Values =>
  Object.fromEntries(
    [...resolved].filter(([, each]) => each.mode === mode).map(([columnId, each]) => [columnId, each.value]),
  );

/** The values a paper shows: its own, under what its home fixes. */
export const shownValues = (own: Values, fixed: Values): Values => ({ ...own, ...fixed });

/**
 * A paper's own values once it has arrived in a home: what the home offers, and then the columns' defaults, are filled
 * in where it has none.
 */
export const arrivedValues = (own: Values, offered: Values, defaults: Values = {}): Values => ({
  ...defaults,
  ...offered,
  ...own,
});

/** One column of one paper that a change would alter. */
export interface ValueChange {
  readonly columnId: string;
  readonly before: Value | null;
  readonly after: Value | null;
}

/** What of the shown values differs, column by column. */
export function differences(before: Values, after: Values): ValueChange[] {
  return [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .filter((columnId) => !sameValue(before[columnId], after[columnId]))
    .map((columnId) => ({ columnId, before: before[columnId] ?? null, after: after[columnId] ?? null }));
}

/** The columns that may be set on a paper at the end of a path, in order: those of the places on it, not retired. */
export const columnsAlong = (columns: readonly Column[], lineage: readonly string[]): Column[] =>
  columns
    .filter((column) => !column.retired && lineage.includes(column.placeId))
    .sort((a, b) => lineage.indexOf(a.placeId) - lineage.indexOf(b.placeId) || a.position - b.position);
