import type { PlanTiming } from './namePattern';
import type { PlannedFolder } from './plan';
import type { ReadyFolder } from './readyPlans';

/**
 * Edits of a plan in the editor. Each takes and returns folders in depth-first order.
 */
type Folders = readonly PlannedFolder[];

const isWithin = (folders: Folders, id: string, topId: string): boolean => {
  for (let at = folders.find((each) => each.id === id); at; at = folders.find((each) => each.id === at?.parentId))
    if (at.id === topId) return true;
  return false;
};

/** A folder and everything in it, in order. */
const branch = (folders: Folders, id: string): Folders => folders.filter((each) => isWithin(folders, each.id, id));

/** The depth of a folder in the plan; 0 at the top. */
export function planDepth(folders: Folders, id: string): number {
  const parentId = folders.find((each) => each.id === id)?.parentId ?? null;
  return parentId === null ? 0 : planDepth(folders, parentId) + 1;
}

/** Adds a folder at the end of another, or at the end of the top level of its timing. */
export function addPlanned(
  folders: Folders,
  made: {
    readonly id: string;
    readonly parentId: string | null;
    readonly timing: PlanTiming;
    readonly pattern: string;
  },
): Folders {
  const { parentId } = made;
  const last =
    parentId === null
      ? folders.findLastIndex((each) => each.timing === made.timing)
      : folders.findLastIndex((each) => isWithin(folders, each.id, parentId));
  return last < 0 ? [...folders, made] : [...folders.slice(0, last + 1), made, ...folders.slice(last + 1)];
}

/** Gives one planned folder another name pattern. */
export const renamePlanned = (folders: Folders, id: string, pattern: string): Folders =>
  folders.map((each) => (each.id === id ? { ...each, pattern } : each));

/** Removes a folder and everything in it. */
export function removePlanned(folders: Folders, id: string): Folders {
  const gone = new Set(branch(folders, id).map((each) => each.id));
  return folders.filter((each) => !gone.has(each.id));
}

/** Moves a folder, with everything in it, before or after its neighbour. */
export function shiftPlanned(folders: Folders, id: string, by: -1 | 1): Folders {
  const folder = folders.find((each) => each.id === id);
  if (!folder) return folders;
  const beside = folders.filter((each) => each.parentId === folder.parentId && each.timing === folder.timing);
  const other = beside[beside.indexOf(folder) + by];
  if (!other) return folders;
  const moved = branch(folders, id);
  const rest = folders.filter((each) => !moved.includes(each));
  const around = branch(rest, other.id);
  const edge = around.at(by < 0 ? 0 : -1);
  const at = rest.findIndex((each) => each.id === edge?.id) + (by < 0 ? 0 : 1);
  return [...rest.slice(0, at), ...moved, ...rest.slice(at)];
}

/** Copies a ready-made plan. @param makeId returns a new id each time */
export function fromReady(ready: readonly ReadyFolder[], makeId: () => string): Folders {
  return ready.flatMap(({ pattern, timing, within = [] }) => {
    const id = makeId();
    return [
      { id, parentId: null, timing, pattern },
      ...within.map((inner) => ({ id: makeId(), parentId: id, timing, pattern: inner })),
    ];
  });
}
