import { nameKey } from '../text/fold';
import { remembered } from '../collections/remembered';
import { factsUsed, fillName, readNamePattern, type NameFacts } from './namePattern';
import type { FilingPlan, PlannedFolder } from './plan';

/** The facts about a dossier that its plan uses. */
export interface PlannedDossier {
  readonly name: string;
  readonly reference: string | null;
  /** The filing years that are not closed: nothing is made or changed in closed ones. */
  readonly years: readonly NonNullable<NameFacts['year']>[];
  /** `startYear`: its filing year. */
  readonly meetings: readonly {
    readonly id: string;
    readonly day: string;
    readonly title: string;
    readonly startYear: number;
  }[];
}

/** A folder that the plan wants. */
export interface WantedFolder {
  /** A stable key: the planned folder, with the year or meeting it is for. */
  readonly key: string;
  /** The parent's key; null for the dossier, or the place of its year. */
  readonly parentKey: string | null;
  /** The filing year in whose place it lies; null if it is made once. */
  readonly startYear: number | null;
  readonly name: string;
  /** For a meeting's topmost folder: the meeting. */
  readonly meetingId: string | null;
  readonly meetingDay: string | null;
}

/**
 * The folders that a plan wants in a dossier: every planned folder for each of its occasions, parents first. Numbers the
 * later of two siblings with equal names (two meetings on a day). A pattern that gives nothing for the dossier (no
 * reference) falls back on the plan's own text.
 */
export function expandPlan(plan: Pick<FilingPlan, 'folders'>): (dossier: PlannedDossier) => WantedFolder[] {
  const names = new Map(plan.folders.map((folder) => [folder.id, namesOf(folder)]));
  const keyOf = remembered(nameKey);
  return (dossier) => expandIn(dossier, plan, (folder, facts) => names.get(folder.id)?.(facts) ?? '', keyOf);
}

function expandIn(
  dossier: PlannedDossier,
  plan: Pick<FilingPlan, 'folders'>,
  nameOf: (folder: PlannedFolder, facts: NameFacts) => string,
  keyOf: (name: string) => string,
): WantedFolder[] {
  const wanted: WantedFolder[] = [];
  const taken = new Set<string>();
  const add = (folder: PlannedFolder, of: string, facts: NameFacts, startYear: number | null): void => {
    const parentKey = folder.parentId === null ? null : `${folder.parentId}${of}`;
    const name = freeName(nameOf(folder, facts), (one) => `${parentKey ?? `in ${startYear}`} ${keyOf(one)}`, taken);
    const isMeeting = folder.timing === 'meeting' && folder.parentId === null;
    wanted.push({
      key: `${folder.id}${of}`,
      parentKey,
      startYear,
      name,
      meetingId: isMeeting ? of.slice(1) : null,
      meetingDay: isMeeting ? (facts.meeting?.day ?? null) : null,
    });
  };
  const base = { dossier: dossier.name, reference: dossier.reference, year: null, meeting: null };
  for (const folder of plan.folders) {
    if (folder.timing === 'once') add(folder, '', base, null);
    if (folder.timing === 'year')
      for (const year of dossier.years) add(folder, ` ${year.startYear}`, { ...base, year }, year.startYear);
    if (folder.timing === 'meeting')
      for (const { id, startYear, ...meeting } of dossier.meetings) {
        const year = dossier.years.find((each) => each.startYear === startYear);
        if (year) add(folder, ` ${id}`, { ...base, year, meeting }, startYear);
      }
  }
  return wanted;
}

/** The names of a planned folder, memoised, since many dossiers share them. */
function namesOf({ pattern, timing }: PlannedFolder): (facts: NameFacts) => string {
  const plain = pattern.replace(/[{}]/gu, '').trim() || 'Folder';
  const read = readNamePattern(pattern, timing);
  if (!read.ok) return () => plain;
  const known = new Map<string, string>();
  const keyOf = factsUsed(read.value);
  return (facts) => {
    const key = keyOf(facts);
    const there = known.get(key);
    if (there !== undefined) return there;
    const filled = fillName(read.value, facts);
    const name = filled.ok ? filled.value : plain;
    known.set(key, name);
    return name;
  };
}

function freeName(name: string, keyOf: (name: string) => string, taken: Set<string>): string {
  for (let number = 1; ; number += 1) {
    const tried = number === 1 ? name : `${name} (${number})`;
    const key = keyOf(tried);
    if (taken.has(key)) continue;
    taken.add(key);
    return tried;
  }
}
