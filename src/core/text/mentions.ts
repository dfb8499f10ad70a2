import * as chrono from 'chrono-node';

/** A text may name more; these are the first. */
const most = { dates: 12, references: 12 } as const;
/** Only whole days between these years are taken for dates: numbers of other kinds look like days too. */
const years = { first: 1800, last: 2200 } as const;

/** What a text names. */
export interface Mentions {
  /** Whole days, as ISO 8601, in the order in which they come first. */
  readonly dates: string[];
  readonly references: string[];
}

/**
 * The days and the references that a text names. A day has day, month and year: `14 July 2026`, `14/07/2026`, `2026-07-14`.
 * (`14/07` is read as British offices write it; a text that writes the month first is misread where both can be.)
 */
export function mentionsOf(text: string): Mentions {
  const dates = new Set<string>();
  for (const { start, end } of chrono.en.GB.parse(text, new Date(Date.UTC(2000, 0, 1))))
    for (const each of [start, end]) {
      const day = each && wholeDay(each);
      if (day && dates.size < most.dates) dates.add(day);
    }
  return { dates: [...dates], references: [...referencesIn(text)] };
}

/** The day that a part of a text names wholly; null where something of it is only guessed. */
function wholeDay(part: chrono.ParsedComponents): string | null {
  if (!part.isCertain('day') || !part.isCertain('month') || !part.isCertain('year')) return null;
  const [year, month, day] = [part.get('year') ?? 0, part.get('month') ?? 0, part.get('day') ?? 0];
  if (year < years.first || year > years.last) return null;
  const iso = `${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
  // 31 February is none.
  return new Date(`${iso}T00:00:00Z`).getUTCDate() === day ? iso : null;
}

/**
 * Letters and numbers joined as offices number their papers: `INV-2023-00471`, `W-23-04`, `PO/1182`. One to five capitals
 * first, then groups of digits, at least three digits in all. (Common practice, no source.)
 */
const reference =
  /(?<![\p{L}\p{N}/-])\p{Lu}{1,5}[-/](?:\p{Lu}{1,4}[-/])?\d{1,10}(?:[-/.]\d{1,10}){0,3}(?![\p{L}\p{N}])/gu;
const fewestDigits = 3;

function referencesIn(text: string): Set<string> {
  const found = new Set<string>();
  for (const [match] of text.matchAll(reference)) {
    if (match.replace(/\D/gu, '').length < fewestDigits) continue;
    found.add(match);
    if (found.size === most.references) break;
  }
  return found;
}
