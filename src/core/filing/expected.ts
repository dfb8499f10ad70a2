import type { Column } from '../columns/model';
import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { nameKey } from '../text/fold';
import type { Conditions } from '../views/conditions';
import { filingYearSpanDays, type DayNumber } from '../views/period';
import { checkConditions } from '../views/property';
import type { PlanTiming } from './namePattern';
import type { PlannedFolder } from './plan';

/**
 * A paper that the plan of a series says must be there: for each dossier, for each of its filing years, or for each of its
 * meetings. A paper is it that stands in the right place and meets all conditions, or that a person said is it.
 */
export interface Expectation {
  readonly id: string;
  readonly timing: PlanTiming;
  readonly name: string;
  /** The planned folder, made as often, in which it is looked for; null: anywhere in the dossier, the year, the meeting's folders. */
  readonly folderId: string | null;
  readonly conditions: Conditions;
  /** How many days after what `dueFrom` says it is due; before, where negative. */
  readonly dueDays: number;
  /** For years: their first day or their last. For meetings the day itself, for dossiers the day they started: there always `start`. */
  readonly dueFrom: DueFrom;
}

export const dueFroms = ['start', 'end'] as const;
export type DueFrom = (typeof dueFroms)[number];

export const maxExpected = 40;
export const maxDueDays = 1000;

/** How one expected paper stands. `ahead`: not there, and not due yet. */
export const expectedStates = ['met', 'ahead', 'gap', 'waived'] as const;
export type ExpectedState = (typeof expectedStates)[number];

/** Whether expectations are sound beside the folders of their plan; the field at fault is `expected.2.name`. */
export function checkExpected(
  expected: readonly Expectation[],
  folders: readonly PlannedFolder[],
  columns: readonly Column[],
): Result<readonly Expectation[]> {
  if (expected.length > maxExpected)
    return bad(invalidField('expected', `A plan expects at most ${maxExpected} papers.`));
  const names = new Set<string>();
  for (const [at, each] of expected.entries()) {
    const refuse = (part: string, says: string) => bad(invalidField(`expected.${at}.${part}`, says));
    if (each.name.trim() === '') return refuse('name', 'An expected paper needs a name.');
    const key = `${each.timing} ${nameKey(each.name)}`;
    if (names.has(key)) return refuse('name', `“${each.name}” is expected twice.`);
    names.add(key);
    const folder = each.folderId === null ? null : folders.find((one) => one.id === each.folderId);
    if (folder === undefined)
      return refuse('folderId', `The folder in which “${each.name}” is looked for is not in the plan.`);
    if (folder && folder.timing !== each.timing)
      return refuse(
        'folderId',
        `“${each.name}” is looked for in a folder that is not made as often as it is expected.`,
      );
    if (!Number.isInteger(each.dueDays) || Math.abs(each.dueDays) > maxDueDays)
      return refuse('dueDays', `Days are whole numbers up to ${maxDueDays}.`);
    const sound = checkConditions(each.conditions, columns);
    if (!sound.ok) return refuse('conditions', sound.issue.says);
  }
  return good(expected);
}

/** A dossier, as expected papers are reckoned for it. */
export interface ExpectingDossier {
  readonly id: string;
  /** First calendar years of the filing years that it has places for, in order. */
  readonly years: readonly number[];
  readonly meetings: readonly { readonly id: string; readonly day: DayNumber; readonly startYear: number }[];
  /** The day it was begun, and its last; null where nobody said. Years wholly outside expect nothing. */
  readonly started: DayNumber | null;
  readonly ended: DayNumber | null;
  /** The day on which it was made here. */
  readonly made: DayNumber;
  /** Only a step to something below it is known: nothing of what is expected of it is told. */
  readonly bareStep: boolean;
}

/** One expected paper of a dossier: for a year, for a meeting in a year, or, with neither, for the dossier itself. */
export interface Slot {
  readonly expectation: Expectation;
  readonly startYear: number | null;
  readonly meetingId: string | null;
  readonly due: DayNumber;
}

/** The same for the same expected paper, always, over all dossiers. */
export const slotKey = (
  expectationId: string,
  dossierId: string,
  startYear: number | null,
  meetingId: string | null,
): string =>
  meetingId === null ? `${expectationId} ${dossierId} ${startYear ?? ''}` : `${expectationId} ${meetingId}`;

/**
 * All that is expected of a dossier: first for itself, then year by year, the meetings of each in order and what is for the
 * year itself after them. Meetings in a year that the dossier has no place for expect nothing.
 */
export function slotsOf(expected: readonly Expectation[], dossier: ExpectingDossier, yearStartMonth: number): Slot[] {
  if (dossier.bareStep) return [];
  const by = (timing: PlanTiming) => expected.filter((each) => each.timing === timing);
  const [once, yearly, meeting] = [by('once'), by('year'), by('meeting')];
  const slots: Slot[] = once.map((expectation) => ({
    expectation,
    startYear: null,
    meetingId: null,
    due: (dossier.started ?? dossier.made) + expectation.dueDays,
  }));
  for (const startYear of dossier.years) {
    for (const { id, day, startYear: of } of dossier.meetings)
      if (of === startYear)
        for (const expectation of meeting)
          slots.push({ expectation, startYear, meetingId: id, due: day + expectation.dueDays });
    const { from, to } = filingYearSpanDays(startYear, yearStartMonth);
    if ((dossier.ended !== null && dossier.ended < from) || (dossier.started !== null && dossier.started > to))
      continue;
    for (const expectation of yearly)
      slots.push({
        expectation,
        startYear,
        meetingId: null,
        due: (expectation.dueFrom === 'start' ? from : to) + expectation.dueDays,
      });
  }
  return slots;
}

/** A paper that is there is there, also where someone said that it is not needed. */
export function stateOf(
  { due }: Pick<Slot, 'due'>,
  { met, waived }: { readonly met: boolean; readonly waived: boolean },
  today: DayNumber,
): ExpectedState {
  if (met) return 'met';
  if (waived) return 'waived';
  return due >= today ? 'ahead' : 'gap';
}

/** Where a paper stands, as expectations see it. */
export interface Standing {
  readonly dossierId: string;
  readonly startYear: number | null;
  /** Keys of the planned folders on the way down to it, its own last. */
  readonly plannedKeys: readonly string[];
}

/** The expected paper that one standing there could be; null where it could not be any. */
export function slotAt(
  { id, timing, folderId }: Pick<Expectation, 'id' | 'timing' | 'folderId'>,
  { dossierId, startYear, plannedKeys }: Standing,
): string | null {
  const inFolder = plannedKeys.findLast((key) => folderId === null || plannedFolderOf(key) === folderId);
  if (folderId !== null && inFolder === undefined) return null;
  switch (timing) {
    case 'once':
      return slotKey(id, dossierId, null, null);
    case 'year':
      return startYear === null ? null : slotKey(id, dossierId, startYear, null);
    case 'meeting': {
      const meetingId = plannedKeys.map(plannedFor).findLast((of) => of.length === uuidLength);
      return meetingId === undefined ? null : slotKey(id, dossierId, null, meetingId);
    }
  }
}

/** A planned folder's key is its id, and after a space the year or the meeting it was made for. */
const uuidLength = 36;
const plannedFolderOf = (key: string): string => key.slice(0, uuidLength);
const plannedFor = (key: string): string => key.slice(uuidLength + 1);
