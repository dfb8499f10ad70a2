import { z } from 'zod';
import { readDay } from '../calendar/typedDay';
import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { emailSchema } from '../people/contract';
import { nameKey } from '../text/fold';

/**
 * Kinds of detail. The last three have a meaning: who is responsible for missing papers, and from when to when papers are
 * expected.
 */
export const detailKinds = [
  'text',
  'email',
  'telephone',
  'day',
  'choice',
  'person',
  'officer',
  'started',
  'ended',
] as const;
export type DetailKind = (typeof detailKinds)[number];

/** Each kind of detail in words. */
export const detailKindWords: Record<DetailKind, string> = {
  text: 'Text',
  email: 'E-mail address',
  telephone: 'Telephone',
  day: 'Day',
  choice: 'One of a few words',
  person: 'Colleague',
  officer: 'Officer: the colleague responsible',
  started: 'Started on',
  ended: 'Ended on',
};

/** A detail field of a series' dossiers. `choices` are the options of a choice; empty for other kinds. */
export interface DetailField {
  readonly id: string;
  readonly name: string;
  readonly kind: DetailKind;
  readonly choices: readonly string[];
}

/** A dossier's details by field id: days in ISO 8601, colleagues by id, everything else as text. */
export type Details = Readonly<Record<string, string>>;

/** The most fields that a series may have. */
export const maxDetails = 30;
/** The most characters of one detail. */
export const maxDetailLength = 400;
/** Typed details by field id, before `readDetails`. */
export const typedDetails = z.record(z.uuid(), z.string().max(maxDetailLength * 2, 'That is far too long.'));

const atMostOnce: readonly DetailKind[] = ['officer', 'started', 'ended'];
/** Whether a detail of this kind is a person of the library. */
export const isColleague = (kind: DetailKind): boolean => kind === 'person' || kind === 'officer';
/** Whether a detail of this kind is a day. */
export const isDay = (kind: DetailKind): boolean => kind === 'day' || kind === 'started' || kind === 'ended';

/** Checks the fields of a series; an error names the field, as in `fields.2.name`. */
export function checkFields(fields: readonly DetailField[]): Result<readonly DetailField[]> {
  if (fields.length > maxDetails) return bad(invalidField('fields', `A series has at most ${maxDetails} details.`));
  const names = new Set(['name', 'reference']);
  for (const [at, { name, kind, choices }] of fields.entries()) {
    const refuse = (part: string, says: string) => bad(invalidField(`fields.${at}.${part}`, says));
    const key = nameKey(name);
    if (key === '') return refuse('name', 'A detail needs a name.');
    if (names.has(key)) return refuse('name', `“${name}” is there already.`);
    names.add(key);
    if (atMostOnce.includes(kind) && fields.findIndex((each) => each.kind === kind) !== at)
      return refuse('kind', `Only one detail can be “${detailKindWords[kind]}”.`);
    if (kind === 'choice' && choices.length === 0) return refuse('choices', `“${name}” needs words to choose from.`);
    if (new Set(choices.map(nameKey)).size < choices.length)
      return refuse('choices', `Two of the words of “${name}” are the same.`);
  }
  return good(fields);
}

/** Finds a colleague by id, full name or address; null if nobody or several match. */
export type FindPerson = (words: string) => string | null;

/** Reads one typed detail; null if empty. An error names the detail's id. */
export function readDetail(field: DetailField, raw: string, findPerson: FindPerson): Result<string | null> {
  const words = raw.normalize('NFC').trim();
  const refuse = (says: string) => bad(invalidField(`details.${field.id}`, says));
  if (words === '') return good(null);
  if (words.length > maxDetailLength) return refuse(`“${field.name}” takes at most ${maxDetailLength} characters.`);
  if (isColleague(field.kind)) {
    const found = findPerson(words);
    return found === null ? refuse(`No one colleague is called “${words}”.`) : good(found);
  }
  if (isDay(field.kind)) {
    const day = readDay(words);
    return day.ok ? day : refuse(day.issue.says);
  }
  if (field.kind === 'email') {
    const address = emailSchema.safeParse(words);
    return address.success ? good(address.data) : refuse(`“${words}” is no e-mail address.`);
  }
  if (field.kind === 'choice') {
    const choice = field.choices.find((each) => nameKey(each) === nameKey(words));
    return choice === undefined
      ? refuse(`“${field.name}” is one of: ${field.choices.join(', ')}. “${words}” is none of them.`)
      : good(choice);
  }
  return good(words);
}

/** Reads all details of a dossier; fields that are not given become empty. Refuses an end before the start. */
export function readDetails(
  fields: readonly DetailField[],
  raw: Readonly<Record<string, string>>,
  findPerson: FindPerson,
): Result<Details> {
  const details: Record<string, string> = {};
  for (const field of fields) {
    const read = readDetail(field, raw[field.id] ?? '', findPerson);
    if (!read.ok) return read;
    if (read.value !== null) details[field.id] = read.value;
  }
  const { started, ended } = spanOf(fields, details);
  const end = fields.find((each) => each.kind === 'ended');
  if (end && started !== null && ended !== null && ended < started)
    return bad(invalidField(`details.${end.id}`, 'It ended before it started. Look at both days.'));
  return good(details);
}

/** The first and last day of a dossier, ISO 8601; null if not filled in. */
export function spanOf(
  fields: readonly DetailField[],
  details: Details,
): { readonly started: string | null; readonly ended: string | null } {
  const of = (kind: DetailKind): string | null => {
    const field = fields.find((each) => each.kind === kind);
    return (field && details[field.id]) ?? null;
  };
  return { started: of('started'), ended: of('ended') };
}

/** The id of the responsible colleague; null if there is none. */
export function officerOf(fields: readonly DetailField[], details: Details): string | null {
  const field = fields.find((each) => each.kind === 'officer');
  return (field && details[field.id]) ?? null;
}
