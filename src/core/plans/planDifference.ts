import { nameKey } from '../text/fold';
import type { WantedFolder } from './expand';

/** An existing folder of a dossier. */
export interface RealFolder {
  readonly id: string;
  /** Its parent folder; null in the dossier itself, or in the place of its filing year. */
  readonly parentId: string | null;
  readonly startYear: number | null;
  readonly name: string;
  /** The key of the wanted folder it was made for; null if a person made it. */
  readonly key: string | null;
  /** The name the plan last gave it, which a person may have changed since. */
  readonly plannedName: string | null;
  /** Whether it contains no papers and no folders made by a person. */
  readonly empty: boolean;
  /** Whether it lies in a closed year or place, and so is left alone. */
  readonly still: boolean;
}

/** The steps that make a dossier agree with its plan. Parents come before children. */
export interface PlanDifference {
  readonly add: readonly WantedFolder[];
  /** Existing folders with a wanted name, which become the plan's. */
  readonly adopt: readonly { readonly id: string; readonly wanted: WantedFolder }[];
  readonly rename: readonly { readonly id: string; readonly from: string; readonly wanted: WantedFolder }[];
  /** Folders that the plan has elsewhere now. `parentKey` null: in the dossier, or in its year's place. */
  readonly move: readonly { readonly id: string; readonly name: string; readonly wanted: WantedFolder }[];
  /** Empty folders that the plan no longer has. */
  readonly remove: readonly RealFolder[];
  /** Folders with contents that the plan no longer has: they stay, no longer tied to the plan. */
  readonly leave: readonly RealFolder[];
  /** Wanted folders in, or matching, a closed or locked folder: nothing is done there. */
  readonly closed: readonly WantedFolder[];
}

/**
 * The difference between the folders a dossier should have and those it has. Removes only empty folders, keeps names that
 * a person gave, and leaves closed places alone.
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
  // A folder that stays, because it is wanted, in use or locked, keeps its ancestors; folders moved out do not count.
  const moved = new Set(move.map((each) => each.id));
  const holds = (folder: RealFolder): boolean =>
    !folder.empty ||
    real.some(
      (inner) =>
        inner.parentId === folder.id && !moved.has(inner.id) && (used.has(inner.id) || inner.still || holds(inner)),
    );
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

/** A folder not tied to the plan, in the wanted folder's position and with its name. */
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

/** Whether a dossier agrees with its plan already. */
export const nothingToDo = (difference: PlanDifference): boolean =>
  difference.add.length +
    difference.adopt.length +
    difference.rename.length +
    difference.move.length +
    difference.remove.length +
    difference.leave.length ===
  0;
