import type { PlaceKind } from '../tree/placeKind';
import { sameValue, type Column, type ColumnType, type Value, type Values } from './model';

/** How a place gives a value to its papers. */
export const givenModes = ['fixed', 'offered'] as const;
/** `fixed`: always the place's value. `offered`: filled in when a paper arrives, then the paper's own. */
export type GivenMode = (typeof givenModes)[number];

/** What a given value can be taken from instead of being typed. */
export const bindings = ['dossier', 'filingYear', 'meetingDay'] as const;
/** Facts about a paper's home that a column can be bound to, instead of one value for all. */
export type Binding = (typeof bindings)[number];
/** Each source of a given value in words. */
export const bindingWords: Record<Binding, string> = {
  dossier: 'the dossier',
  filingYear: 'the filing year',
  meetingDay: 'the day of the meeting',
};

/** The column types that each binding can fill. A filing year gives its label to a text, its first year to a number. */
export const bindingTypes: Record<Binding, readonly ColumnType[]> = {
  dossier: ['dossier', 'text'],
  filingYear: ['text', 'number'],
  meetingDay: ['date', 'text'],
};

/** One line of a place's given values: exactly one of a value and a binding. */
export interface Given {
  readonly columnId: string;
  readonly mode: GivenMode;
  readonly value: Value | null;
  readonly binding: Binding | null;
}

/** A place on the path to a home, with the facts a column can be bound to. */
export interface GivingPlace {
  readonly id: string;
  readonly name: string;
  readonly kind: PlaceKind;
  /** The filing year it belongs to: its label and first calendar year. */
  readonly filingYear: { readonly label: string; readonly startYear: number } | null;
  /** The day of the meeting whose folder it is, ISO 8601. */
  readonly meetingDay: string | null;
  readonly given: readonly Given[];
}

/** What a home gives in one column, and the place it comes from. */
export interface Resolved {
  readonly mode: GivenMode;
  readonly value: Value;
  readonly fromId: string;
  readonly fromName: string;
}

/**
 * What a home gives to papers filed in it, by column: the nearest place upwards with a line for the column wins. A
 * binding refers to the home itself; if the home has no such fact (no meeting, no dossier), the next place upwards is
 * used. `path` runs from the library down to the home.
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

/** The value of a binding at the end of a path; null if the path has no such fact. */
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

/** The values of one mode among those a home gives. */
export const givenAs = (mode: GivenMode, resolved: ReadonlyMap<string, Resolved>): Values =>
  Object.fromEntries(
    [...resolved].filter(([, each]) => each.mode === mode).map(([columnId, each]) => [columnId, each.value]),
  );

/** The values a paper shows: those its home fixes, and its own for the rest. */
export const shownValues = (own: Values, fixed: Values): Values => ({ ...own, ...fixed });

/**
 * A paper's own values after arriving in a home: where it has none, the home's offers are filled in, then the columns'
 * defaults.
 */
export const arrivedValues = (own: Values, offered: Values, defaults: Values = {}): Values => ({
  ...defaults,
  ...offered,
  ...own,
});

/** A change of one column of one paper. */
export interface ValueChange {
  readonly columnId: string;
  readonly before: Value | null;
  readonly after: Value | null;
}

/** The differences between shown values, by column. */
export function differences(before: Values, after: Values): ValueChange[] {
  return [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .filter((columnId) => !sameValue(before[columnId], after[columnId]))
    .map((columnId) => ({ columnId, before: before[columnId] ?? null, after: after[columnId] ?? null }));
}

/** The columns in force at the end of a path, in order: those of the places on it that are not retired. */
export const columnsAlong = (columns: readonly Column[], lineage: readonly string[]): Column[] =>
  columns
    .filter((column) => !column.retired && lineage.includes(column.placeId))
    .sort((a, b) => lineage.indexOf(a.placeId) - lineage.indexOf(b.placeId) || a.position - b.position);
