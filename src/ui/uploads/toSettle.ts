import type { InputOf } from '@/core/contract';
import type { QueueItem } from '@/core/uploads/queue';

/** What is said of complete uploads when they are filed: which, and the values that they get. */
export function toSettle(items: readonly Pick<QueueItem, 'key' | 'cells'>[]): InputOf<'uploads.settle'> {
  const withCells = items.filter(({ cells }) => Object.keys(cells).length > 0);
  return {
    uploadIds: items.map(({ key }) => key),
    ...(withCells.length > 0 ? { cells: Object.fromEntries(withCells.map(({ key, cells }) => [key, cells])) } : {}),
  };
}
