import { nameKey } from '../text/fold';
import type { WantedFolder } from './expand';

/** A folder of a dossier as it is, whoever made it. */
export interface RealFolder {
  readonly id: string;
  /** The folder it stands in; null in the dossier itself, or in the place of its filing year. */
  readonly parentId: string | null;
  readonly startYear: number | null;
  readonly name: string;
  /** The key of the wanted folder that it was made as; null where a person made it. */
  readonly key: string | null;
  /** The name that the plan last gave it; a person may have renamed it since. */
  readonly plannedName: string | null;
  /** Whether nothing is in it or below: no paper, no folder that a person made. */
  readonly empty: boolean;
  /** Whether it lies in a closed year or place: then nothing is done with it. */
  readonly still: boolean;
}

/** What makes a dossier what its plan says. Parents come before what is made in them. */
export interface PlanDifference {
  readonly add: readonly WantedFolder[];
  /** Folders that are there already under the name, and become the plan's. */
  readonly adopt: readonly { readonly id: string; readonly wanted: WantedFolder }[];
  readonly rename: readonly { readonly id: string; readonly from: string; readonly wanted: WantedFolder }[];
  /** The plan has them elsewhere now. `parentKey` null: in the dossier, or in its year's place. */
  readonly move: readonly { readonly id: string; readonly name: string; readonly wanted: WantedFolder }[];
  /** Empty folders that the plan has no more. */
  readonly remove: readonly RealFolder[];
  /** Folders with something in them, that the plan has no more: they stay, as a person's own. */
  readonly leave: readonly RealFolder[];
  /** What the plan wants in, or of, a folder that is closed or locked: nothing is done there. */
  readonly closed: readonly WantedFolder[];
}

/**
 * The difference between what a dossier ought to have and what it has. No paper ever loses its place by it: only empty
 * folders go. Names that a person gave stay. What is closed is left as it is.
 */
export function planDifference(wanted: readonly WantedFolder[], real: readonly RealFolder[]): PlanDifference {
  const byKey = new Map(real.flatMap((folder) => (folder.key === null ? [] : [[folder.key, folder] as const])));
  const known = wanted.map((each) => byKey.get(each.key));
  const matched = new Set(known);
  const free = real.filter((folder) => !matched.has(folder));
  const idOf = new Map<string, string>();
  const used = new Set<string>();
  const add: WantedFolder[] = [];
  const adopt: PlanDifference['adopt'][number][] = [];
  const rename: PlanDifference['rename'][number][] = [];
  const move: PlanDifference['move'][number][] = [];
  const closed = new Map<string, WantedFolder>();
  for (const [at, each] of wanted.entries()) {
    const parentId = each.parentKey === null ? null : (idOf.get(each.parentKey) ?? undefined);
    const there = known[at] ?? byName(free, each, parentId);
    if (there?.still || (each.parentKey !== null && closed.has(each.parentKey))) {
      closed.set(each.key, each);
      if (there) {
        idOf.set(each.key, there.id);
        used.add(there.id);
      }
      continue;
    }
    if (!there) {
      add.push(each);
      continue;
    }
    idOf.set(each.key, there.id);
    used.add(there.id);
    if (there.key !== each.key) adopt.push({ id: there.id, wanted: each });
    else if (there.plannedName === there.name && there.name !== each.name)
      rename.push({ id: there.id, from: there.name, wanted: each });
    if (parentId !== there.parentId || each.startYear !== there.startYear)
      move.push({ id: there.id, name: there.name, wanted: each });
  }
  const gone = real.filter((folder) => folder.key !== null && !used.has(folder.id) && !folder.still);
  // A folder that is kept keeps all above it: what is moved out of it is not in it.
  const moved = new Set(move.map((each) => each.id));
  const holds = (folder: RealFolder): boolean =>
    !folder.empty ||
    real.some((inner) => inner.parentId === folder.id && !moved.has(inner.id) && (used.has(inner.id) || holds(inner)));
  return {
    add,
    adopt,
    rename,
    move,
    remove: gone.filter((folder) => !holds(folder)),
    leave: gone.filter(holds),
    closed: [...closed.values()],
  };
}

/** A folder of a person's own, or of the plan's no more, that stands where the wanted one would, under its name. */
function byName(
  real: readonly RealFolder[],
  wanted: WantedFolder,
  parentId: string | null | undefined,
): RealFolder | undefined {
  if (parentId === undefined) return undefined;
  return real.find(
    (folder) =>
      folder.parentId === parentId &&
      folder.startYear === wanted.startYear &&
      nameKey(folder.name) === nameKey(wanted.name),
  );
}

export const nothingToDo = (difference: PlanDifference): boolean =>
  difference.add.length +
    difference.adopt.length +
    difference.rename.length +
    difference.move.length +
    difference.remove.length +
    difference.leave.length ===
  0;
