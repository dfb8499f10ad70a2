import { grouped } from '../collections/grouped';
import { filingYearSpanDays, type DayNumber } from '../calendar/period';
import type { Expectation } from '../plans/expectation';
import type { PlanTiming } from '../plans/namePattern';

/** How one expected paper stands. `ahead`: not there, and not due yet. */
export const expectedStates = ['met', 'ahead', 'gap', 'waived'] as const;
export type ExpectedState = (typeof expectedStates)[number];

/** A dossier, as expected papers are reckoned for it. */
export interface ExpectingDossier {
  readonly id: string;
  /** First calendar years of the filing years that it has places for, in order. */
  readonly years: readonly number[];
  /** Of those that are but a step on the way for who asks: nothing is expected in them as far as they know. */
  readonly stepYears?: ReadonlySet<number>;
  readonly meetings: readonly { readonly id: string; readonly day: DayNumber; readonly startYear: number }[];
  /** The day it was begun, and its last; null where nobody said. Years wholly outside expect nothing. */
  readonly started: DayNumber | null;
  readonly ended: DayNumber | null;
  /** The day on which it was made here. */
  readonly made: DayNumber;
  /** Only a step to something below it is known: nothing of what is expected of it is told. */
  readonly bareStep: boolean;
}

/** What papers are expected for: the dossier itself, one of its years, or a meeting. */
export interface Occasion {
  readonly timing: PlanTiming;
  /** The same for the same occasion, always, over all dossiers (`occasionKey`). */
  readonly key: string;
  readonly startYear: number | null;
  readonly meetingId: string | null;
  /** What due dates are reckoned from; the same day twice but for a year. */
  readonly start: DayNumber;
  readonly end: DayNumber;
}

/** A meeting belongs to one year of one dossier: it is known by itself. */
export const occasionKey = (dossierId: string, startYear: number | null, meetingId: string | null): string =>
  meetingId ?? (startYear === null ? dossierId : `${dossierId} ${startYear}`);

/**
 * All that papers can be expected for in a dossier: first itself, then year by year, the meetings of each in order and the year
 * itself after them. Meetings in a year that the dossier has no place for are none.
 */
export function occasionsOf(dossier: ExpectingDossier, yearStartMonth: number): Occasion[] {
  if (dossier.bareStep) return [];
  const { id: dossierId, started, ended, made } = dossier;
  const occasion = (
    timing: PlanTiming,
    startYear: number | null,
    meetingId: string | null,
    start: number,
    end = start,
  ) => occasions.push({ timing, key: occasionKey(dossierId, startYear, meetingId), startYear, meetingId, start, end });
  const occasions: Occasion[] = [];
  occasion('once', null, null, started ?? made);
  const meetings = grouped(dossier.meetings, (meeting) => meeting.startYear);
  for (const startYear of dossier.years) {
    if (dossier.stepYears?.has(startYear)) continue;
    for (const { id, day } of meetings.get(startYear) ?? []) occasion('meeting', startYear, id, day);
    const { from, to } = filingYearSpanDays(startYear, yearStartMonth);
    const outside = (ended !== null && ended < from) || (started !== null && started > to);
    if (!outside) occasion('year', startYear, null, from, to);
  }
  return occasions;
}

export const dueOn = ({ dueFrom, dueDays }: Expectation, { start, end }: Occasion): DayNumber =>
  (dueFrom === 'start' ? start : end) + dueDays;

/** Of which expected papers something is so, by the occasion's key: bit n for the nth expectation of the series. */
export type Marks = ReadonlyMap<string, number>;

/** How what is expected on any occasion in a series stands. */
export interface Standings {
  readonly expected: readonly Expectation[];
  /** What a paper is there for, and what someone said is not needed. */
  readonly met: Marks;
  readonly waived: Marks;
  readonly today: DayNumber;
}

/**
 * How each paper that is expected on an occasion stands, in the order of the series. One that is there is there, also where it
 * is said not to be needed. Told one by one: a large series has hundreds of thousands.
 */
export function eachState(
  occasion: Occasion,
  { expected, met, waived, today }: Standings,
  tell: (expectation: Expectation, state: ExpectedState) => void,
): void {
  const isThere = met.get(occasion.key) ?? 0;
  // Mostly nothing is: then nothing is looked up.
  const isWaived = waived.size === 0 ? 0 : (waived.get(occasion.key) ?? 0);
  for (let at = 0; at < expected.length; at += 1) {
    const expectation = expected[at] as Expectation;
    if (expectation.timing !== occasion.timing) continue;
    const open = dueOn(expectation, occasion) >= today ? 'ahead' : 'gap';
    tell(expectation, isThere & (1 << at) ? 'met' : isWaived & (1 << at) ? 'waived' : open);
  }
}

/** One expected paper of a dossier. */
export interface Slot {
  readonly expectation: Expectation;
  readonly occasion: Occasion;
  readonly due: DayNumber;
  readonly state: ExpectedState;
}

/** The same for the same expected paper, always, over all dossiers. */
export const slotKey = (expectationId: string, occasion: string): string => `${expectationId} ${occasion}`;

/** All that is expected of a dossier, in the order of its occasions, and how it stands. */
export function slotsOf(dossier: ExpectingDossier, standings: Standings, yearStartMonth: number): Slot[] {
  const slots: Slot[] = [];
  for (const occasion of occasionsOf(dossier, yearStartMonth))
    eachState(occasion, standings, (expectation, state) =>
      slots.push({ expectation, occasion, due: dueOn(expectation, occasion), state }),
    );
  return slots;
}
