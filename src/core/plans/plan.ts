import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { nameKey } from '../text/fold';
import { fillName, readNamePattern, type NameFacts, type PlanTiming } from './namePattern';

/**
 * A planned folder. It lies in the dossier (`once`), in each filing year's place (`year`), or in the place of a meeting's
 * year (`meeting`); with a parent, in the parent's folders.
 */
export interface PlannedFolder {
  readonly id: string;
  /** Another planned folder with the same timing; null at the top. */
  readonly parentId: string | null;
  readonly timing: PlanTiming;
  readonly pattern: string;
}

/** The folders of each dossier of a series, in order, parents first. */
export interface FilingPlan {
  /** Whether dossiers have a place for each filing year. Where they have none, everything is made once. */
  readonly byYear: boolean;
  readonly folders: readonly PlannedFolder[];
}

/** Said of a folder or paper that is wanted in each year or for each meeting where there are no years. */
export const notByYear = 'The dossiers of this series are not filed by year, so this can only be in each dossier once.';
/** The most folders of one plan. */
export const maxPlanned = 300;

/** An example dossier, for the editor and for refusals. */
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

/** The name of a planned folder in the example, for a preview while typing. */
export function exampleName(pattern: string, timing: PlanTiming): Result<string> {
  const read = readNamePattern(pattern, timing);
  return read.ok ? fillName(read.value, example[timing]) : read;
}

/**
 * Checks a plan: parents come before their children and have the same timing, patterns are valid and give names, and
 * siblings get different names. An error names the field, as in `folders.3.pattern`.
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
    if (!plan.byYear && folder.timing !== 'once') return bad(invalidField(field, notByYear));
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
