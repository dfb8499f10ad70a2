import type { AttendeePart, Presence } from '../agenda/model';
import { confidentialTitle } from '../agenda/page';
import { clockOf } from '../agenda/timing';
import { writeDay } from '../calendar/typedDay';
import { escapedMarkup as escaped } from '../text/markup';
import { outcomeKindWords, type OutcomeKind } from './model';
import { quorumInWords } from './quorum';

/** A decision or an action as minutes word it. */
export interface OutcomeText {
  readonly kind: OutcomeKind;
  readonly text: string;
  /** Who does it, for an action. */
  readonly who: string;
  /** ISO 8601; by when. */
  readonly dueOn: string | null;
}

/** All that minutes begin with. */
export interface MinutesText {
  readonly meeting: string;
  /** ISO 8601. */
  readonly day: string;
  readonly venue: string;
  /** Minutes since midnight; null where no time is said. */
  readonly startsAt: number | null;
  readonly attendees: readonly {
    readonly name: string;
    readonly part: AttendeePart;
    readonly presence: Presence | null;
  }[];
  readonly quorum: number | null;
  readonly items: readonly {
    readonly number: string;
    /** Null: confidential, so that only its number is written. */
    readonly title: string | null;
    readonly depth: number;
    readonly outcomes: readonly OutcomeText[];
  }[];
}

/** What an outcome's line in the minutes says after its kind: "Order the buoys (Petra Lindqvist, by 3 August 2026)". */
export function saidOf({ text, who, dueOn }: OutcomeText): string {
  const about = [who, dueOn === null ? '' : `by ${writeDay(dueOn)}`].filter((each) => each !== '').join(', ');
  const words = text.replace(/\s+/gu, ' ').trim();
  return about === '' ? words : `${words} (${about})`;
}

/** An outcome's whole line, as it stands in the minutes. */
export const lineOf = (outcome: OutcomeText): string => `${outcomeKindWords[outcome.kind]}: ${saidOf(outcome)}`;

/** The same as a paragraph of a note. */
export const lineMarkup = (outcome: OutcomeText): string =>
  `<p><strong>${outcomeKindWords[outcome.kind]}:</strong> ${escaped(saidOf(outcome))}</p>`;

/** The heading of an item in the minutes, by which it is found again. */
export const headingOf = (number: string, title: string | null): string => `${number} ${title ?? confidentialTitle}`;

/** Minutes as they begin: who was there, and a heading for each item with what it came to. Markup of a note. */
export function minutesMarkup(minutes: MinutesText): string {
  const { meeting, day, venue, startsAt, attendees, quorum, items } = minutes;
  const when = [writeDay(day), startsAt === null ? '' : clockOf(startsAt), venue].filter((each) => each !== '');
  const paragraph = (text: string): string => `<p>${escaped(text)}</p>`;
  const people = (label: string, who: MinutesText['attendees']): string =>
    who.length === 0 ? '' : `<p><strong>${label}:</strong> ${escaped(who.map(({ name }) => name).join(', '))}</p>`;
  const members = attendees.filter(({ part }) => part === 'member');
  const were = (presence: Presence) => attendees.filter((each) => each.presence === presence);
  const enough = quorumInWords(attendees, quorum);
  const item = ({ number, title, depth, outcomes }: MinutesText['items'][number]): string => {
    const level = depth === 1 ? 'h2' : 'h3';
    const lines = title === null ? [] : outcomes.map(lineMarkup);
    return [`<${level}>${escaped(headingOf(number, title))}</${level}>`, '<p></p>', ...lines].join('\n');
  };
  return [
    '<h1>Minutes</h1>',
    paragraph(meeting),
    paragraph(when.join(', ')),
    people(
      'Present',
      members.filter(({ presence }) => presence === 'present'),
    ),
    people(
      'In attendance',
      attendees.filter(({ part, presence }) => part === 'inAttendance' && presence === 'present'),
    ),
    people('Apologies', were('apologies')),
    people(
      'Absent',
      members.filter(({ presence }) => presence === 'absent'),
    ),
    enough === null ? '' : paragraph(enough),
    ...items.map(item),
  ]
    .filter((each) => each !== '')
    .join('\n');
}
