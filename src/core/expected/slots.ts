import { grouped } from '../collections/grouped';
import { filingYearSpanDays, type DayNumber } from '../calendar/period';
import type { Expectation } from '../plans/expectation';
import type { PlanTiming } from '../plans/namePattern';

/** The state of an expected paper. `ending`: there, and it runs out soon. `ahead`: missing, but not due yet. */
export const expectedStates = ['met', 'ending', 'ahead', 'gap', 'waived'] as const;
export type ExpectedState = (typeof expectedStates)[number];

/** The facts about a dossier that expected papers depend on. */
export interface ExpectingDossier {
  readonly id: string;
  /** Filing years for which it has places, by first calendar year, in order. */
  readonly years: readonly number[];
  /** Planned folders of each dossier, by id, that it has and the caller may know of. */
  readonly folders?: ReadonlySet<string>;
  /** Those of its years that are bare steps for the caller; nothing is expected in them. */
  readonly stepYears?: ReadonlySet<number>;
  readonly meetings: readonly { readonly id: string; readonly day: DayNumber; readonly startYear: number }[];
  /** Its first and last day; null if not filled in. Nothing is expected in years wholly outside. */
  readonly started: DayNumber | null;
  readonly ended: DayNumber | null;
  /** The day it was made in the library. */
  readonly made: DayNumber;
  /** The dossier is a bare step for the caller: nothing is expected of it. */
  readonly bareStep: boolean;
}

/** An occasion for expected papers: the dossier itself, one of its years, or a meeting. */
export interface Occasion {
  readonly timing: PlanTiming;
  /** A stable key, unique over all dossiers (`occasionKey`). */
  readonly key: string;
  readonly startYear: number | null;
  readonly meetingId: string | null;
  /** The days from which due dates are counted; equal except for a year. */
  readonly start: DayNumber;
  readonly end: DayNumber;
}

/** The key of an occasion. A meeting belongs to one year of one dossier, so its id is enough. */
export const occasionKey = (dossierId: string, startYear: number | null, meetingId: string | null): string =>
  meetingId ?? (startYear === null ? dossierId : `${dossierId} ${startYear}`);

/**
 * The occasions of a dossier: itself first, then for each year its meetings in order and the year itself. Leaves out
 * meetings in years without a place.
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

/** The day on which an expected paper is due. */
export const dueOn = ({ dueFrom, dueDays }: Expectation, { start, end }: Occasion): DayNumber =>
  (dueFrom === 'start' ? start : end) + dueDays;

/** Marked expectations by occasion key: bit n stands for the nth expectation of the series. */
export type Marks = ReadonlyMap<string, number>;

/** The facts that decide the states of a series' expected papers. */
export interface SlotFacts {
  readonly expected: readonly Expectation[];
  /** Expectations that a paper meets, and those stated as not needed. */
  readonly met: Marks;
  /** Of those that a paper meets, the ones whose paper runs out soon; left out: none. */
  readonly ending?: Marks;
  readonly waived: Marks;
  readonly today: DayNumber;
}

/**
 * Reports the state of each paper expected on an occasion, in the order of the series. A paper that exists counts even if
 * stated as not needed. A callback, since a large series has hundreds of thousands.
 */
export function eachState(
  occasion: Occasion,
  { expected, met, ending, waived, today }: SlotFacts,
  tell: (expectation: Expectation, state: ExpectedState) => void,
): void {
  const isThere = met.get(occasion.key) ?? 0;
  // Usually empty: then skip the lookup.
  const isEnding = ending === undefined || ending.size === 0 ? 0 : (ending.get(occasion.key) ?? 0);
  const isWaived = waived.size === 0 ? 0 : (waived.get(occasion.key) ?? 0);
  for (let at = 0; at < expected.length; at += 1) {
    const expectation = expected[at] as Expectation;
    if (expectation.timing !== occasion.timing) continue;
    const open = dueOn(expectation, occasion) >= today ? 'ahead' : 'gap';
    const there = isEnding & (1 << at) ? 'ending' : 'met';
    tell(expectation, isThere & (1 << at) ? there : isWaived & (1 << at) ? 'waived' : open);
  }
}

/** One expected paper of a dossier. */
export interface Slot {
  readonly expectation: Expectation;
  readonly occasion: Occasion;
  readonly due: DayNumber;
  readonly state: ExpectedState;
}

/** A stable key of an expected paper, unique over all dossiers. */
export const slotKey = (expectationId: string, occasion: string): string => `${expectationId} ${occasion}`;

/** All expected papers of a dossier with their states, in the order of its occasions. */
export function slotsOf(dossier: ExpectingDossier, standings: SlotFacts, yearStartMonth: number): Slot[] {
  const slots: Slot[] = [];
  for (const occasion of occasionsOf(dossier, yearStartMonth))
    eachState(occasion, standings, (expectation, state) =>
      slots.push({ expectation, occasion, due: dueOn(expectation, occasion), state }),
    );
  return slots;
}
