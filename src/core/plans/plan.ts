import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { nameKey } from '../text/fold';
import { fillName, readNamePattern, type NameFacts, type PlanTiming } from './namePattern';

/**
 * One planned folder. It stands in the dossier (`once`), in the place of each filing year (`year`), or in that of the year in
 * which a meeting falls (`meeting`); with a parent, in what that parent becomes.
 */
export interface PlannedFolder {
  readonly id: string;
  /** Another planned folder, made as often as this one; null at the top. */
  readonly parentId: string | null;
  readonly timing: PlanTiming;
  readonly pattern: string;
}

/** How the papers of each dossier of a series are arranged: folders in order, each after the one it stands in. */
export interface FilingPlan {
  readonly folders: readonly PlannedFolder[];
}

export const emptyPlan: FilingPlan = { folders: [] };
export const maxPlanned = 300;

/** A dossier as a plan is read for it: a live example, in the editor and in refusals. */
const example: Readonly<Record<PlanTiming, NameFacts>> = {
  once: { dossier: 'Example', reference: 'E-001', year: null, meeting: null },
  year: {
    dossier: 'Example',
    reference: 'E-001',
    year: { startYear: 2026, lastYear: 2027, label: '2026–27' },
    meeting: null,
  },
  meeting: {
    dossier: 'Example',
    reference: 'E-001',
    year: { startYear: 2026, lastYear: 2027, label: '2026–27' },
    meeting: { day: '2026-07-14', title: 'Ordinary meeting' },
  },
};

/** The name that a planned folder gets in the example; for a preview while it is being typed. */
export function exampleName(pattern: string, timing: PlanTiming): Result<string> {
  const read = readNamePattern(pattern, timing);
  return read.ok ? fillName(read.value, example[timing]) : read;
}

/**
 * Whether a plan is sound: parents stand before their children and are made as often, patterns can be read and give a name,
 * and no two folders beside each other get the same one. The field at fault is `folders.3.pattern`.
 */
export function checkPlan(plan: FilingPlan): Result<FilingPlan> {
  if (plan.folders.length > maxPlanned)
    return bad(invalidField('folders', `A plan has at most ${maxPlanned} folders.`));
  const before = new Map<string, PlannedFolder>();
  const names = new Set<string>();
  for (const [at, folder] of plan.folders.entries()) {
    const field = `folders.${at}.pattern`;
    const parent = folder.parentId === null ? null : before.get(folder.parentId);
    if (before.has(folder.id) || parent === undefined)
      return bad(invalidField(field, 'The folders of the plan do not hang together. Load it again.'));
    if (parent && parent.timing !== folder.timing)
      return bad(invalidField(field, 'A folder in another is made as often as that one.'));
    const read = readNamePattern(folder.pattern, folder.timing, field);
    if (!read.ok) return read;
    const name = fillName(read.value, example[folder.timing]);
    if (!name.ok) return bad(invalidField(field, 'Nothing comes of this name. A folder needs a visible one.'));
    const key = `${folder.parentId ?? (folder.timing === 'once' ? '' : 'year')} ${nameKey(name.value)}`;
    if (names.has(key))
      return bad(invalidField(field, `Two folders beside each other would be called “${name.value}”.`));
    names.add(key);
    before.set(folder.id, folder);
  }
  return good(plan);
}
