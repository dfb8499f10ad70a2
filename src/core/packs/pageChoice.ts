import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';

/**
 * Reads which pages of a paper go into a pack, as people write it: "1-3, 7", "5-". Empty: all of them.
 * @param pages how many the paper has; null where that is not known yet, and then only the writing is checked
 * @returns page numbers from 1 in the order in which they are written
 */
export function readPageChoice(text: string, pages: number | null): Result<number[]> {
  const wrong = (says: string) => bad(invalidField('pages', says));
  const most = pages ?? Number.MAX_SAFE_INTEGER;
  if (text.trim() === '') return good(pages === null ? [] : numbered(1, pages));
  const chosen: number[] = [];
  for (const part of text.split(',')) {
    const { from, dash, to } = /^\s*(?<from>\d{1,5})\s*(?<dash>[-–])?\s*(?<to>\d{1,5})?\s*$/u.exec(part)?.groups ?? {};
    if (from === undefined || (to !== undefined && dash === undefined))
      return wrong('Pages are written as 1-3, 7 or 5- for page 5 and all after it.');
    const first = Number(from);
    const last = to !== undefined ? Number(to) : dash === undefined ? first : (pages ?? first);
    if (first < 1 || last < first) return wrong(`“${part.trim()}” runs backwards: write the smaller page first.`);
    if (last > most || first > most) return wrong(`The paper has ${most} pages.`);
    if (pages !== null) chosen.push(...numbered(first, last));
  }
  return good(chosen);
}

const numbered = (first: number, last: number): number[] =>
  Array.from({ length: Math.max(0, last - first + 1) }, (_page, at) => first + at);

/** Pages as `qpdf` takes them: 1, 2, 3, 7 is "1-3,7". */
export function asRanges(pages: readonly number[]): string {
  const ranges: [number, number][] = [];
  for (const page of pages) {
    const last = ranges.at(-1);
    if (last?.[1] === page - 1) last[1] = page;
    else ranges.push([page, page]);
  }
  return ranges.map(([from, to]) => (from === to ? String(from) : `${from}-${to}`)).join(',');
}
