import { dayNumber, isoDay } from '../calendar/period';
import { asDayPeriod, writtenIn } from '../text/written';
import type { Around, Stated } from './model';
import { spotOf, type Cell, type Word } from './rows';

/** Words that say of what stands by them that it is the time a bill is for, folded. */
const named = new Set(
  'period periods zeitraum abrechnungszeitraum leistungszeitraum lieferzeitraum rechnungszeitraum periode periodo factuurperiode'.split(
    ' ',
  ),
);
/** Before such a word: the time is not what the bill is for. */
const otherwise = new Set(
  'notice retention grace payment trial warranty guarantee credit cooling-off previous last next reporting'.split(' '),
);
/** They may stand between the word and its days. */
const leading =
  /^(?:(?:of|from|for|the|covered|covers|supply|service|billing|vom|von|du|de|del|dal|van|facturation|facturacion|fatturazione)\s+)+/iu;
const joint = String.raw`\s*(?:-|–|—|\bto\b|\buntil\b|\btill\b|\bthrough\b|\bup to(?: and including)?\b|\bbis(?: zum)?\b|\bau\b|\bal?\b|\bt/m\b|\btot(?: en met)?\b)\s*`;
const onlyJoint = new RegExp(`^${joint}$`, 'iu');
/** `1 to `, before a day of the same month; `1 July to ` and `July to `, before a day or a month of the same year. */
const dayFirst = new RegExp(String.raw`^(?<day>\d{1,2})(?:st|nd|rd|th|\.)?${joint}$`, 'iu');
const monthFirst = new RegExp(
  String.raw`^(?:(?<day>\d{1,2})(?:st|nd|rd|th|\.)?\s+)?(?<month>\p{L}{3,10})\.?${joint}$`,
  'iu',
);
const quarter =
  /^(?:Q(?<short>[1-4])|(?<long>[1-4])(?:st|nd|rd|th|\.|e|er|o)?\s+(?:quarter|Quartal|trimestre|kwartaal))(?:\s+of|,|\s*\/)?\s+(?<year>\d{4})$/iu;

/** A span of days, both of them in it, ISO 8601. */
export interface DaySpan {
  readonly from: string;
  readonly until: string;
}

/** A bill is for no more than so many days, and for none that begin later than so many after it came. */
const most = { days: 3 * 366, ahead: 400, back: 1200 } as const;
const mostWords = 12;
/** Set by us and not fitted: the bills that are made up state none. */
const sure = 0.9;

const endOfMonth = (year: number, month: number): string => isoDay(Date.UTC(year, month, 0) / 86_400_000);
/** The days of a day or a month (`2026-07-14`, `2026-07`). */
const spanOf = (written: string): DaySpan =>
  written.length === 10
    ? { from: written, until: written }
    : {
        from: `${written}-01`,
        until: endOfMonth(Number(written.slice(0, 4)), Number(written.slice(5, 7))),
      };

/** The day or the month that a text writes, and nothing else; null for anything else. */
const writtenAs = (text: string): string | null => {
  const [only, ...more] = writtenIn(text);
  return only?.index === 0 && only.length === text.length && more.length === 0 ? asDayPeriod(only.keys[0] ?? '') : null;
};

/**
 * The span of days that a text writes, and nothing else: `1 to 31 October 2026`, `01/07/2026 – 30/09/2026`, `July to September
 * 2026`, `October 2026`, `Q3 2026`; null for anything else, a single day too.
 */
export function daySpanIn(text: string): DaySpan | null {
  // A hyphen between two days is none within a day.
  const bare = text
    .replace(leading, '')
    .replaceAll(/(?<=\d{4})-(?=\d{1,2}[/.]|\d{4}-)/gu, ' – ')
    .replaceAll(/(?<=^\d{1,2})-(?=\d{1,2}\s+\p{L})/gu, ' – ');
  const ofQuarter = quarter.exec(bare)?.groups;
  if (ofQuarter) {
    const last = Number(ofQuarter['short'] ?? ofQuarter['long']) * 3;
    const year = ofQuarter['year'] ?? '';
    return { from: `${year}-${String(last - 2).padStart(2, '0')}-01`, until: endOfMonth(Number(year), last) };
  }
  const [first, second, ...more] = writtenIn(bare).flatMap(({ index, length, keys }) => {
    const day = asDayPeriod(keys[0] ?? '');
    return day === null ? [] : [{ index, end: index + length, day }];
  });
  if (!first || more.length > 0 || (second ?? first).end !== bare.length) return null;
  const before = bare.slice(0, first.index);
  if (second)
    return before === '' && onlyJoint.test(bare.slice(first.end, second.index))
      ? inOrder(spanOf(first.day).from, spanOf(second.day).until)
      : null;
  const { from, until } = spanOf(first.day);
  if (before === '') return from === until ? null : { from, until };
  const begins = dayFirst.exec(before)?.groups;
  if (begins && from === until) return inOrder(`${until.slice(0, 8)}${(begins['day'] ?? '').padStart(2, '0')}`, until);
  const { day, month } = monthFirst.exec(before)?.groups ?? {};
  if (month === undefined || (day === undefined) !== (from !== until)) return null;
  // It began in the year before where it would otherwise end before it began.
  for (const year of [Number(until.slice(0, 4)), Number(until.slice(0, 4)) - 1]) {
    const written = writtenAs(`${day === undefined ? '' : `${day} `}${month} ${year}`);
    const span = written === null ? null : inOrder(spanOf(written).from, until);
    if (span) return span;
  }
  return null;
}

function inOrder(from: string, until: string): DaySpan | null {
  const [one, other] = [dayNumber(from), dayNumber(until)];
  return one === null || other === null || other < one || other - one > most.days ? null : { from, until };
}

/** The span that begins at a word of a cell: of as many words as write one. */
function spanAt(words: readonly Word[], from: number): { span: DaySpan; words: readonly Word[] } | null {
  for (let length = Math.min(mostWords, words.length - from); length > 0; length -= 1) {
    const some = words.slice(from, from + length);
    const span = daySpanIn(textOf(some).replaceAll(/^[:\s]+|[,;:.\s]+$/gu, ''));
    if (span) return { span, words: some };
  }
  return null;
}

const textOf = (words: readonly Word[]): string => words.map(({ text }) => text).join(' ');

/**
 * The time that a bill is for, where words on a page say it: behind them, in the next cell of their row, or below them.
 * Its value is an interval of ISO 8601, `2026-10-01/2026-10-31`.
 */
export function periodOn(cells: readonly Cell[], page: number, { arrivedOn }: Around): Stated | null {
  for (const [at, cell] of cells.entries())
    for (const [word, { key }] of cell.words.entries()) {
      if (!named.has(key) || otherwise.has(cell.words[word - 1]?.key ?? '')) continue;
      const next = cells[at + 1];
      const said = cell.words.slice(Math.max(0, word - 1), word + 1);
      const found =
        word + 1 < cell.words.length
          ? spanAt(cell.words, word + 1)
          : ((next?.row === cell.row ? spanAt(next.words, 0) : null) ?? spanBelow(cells, cell, said));
      if (!found || !isNear(found.span, arrivedOn)) continue;
      return {
        kind: 'period',
        value: `${found.span.from}/${found.span.until}`,
        currency: null,
        words: textOf(found.words).replaceAll(/^[:\s]+|[,;:.\s]+$/gu, ''),
        by: textOf(said).replace(/[:.]+$/u, ''),
        page,
        spot: spotOf(found.words),
        sure,
      };
    }
  return null;
}

/** The first thing that stands below words, in the next row or the one after it. */
function spanBelow(cells: readonly Cell[], over: Cell, said: readonly Word[]) {
  const spot = spotOf(said);
  const below = cells.find((each) => {
    const { left, right } = spotOf(each.words);
    return each.row > over.row && each.row <= over.row + 2 && left < spot.right && right > spot.left;
  });
  return below ? spanAt(below.words, 0) : null;
}

function isNear({ from, until }: DaySpan, arrivedOn: string): boolean {
  const came = dayNumber(arrivedOn) ?? 0;
  return (dayNumber(from) ?? 0) < came + most.ahead && (dayNumber(until) ?? 0) > came - most.back;
}
