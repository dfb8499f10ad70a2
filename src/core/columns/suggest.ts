import * as chrono from 'chrono-node';
import { searchKey } from '../text/fold';
import { counted } from '../text/measure';
import { writeDay } from '../calendar/typedDay';
import type { Lexicon } from './lexicon';
import type { Column, Value, Values } from './model';

/** A proposed value with its reason; never written automatically. */
export interface Suggestion {
  readonly columnId: string;
  readonly value: Value;
  /** A whole clause: `27 of 31 papers named so here are “Minutes”`. */
  readonly because: string;
}

/** An earlier paper with values, to learn from. */
export interface Described {
  readonly title: string;
  readonly shown: Values;
}

/** What suggestions are made from. */
export interface Surroundings {
  readonly columns: readonly Column[];
  readonly terms: (listId: string) => Lexicon | undefined;
  /** Dossiers that the caller may know of, by reference in upper case. */
  readonly dossierByReference: (reference: string) => { readonly id: string; readonly name: string } | undefined;
  /** Papers with similar names in similar places. */
  readonly described: readonly Described[];
}

/** How many, and what share, of the similar papers need to have a value before it is proposed. */
const leastPapers = 3;
const leastShare = 0.6;

/**
 * Proposes values for a paper's empty columns from its title and place: from its own words first, then from similarly
 * named papers.
 */
export function suggestValues(title: string, shown: Values, around: Surroundings): Suggestion[] {
  const suggestions: Suggestion[] = [];
  const taken = new Set(Object.keys(shown));
  const propose = (suggestion: Suggestion | null) => {
    if (!suggestion || taken.has(suggestion.columnId)) return;
    taken.add(suggestion.columnId);
    suggestions.push(suggestion);
  };
  const dateColumn = around.columns.find((column) => column.type === 'date');
  if (dateColumn) propose(dayIn(title, dateColumn));
  for (const column of around.columns) {
    if (column.type === 'dossier') propose(dossierIn(title, column, around));
    if (column.type === 'choice' && column.listId !== null) propose(termIn(title, column, around.terms(column.listId)));
  }
  for (const column of around.columns) propose(learned(title, column, around));
  return suggestions;
}

/** A day in any common form, day before month; for a month alone, its first day. */
function dayIn(title: string, column: Column): Suggestion | null {
  // A fixed reference time: words such as "today" in a title are ignored.
  const [found] = chrono.en.GB.parse(title.replaceAll('_', ' '), new Date(Date.UTC(2000, 0, 1)));
  if (!found || !/\d/u.test(found.text) || !found.start.isCertain('year') || !found.start.isCertain('month'))
    return null;
  const [year, month, day] = [
    found.start.get('year'),
    found.start.get('month'),
    found.start.isCertain('day') ? found.start.get('day') : 1,
  ];
  if (year === null || month === null || day === null || year < 1900 || year > 2199) return null;
  const two = (part: number) => String(part).padStart(2, '0');
  const value = `${year}-${two(month)}-${two(day)}`;
  const because = found.start.isCertain('day')
    ? `the title says “${found.text}”`
    : `the title says “${found.text}”, so from ${writeDay(value)} on`;
  return { columnId: column.id, value, because };
}

function dossierIn(title: string, column: Column, around: Surroundings): Suggestion | null {
  for (const [word] of title.matchAll(/[\p{L}\p{N}]+(?:[-./][\p{L}\p{N}]+)*/gu)) {
    const dossier = around.dossierByReference(word.toUpperCase());
    if (dossier && /\p{N}|^\p{Lu}{2,}$/u.test(word))
      return {
        columnId: column.id,
        value: dossier.id,
        because: `the title has the reference ${word} of ${dossier.name}`,
      };
  }
  return null;
}

/** The term whose name or other name occurs in the title as whole words; the longest, then the earliest. */
function termIn(title: string, column: Column, lexicon: Lexicon | undefined): Suggestion | null {
  if (!lexicon) return null;
  const words = ` ${searchKey(title)
    .replace(/[^\p{L}\p{N} ]+/gu, ' ')
    .replace(/\s+/gu, ' ')} `;
  const found = lexicon.terms
    .filter((term) => !term.retired)
    .flatMap((term) =>
      [term.name, ...term.otherNames].map((name) => ({ term, name, at: words.indexOf(` ${searchKey(name)} `) })),
    )
    .filter(({ at }) => at !== -1)
    .sort((a, b) => b.name.length - a.name.length || a.at - b.at)[0];
  return found ? { columnId: column.id, value: found.term.id, because: `the title says “${found.name}”` } : null;
}

/** A title without dates, numbers and months. Titles with equal shapes count as similar. */
export function nameShape(title: string): string {
  return searchKey(title)
    .replace(/\b(?:jan|feb|mar|apr|may|jun|jul|aug|sep|sept|oct|nov|dec)[a-z]*\b/gu, ' ')
    .replace(/\p{N}+(?:st|nd|rd|th)?/gu, ' ')
    .replace(/[^\p{L} ]+/gu, ' ')
    .replace(/\b(?:of|the|for|and|to|in|on|at)\b/gu, ' ')
    .replace(/\s+/gu, ' ')
    .trim();
}

/** The most frequent value of a column among similarly named papers. */
function learned(title: string, column: Column, around: Surroundings): Suggestion | null {
  if (column.type === 'longText' || column.type === 'date' || column.type === 'number' || column.type === 'amount')
    return null;
  const shape = nameShape(title);
  if (shape === '') return null;
  const alike = around.described.filter((paper) => nameShape(paper.title) === shape && column.id in paper.shown);
  const counts = new Map<string, { value: Value; papers: number }>();
  for (const { shown } of alike) {
    const value = shown[column.id];
    if (value === undefined) continue;
    const key = JSON.stringify(value);
    counts.set(key, { value, papers: (counts.get(key)?.papers ?? 0) + 1 });
  }
  const best = [...counts.values()].sort((a, b) => b.papers - a.papers)[0];
  if (!best || best.papers < leastPapers || best.papers / alike.length < leastShare) return null;
  return {
    columnId: column.id,
    value: best.value,
    because: `${best.papers} of ${counted(alike.length, 'paper')} named so here have it`,
  };
}
