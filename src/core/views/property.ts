import type { Column } from '../columns/model';
import { issue } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { builtIn, insideProperties, isBuiltIn, isInside } from './builtIns';
import { asksNothing, conditionsIn, type Condition, type Part } from './conditions';
import { isOwnWay } from './own';
import { columnSenses, type Sense } from './sense';
import { periodDays, type PeriodUnit } from '../calendar/period';

/** The sense of a property; null for a column that is not in force here. */
export function senseOf(of: string, columns: readonly Column[]): Sense | null {
  if (isBuiltIn(of)) return builtIn(of).sense;
  const column = columns.find((each) => each.id === of);
  return column && !column.retired ? columnSenses[column.type] : null;
}

/** A property's name. */
export const propertyName = (of: string, columns: readonly Column[]): string =>
  isBuiltIn(of)
    ? builtIn(of).name
    : isInside(of)
      ? insideProperties[of].name
      : (columns.find((each) => each.id === of)?.name ?? 'A column that is not here');

/** The forms of condition for each sense. */
const forms: Record<Sense, readonly string[]> = {
  text: ['anyOf', 'text', 'filled'],
  longText: ['text', 'filled'],
  picked: ['anyOf', 'filled'],
  person: ['anyOf', 'who', 'filled'],
  number: ['anyOf', 'from', 'filled'],
  day: ['anyOf', 'span', 'filled'],
  moment: ['anyOf', 'span'],
  place: ['anyOf'],
  openTo: ['anyOf', 'who'],
  own: ['anyOf'],
  find: ['find'],
};

/** The groupings for each sense; `value` makes a group for each value. */
export const groupWays: Record<Sense, readonly GroupBy[]> = {
  text: ['value'],
  longText: [],
  picked: ['value'],
  person: ['value'],
  number: ['value'],
  day: ['year', 'filingYear', 'quarter', 'month', 'week', 'day', 'ago'],
  moment: ['year', 'filingYear', 'quarter', 'month', 'week', 'day', 'ago'],
  place: ['value', 'series', 'dossier'],
  openTo: [],
  own: [],
  find: [],
};
/** Into what steps a property is grouped. */
export type GroupBy = 'value' | 'series' | 'dossier' | PeriodUnit;

const notHere = 'A condition speaks of a column that is not in use here. Take the condition away.';

/** Refuses conditions on unknown columns, and those that do not fit a column's type. */
export function checkConditions(parts: readonly Part[], columns: readonly Column[]): Result<null> {
  for (const condition of conditionsIn(parts)) {
    const sense = senseOf(condition.of, columns);
    if (sense === null) return bad(issue('gone', notHere));
    const says = wrongFor(condition, sense, propertyName(condition.of, columns));
    if (says) return bad(issue('invalid', says));
  }
  return good(null);
}

function wrongFor(condition: Condition, sense: Sense, name: string): string | null {
  if (asksNothing(condition)) return null;
  if (!forms[sense].some((form) => form in condition))
    return `A condition asks of “${name}” what it cannot answer. Take the condition away.`;
  if ('span' in condition && 'is' in condition.span && condition.span.is === 'since-look' && sense !== 'moment')
    return `“${name}” is a day; only Filed and Changed can be asked since you last looked.`;
  if ('anyOf' in condition && sense === 'own' && !condition.anyOf.every(isOwnWay))
    return `“${name}” is asked in a way that is not known here. Take the condition away.`;
  if ('anyOf' in condition && (sense === 'day' || sense === 'moment')) {
    const odd = condition.anyOf.find(
      (each) => each !== null && (typeof each !== 'string' || periodDays(each, { yearStartMonth: 1 }) === null),
    );
    if (odd !== undefined) return `“${String(odd)}” is no day, month, quarter or year of “${name}”.`;
  }
  return null;
}
