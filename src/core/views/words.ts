import type { YearNaming } from '../calendar/filingYear';
import type { Among } from '../search/among';
import { isBlock, type AskedFor, type Condition, type Part } from './conditions';
import { periodInWords, type Span } from '../calendar/period';

/** Names for conditions' properties and values. */
export interface ConditionWords {
  readonly property: (of: string) => string;
  /** A value's name; null where it is not known yet. */
  readonly value: (of: string, value: AskedFor) => string | null;
  readonly years: YearNaming;
}

const unitWords = { day: 'day', week: 'week', month: 'month', year: 'year' } as const;
const spanWords: Record<Extract<Span, { is: unknown }>['is'], string> = {
  today: 'today',
  'before-today': 'before today',
  'after-today': 'after today',
  'this-week': 'this week',
  'this-month': 'this month',
  'this-quarter': 'this quarter',
  'this-filing-year': 'this filing year',
  'last-filing-year': 'last filing year',
  'next-filing-year': 'next filing year',
  'since-look': 'since I last looked',
};
/** Named spans of time in words. */
export const namedSpanWords: Readonly<Record<string, string>> = spanWords;

/** A range of days: `in the next 60 days`, `from 14 Jul 2026`. */
export function spanInWords(span: Span, years: YearNaming): string {
  if ('is' in span) return spanWords[span.is];
  if ('next' in span) return `in the next ${amount(span.next, span.unit)}`;
  if ('last' in span) return `in the last ${amount(span.last, span.unit)}`;
  const day = (each: string) => periodInWords(each, years);
  if (span.from === null) return span.to === null ? 'any day' : `up to ${day(span.to)}`;
  if (span.to === null) return `from ${day(span.from)}`;
  return span.from === span.to ? `on ${day(span.from)}` : `from ${day(span.from)} to ${day(span.to)}`;
}

const amount = (count: number, unit: keyof typeof unitWords): string =>
  count === 1 ? unitWords[unit] : `${count} ${unitWords[unit]}s`;

/** Where words are looked for, after them. */
const amongWords: Readonly<Record<Among, string>> = {
  everything: '',
  titles: ' in titles',
  inside: ' inside',
  values: ' in values and labels',
  mail: ' in mails',
};

const whoWords = { me: 'me', 'my-groups': 'someone in my groups' } as const;

/** A condition in words, following the property's name: `Current or Draft`, `from 10 to 20`. */
export function askedInWords(condition: Condition, words: ConditionWords): string {
  if ('find' in condition) return `“${condition.find}”${amongWords[condition.among]}`;
  if ('text' in condition) return `${condition.text === 'starts' ? 'begins with' : 'has'} “${condition.words}”`;
  if ('filled' in condition) return condition.filled ? 'filled in' : 'empty';
  if ('span' in condition) return spanInWords(condition.span, words.years);
  if ('who' in condition) return condition.who.map((each) => whoWords[each]).join(' or ');
  if ('from' in condition) {
    const [from, to] = [condition.from, condition.to].map((each) => each?.toLocaleString('en-GB') ?? null);
    if (from === null) return to === null ? 'any' : `at most ${to}`;
    return to === null ? `at least ${from}` : `${from} to ${to}`;
  }
  if (condition.anyOf.length === 0) return 'any';
  const named = condition.anyOf.map((value) => words.value(condition.of, value) ?? '…');
  return named.length > 4 ? `one of ${named.length} values` : named.join(' or ');
}

/** All conditions as the end of a sentence: `Status Current, and not (Kind SCAN or Pages at most 2)`. */
export function conditionsInWords(
  parts: readonly Part[],
  words: ConditionWords,
  how: 'all' | 'any' | 'none' = 'all',
): string {
  const each = parts.map((part) =>
    isBlock(part)
      ? `${part.how === 'none' ? 'not ' : ''}(${conditionsInWords(part.parts, words, part.how)})`
      : `${words.property(part.of)} ${askedInWords(part, words)}`,
  );
  return each.join(how === 'all' ? ', and ' : ' or ');
}
