import { toldItems, type Readable } from '../outline/told';
import type { PackPlan } from './layout';

/** An entry with who may know of it. */
export interface GuardedEntry extends Readable {
  readonly documentId: string | null;
}

/**
 * The entries that are left out of somebody's copy: what is confidential and not for them, what lies in such a section, and
 * papers that they may not see.
 * @param entries depth first
 */
export function leftOutOf(
  entries: readonly GuardedEntry[],
  personId: string,
  { knowsAll, maySee }: { readonly knowsAll: boolean; readonly maySee: (documentId: string) => boolean },
): string[] {
  const told = toldItems(entries, personId, knowsAll);
  return entries
    .filter(({ documentId }, at) => told[at] !== true || (documentId !== null && !maySee(documentId)))
    .map(({ id }) => id);
}

/** A run of pages of somebody's copy: pages of the pack, or one sheet that says which of them are left out. */
export type CopyRun = { readonly kind: 'pages' | 'leftOut'; readonly from: number; readonly to: number };

/**
 * Somebody's copy of a pack, run by run. Pages keep the numbers of the whole pack. The cover, the contents and the list of
 * files are made for each copy, and stand where those of the whole do.
 */
export function copyRuns({ parts }: PackPlan, leftOut: ReadonlySet<string>): CopyRun[] {
  const runs: { kind: CopyRun['kind']; from: number; to: number }[] = [];
  for (const { entryId, from, pages } of parts) {
    const kind = entryId !== null && leftOut.has(entryId) ? 'leftOut' : 'pages';
    const to = from + pages - 1;
    const last = runs.at(-1);
    if (last?.kind === kind) last.to = to;
    else runs.push({ kind, from, to });
  }
  return runs;
}

/** At which place in a copy, from 1, a page of the pack stands; null where it is left out. */
export function placeInCopy(runs: readonly CopyRun[], page: number): number | null {
  let before = 0;
  for (const { kind, from, to } of runs) {
    if (page >= from && page <= to) return kind === 'pages' ? before + page - from + 1 : null;
    before += kind === 'pages' ? to - from + 1 : 1;
  }
  return null;
}

/** The page of the pack that stands at a place of a copy; null for a sheet that says what is left out, and past its end. */
export function pageAtPlace(runs: readonly CopyRun[], at: number): number | null {
  let before = 0;
  for (const { kind, from, to } of runs) {
    const length = kind === 'pages' ? to - from + 1 : 1;
    if (at > before && at <= before + length) return kind === 'pages' ? from + at - before - 1 : null;
    before += length;
  }
  return null;
}
