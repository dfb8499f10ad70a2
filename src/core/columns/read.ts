import { z } from 'zod';
import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { currencyDecimals, currencySign } from './currency';
import { readDay } from '../calendar/typedDay';
import type { Lexicon } from './lexicon';
import { longTextLength, maxChoices, shortTextLength, type Column, type Value } from './model';
import { readDecimal } from './decimal';

/** Looks up typed words: terms, people, dossiers and papers. Each function returns an id, null, or that several match. */
export interface Vocabulary {
  readonly terms: (listId: string) => Lexicon | undefined;
  readonly person: (words: string) => NamedId;
  readonly dossier: (words: string) => NamedId;
  readonly document: (words: string) => NamedId;
}
/** The id found for a typed name; `several` if the name is not unique, null if there is none. */
export type NamedId = string | 'several' | null;

/** Typed text as a value, no value (null), or, for an open list, words for a new term. */
export type Reading =
  | { readonly kind: 'value'; readonly value: Value | null }
  | { readonly kind: 'new-terms'; readonly ids: readonly string[]; readonly names: readonly string[] };

const valued = (value: Value | null): Result<Reading> => good({ kind: 'value', value });
const wrong = (says: string): Result<never> => bad(invalidField('value', says));

const yes = new Set(['yes', 'y', 'true', '1', 'x', '✓']);
const no = new Set(['no', 'n', 'false', '0']);

/** Separates several choices in a cell; a semicolon, since names may contain commas. */
export const choiceSign = ';';

/**
 * Reads text typed or pasted into a column: ignores surrounding spaces, reads empty text as null, and refuses what cannot
 * be read with the reason and an accepted form.
 */
export function readText(column: Column, raw: string, vocabulary: Vocabulary): Result<Reading> {
  const text = raw.normalize('NFC').trim();
  if (text === '') return valued(null);
  switch (column.type) {
    case 'choice':
      return readTerms(column, text, vocabulary);
    case 'choices':
      return readTerms(column, text, vocabulary);
    case 'text':
    case 'longText':
      return readWords(column, text);
    case 'number':
    case 'amount':
      return readNumber(column, text);
    case 'date': {
      const day = readDay(text);
      return day.ok ? valued(day.value) : day;
    }
    case 'yesNo': {
      const word = text.toLowerCase();
      return yes.has(word) ? valued(true) : no.has(word) ? valued(false) : wrong(`“${text}” is neither yes nor no.`);
    }
    case 'person':
      return readNamed(vocabulary.person(text), text, 'person', 'Type the whole name or the e-mail address.');
    case 'dossier':
      return readNamed(vocabulary.dossier(text), text, 'dossier', 'Type its reference, or its whole name.');
    case 'document':
      return readNamed(vocabulary.document(text), text, 'paper', 'Type its whole title, or paste its address.');
  }
}

function readWords(column: Column, text: string): Result<Reading> {
  const most = column.type === 'text' ? shortTextLength : longTextLength;
  const one = column.type === 'text' ? text.replace(/\s*[\r\n\u2028\u2029]+\s*/gu, ' ') : text.replace(/\r\n?/gu, '\n');
  if (/[\u0000-\u0008\u000b-\u001f\u007f]/u.test(one))
    return wrong('The text holds a character that cannot be shown. Type it again without it.');
  const length = [...one].length;
  return length > most ? wrong(`The text has ${length} characters; at most ${most} fit.`) : valued(one);
}

function readTerms(column: Column, text: string, vocabulary: Vocabulary): Result<Reading> {
  const lexicon = column.listId === null ? undefined : vocabulary.terms(column.listId);
  if (!lexicon) return wrong('The list of this column is not here.');
  const words = column.type === 'choice' ? [text] : namesIn(text, lexicon);
  const ids: string[] = [];
  const names: string[] = [];
  for (const each of words) {
    const id = lexicon.idOf(each);
    if (id !== null) ids.push(id);
    else if (column.open) names.push(each);
    else return wrong(`“${each}” is not on the list of ${column.name}.`);
  }
  if (names.length > 0) return good({ kind: 'new-terms', ids: [...new Set(ids)], names });
  return valued(column.type === 'choice' ? (ids[0] ?? null) : asChoices(ids, lexicon));
}

/** A name with more signs in it than this less one is not found in a cell of several. */
const mostPartsOfName = 5;

/** The names in a cell of several: what is between two signs, or more where the sign is part of a name on the list. */
function namesIn(text: string, lexicon: Lexicon): string[] {
  const parts = text.split(choiceSign);
  const most = Math.min(mostPartsOfName, lexicon.mostParts(choiceSign));
  const names: string[] = [];
  for (let at = 0; at < parts.length;) {
    let end = Math.min(parts.length, at + most);
    while (end > at + 1 && lexicon.idOf(parts.slice(at, end).join(choiceSign).trim()) === null) end -= 1;
    names.push(parts.slice(at, end).join(choiceSign).trim());
    at = end;
  }
  return names.filter((name) => name !== '');
}

/** Ids of choices as stored: each once, in list order; null for none. */
export function asChoices(ids: readonly string[], lexicon: Lexicon): Value | null {
  const place = new Map(lexicon.inOrder().map(({ term }, index) => [term.id, index]));
  const unique = [...new Set(ids)].sort((a, b) => (place.get(a) ?? Infinity) - (place.get(b) ?? Infinity));
  return unique.length === 0 ? null : unique;
}

function readNumber(column: Column, text: string): Result<Reading> {
  const bare = withoutSign(column, text);
  const decimals = column.type === 'amount' ? (currencyDecimals(column.currency) ?? 2) : column.decimals;
  const read = readDecimal(bare, decimals);
  return read.ok ? valued(read.value) : read;
}

/** The number without its currency or unit. */
function withoutSign(column: Column, text: string): string {
  const signs = column.type === 'amount' ? [column.currency, currencySign(column.currency)] : [column.unit];
  const found = signs
    .filter(Boolean)
    .find((sign) => text.startsWith(sign) || text.endsWith(sign) || text.startsWith(`-${sign}`));
  return found === undefined ? text : text.replace(found, '').trim();
}

function readNamed(found: NamedId, text: string, noun: string, how: string): Result<Reading> {
  if (found === 'several') return wrong(`More than one ${noun} goes by “${text}”. ${how}`);
  return found === null ? wrong(`No ${noun} that you may know of goes by “${text}”. ${how}`) : valued(found);
}

const id = z.uuid();

/** Checks a value from outside against its column; null is no value. */
export function checkValue(
  column: Column,
  value: unknown,
  vocabulary: Pick<Vocabulary, 'terms'>,
): Result<Value | null> {
  if (value === null || value === '' || (Array.isArray(value) && value.length === 0)) return good(null);
  const lexicon = column.listId === null ? undefined : vocabulary.terms(column.listId);
  switch (column.type) {
    case 'choice':
      return typeof value === 'string' && lexicon?.term(value)
        ? good(value)
        : wrong(`That is not on the list of ${column.name}.`);
    case 'choices': {
      const ids = z.array(z.string()).max(maxChoices).safeParse(value);
      if (!ids.success || !lexicon || !ids.data.every((each) => lexicon.term(each)))
        return wrong(`Not all of that is on the list of ${column.name}.`);
      return good(asChoices(ids.data, lexicon));
    }
    case 'number':
    case 'amount':
      return typeof value === 'number' && Number.isFinite(value) ? good(value) : wrong('That is not a number.');
    case 'yesNo':
      return typeof value === 'boolean' ? good(value) : wrong('That is neither yes nor no.');
    case 'date': {
      const day = typeof value === 'string' ? readDay(value) : null;
      return day?.ok && day.value === value ? good(day.value) : wrong('That is not a day.');
    }
    case 'text':
    case 'longText': {
      if (typeof value !== 'string') return wrong('That is not a text.');
      const read = readWords(column, value.normalize('NFC').trim());
      return read.ok && read.value.kind === 'value' ? good(read.value.value) : wrong(read.ok ? '' : read.issue.says);
    }
    case 'person':
    case 'dossier':
    case 'document':
      return id.safeParse(value).success ? good(String(value)) : wrong('That names nobody and nothing.');
  }
}
