import { format } from 'date-fns';
import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { readName } from '../text/name';

/** How often a planned folder is made in each dossier. */
export const planTimings = ['once', 'year', 'meeting'] as const;
export type PlanTiming = (typeof planTimings)[number];

/** The facts a name can use; year and meeting are null if the folder is not for one. */
export interface NameFacts {
  readonly dossier: string;
  readonly reference: string | null;
  /** `label` in the library's style: `2026–27`. */
  readonly year: { readonly startYear: number; readonly lastYear: number; readonly label: string } | null;
  /** `day` is ISO 8601. */
  readonly meeting: { readonly day: string; readonly title: string } | null;
}

/** The parts a pattern can use, by timing, each with its explanation. */
export const nameParts: Readonly<Record<PlanTiming, Readonly<Record<string, string>>>> = {
  once: { dossier: 'the dossier’s name', reference: 'its reference' },
  year: {
    year: 'the filing year, as 2026–27',
    'year:first': 'the calendar year in which it starts',
    'year:last': 'the one in which it ends',
  },
  meeting: {
    meeting: 'the day of the meeting, as 14 Jul 2026',
    'meeting:d MMM': 'the day in another form: d dd MMM MMMM MM yy yyyy EEE EEEE',
    title: 'the title of the meeting',
  },
};

type Piece = { readonly text: string } | { readonly part: string; readonly form: string | null };

/** A checked name pattern. */
export interface NamePattern {
  readonly pieces: readonly Piece[];
}

const reach: Readonly<Record<PlanTiming, readonly PlanTiming[]>> = {
  once: ['once'],
  year: ['once', 'year'],
  meeting: ['once', 'year', 'meeting'],
};

/** Accepted day formats (Unicode TR 35 letters). */
const dayForm = /^(?:dd?|MM|MMMM?|yy|yyyy|EEE|EEEE|[ ./,–-])+$/u;

/**
 * Reads the pattern of a folder's name: text with parts in braces, as in `Minutes {meeting:d MMM yyyy}`.
 * Refuses unknown parts, and parts that do not fit the timing.
 */
export function readNamePattern(raw: string, timing: PlanTiming, field = 'pattern'): Result<NamePattern> {
  const text = raw.normalize('NFC').trim();
  const refuse = (says: string) => bad(invalidField(field, says));
  const pieces: Piece[] = [];
  let rest = text;
  while (rest !== '') {
    const part = /^\{(?<inside>[^{}]*)\}/u.exec(rest);
    if (part) {
      const inside = part.groups?.['inside'] ?? '';
      const wrong = wrongPart(inside, timing);
      if (wrong !== null) return refuse(wrong);
      const [name = '', form] = split(inside);
      pieces.push({ part: name, form });
      rest = rest.slice(part[0].length);
      continue;
    }
    if (/^[{}]/u.test(rest)) return refuse('A brace stands alone here. Parts are written {year}, with both braces.');
    const plain = /^[^{}]+/u.exec(rest)?.[0] ?? rest;
    pieces.push({ text: plain });
    rest = rest.slice(plain.length);
  }
  if (pieces.length === 0) return refuse('A folder needs a name.');
  return good({ pieces });
}

const split = (inside: string): readonly [string, string | null] => {
  const at = inside.indexOf(':');
  return at < 0 ? [inside.trim(), null] : [inside.slice(0, at).trim(), inside.slice(at + 1).trim()];
};

function wrongPart(inside: string, timing: PlanTiming): string | null {
  const [name, form] = split(inside);
  const home = planTimings.find((each) => Object.keys(nameParts[each]).some((known) => split(known)[0] === name));
  if (!home) {
    const known = reach[timing].flatMap((each) => Object.keys(nameParts[each])).map((each) => `{${each}}`);
    return `There is no part {${inside}}. Here a name knows ${known.join(', ')}.`;
  }
  if (!reach[timing].includes(home))
    return `{${inside}} is for folders made ${home === 'year' ? 'once per filing year' : 'once per meeting'}.`;
  if (form === null) return null;
  if (name === 'year') return ['first', 'last'].includes(form) ? null : `{year:…} knows first and last, not ${form}.`;
  if (name !== 'meeting') return `{${name}} has no other form.`;
  return dayForm.test(form) ? null : `A day is written with d dd MMM MMMM MM yy yyyy EEE EEEE, not ${form}.`;
}

/** The name a pattern gives for some facts; refuses if that is not a valid name. */
export function fillName(pattern: NamePattern, facts: NameFacts): Result<string> {
  return readName(pattern.pieces.map((piece) => ('text' in piece ? piece.text : filled(piece, facts))).join(''));
}

/** The facts a pattern uses, as text, for memoising: equal facts give equal names. */
export function factsUsed({ pieces }: NamePattern): (facts: NameFacts) => string {
  const parts = new Set(pieces.flatMap((piece) => ('part' in piece ? [piece.part] : [])));
  const uses = (part: string) => parts.has(part);
  const [dossier, reference, year, day, title] = ['dossier', 'reference', 'year', 'meeting', 'title'].map(uses);
  return (facts) =>
    `${dossier ? facts.dossier : ''}\n${reference ? facts.reference : ''}\n${year ? facts.year?.label : ''}\n` +
    `${day ? facts.meeting?.day : ''}\n${title ? facts.meeting?.title : ''}`;
}

function filled({ part, form }: { part: string; form: string | null }, facts: NameFacts): string {
  switch (part) {
    case 'dossier':
      return facts.dossier;
    case 'reference':
      return facts.reference ?? '';
    case 'year':
      if (!facts.year) return '';
      return form === null ? facts.year.label : String(form === 'last' ? facts.year.lastYear : facts.year.startYear);
    case 'title':
      return facts.meeting?.title ?? '';
    default:
      return facts.meeting ? format(dayAsDate(facts.meeting.day), form ?? 'd MMM yyyy') : '';
  }
}

/** A day as a local midnight, which `format` writes as the same day. */
function dayAsDate(day: string): Date {
  const [year = 1970, month = 1, date = 1] = day.split('-').map(Number);
  return new Date(year, month - 1, date);
}
