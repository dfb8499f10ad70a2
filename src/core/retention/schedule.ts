import { readCsv, writeCsv } from '../interchange/block';
import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { nameKey } from '../text/fold';
import { readName } from '../text/name';
import {
  keepingEnds,
  keepingEndWords,
  keepingStarts,
  keepingStartWords,
  mostKeptMonths,
  type RetentionClass,
} from './model';

/** A class without its id, as a line of a schedule gives it. */
export type ScheduledClass = Omit<RetentionClass, 'id'>;

const heads = ['Name', 'Authority', 'Counted', 'Date column', 'Kept for months', 'Then'] as const;

/** Writes a schedule as CSV (RFC 4180): one line a class. @param columnName of a column of dates, by its id */
export const writeSchedule = (classes: readonly ScheduledClass[], columnName: (id: string) => string): string =>
  writeCsv(
    [
      [...heads],
      ...classes.map((each) => [
        each.name,
        each.authority,
        keepingStartWords[each.start],
        each.columnId === null ? '' : columnName(each.columnId),
        each.months === null ? '' : String(each.months),
        keepingEndWords[each.end],
      ]),
    ],
    true,
  );

/** A line of a schedule: a class, or why it cannot be read. `line` counts from 1, the headings being the first. */
export interface ScheduleLine {
  readonly line: number;
  readonly read: Result<ScheduledClass>;
}

const byWords = <T extends string>(all: readonly T[], words: Readonly<Record<T, string>>) =>
  new Map(all.flatMap((each) => [each, words[each]].map((name) => [nameKey(name), each] as const)));
const starts = byWords(keepingStarts, keepingStartWords);
const ends = byWords(keepingEnds, keepingEndWords);

const refused = (says: string): Result<never> => bad(invalidField('csv', says));

/**
 * Reads a schedule as `writeSchedule` writes it; columns may stand in any order. A time is a number of months, or of years
 * as `7 years`. A name that comes twice is refused the second time.
 * @param columnId the id of a column of dates by its name; null for none
 */
export function readSchedule(csv: string, columnId: (name: string) => string | null): Result<readonly ScheduleLine[]> {
  const [first, ...rows] = readCsv(csv);
  if (!first) return refused('There is nothing in it. A schedule has a line of headings, then a line for each class.');
  const at = new Map(first.map((head, index) => [nameKey(head), index]));
  const missing = heads.filter((head) => !at.has(nameKey(head)));
  if (missing.length > 0) return refused(`It has no column ${missing.map((head) => `“${head}”`).join(', ')}.`);
  const seen = new Set<string>();
  return good(
    rows.map((row, index): ScheduleLine => {
      const cell = (head: (typeof heads)[number]): string => (row[at.get(nameKey(head)) ?? -1] ?? '').trim();
      const read = readLine(cell, columnId);
      const key = read.ok ? nameKey(read.value.name) : '';
      if (read.ok && seen.has(key)) return { line: index + 2, read: refused(`“${read.value.name}” is there twice.`) };
      seen.add(key);
      return { line: index + 2, read };
    }),
  );
}

const mostAuthority = 1000;

function readLine(
  cell: (head: (typeof heads)[number]) => string,
  columnId: (name: string) => string | null,
): Result<ScheduledClass> {
  const name = readName(cell('Name'));
  if (!name.ok) return name;
  const start = starts.get(nameKey(cell('Counted')));
  if (start === undefined)
    return refused(`“${cell('Counted')}” is no start. It is one of: ${Object.values(keepingStartWords).join('; ')}.`);
  const end = ends.get(nameKey(cell('Then')));
  if (end === undefined)
    return refused(`“${cell('Then')}” is no end. It is one of: ${Object.values(keepingEndWords).join('; ')}.`);
  const column = start === 'column' ? columnId(cell('Date column')) : null;
  if (start === 'column' && column === null) return refused(`No column of dates is called “${cell('Date column')}”.`);
  const months = readMonths(cell('Kept for months'));
  if (!months.ok) return months;
  if (months.value === null && end !== 'keep') return refused('It says no time; only what is kept for good has none.');
  const authority = cell('Authority');
  if (authority.length > mostAuthority) return refused('Its authority has more than 1,000 characters.');
  return good({ name: name.value, authority, start, columnId: column, months: months.value, end });
}

function readMonths(text: string): Result<number | null> {
  if (text === '') return good(null);
  const [, count = '', unit = ''] = /^(\d{1,4})\s*(years?|months?)?$/iu.exec(text) ?? [];
  const months = Number(count) * (unit.toLowerCase().startsWith('y') ? 12 : 1);
  return count === '' || months < 1 || months > mostKeptMonths
    ? refused(`“${text}” is no time: 84, or 7 years.`)
    : good(months);
}

/** A time of months in words: `7 years`, `18 months`. */
export function monthsInWords(months: number): string {
  const [count, unit] = months % 12 === 0 ? [months / 12, 'year'] : [months, 'month'];
  return count === 1 ? `1 ${unit}` : `${count} ${unit}s`;
}

/** How long papers of a class are kept: `7 years from the end of its filing year, then destroy`. */
export const keptInWords = ({ months, start, end }: Pick<RetentionClass, 'months' | 'start' | 'end'>): string =>
  end === 'keep' || months === null
    ? 'kept for good'
    : `${monthsInWords(months)} ${keepingStartWords[start]}, then ${keepingEndWords[end]}`;
