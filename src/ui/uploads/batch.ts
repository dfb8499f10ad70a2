import { del, get, update } from 'idb-keyval';
import type { QueueItem } from '@/core/uploads/queue';

/** Where the browser keeps it: one for each person, for several may use one browser. The number is of what is kept of a file. */
const batchKey = (personId: string): string => `embrin-batch-4-${personId}`;

const lockName = (personId: string): string => `embrin-filing-${personId}`;

/** Shows other windows that this one files for a person, until it is over or the window is gone (Web Locks). */
export function whileFiling(personId: string, over: Promise<void>): void {
  // There are none where the page does not come from this computer or by HTTPS.
  if ('locks' in navigator) void navigator.locks.request(lockName(personId), { mode: 'shared' }, () => over);
}

/** Whether some window files for a person. */
export async function isBeingFiled(personId: string): Promise<boolean> {
  if (!('locks' in navigator)) return false;
  const { held = [] } = await navigator.locks.query();
  return held.some((lock) => lock.name === lockName(personId));
}

/** Files that were on their way when the page was closed. A file itself cannot be kept: it has to be chosen again. */
export interface Batch {
  readonly placeName: string;
  /** By what a file chosen again is known (`markOf`). */
  readonly items: ReadonlyMap<string, QueueItem>;
}

/** By what a file is recognised: its folders, name, size and when it was changed. */
export const markOf = (file: File, relativePath: string): string =>
  [relativePath, file.name, file.size, file.lastModified].join('\n');

/** Remembers files that begin their way, beside those remembered already. Nothing is remembered where the browser keeps nothing. */
export async function rememberFiles(
  personId: string,
  entries: readonly { readonly item: QueueItem; readonly file: File }[],
): Promise<void> {
  const going = entries.filter(({ item }) => item.state === 'waiting');
  const [first] = going;
  if (!first) return;
  await update<Batch>(batchKey(personId), (before) => {
    const items = new Map(before?.items);
    for (const { item, file } of going) items.set(markOf(file, item.relativePath), item);
    return { placeName: first.item.placeName, items };
  }).catch(() => undefined);
}

/** Forgets files that are over; others, of a batch that was broken off before, stay remembered. */
export async function forgetFiles(personId: string, keys: ReadonlySet<string>): Promise<void> {
  const before = await batchLeft(personId);
  if (!before) return;
  await update<Batch>(batchKey(personId), (now = before) => ({
    ...now,
    items: new Map([...now.items].filter(([, item]) => !keys.has(item.key))),
  })).catch(() => undefined);
}

/** Forgets all of them: the person wants to hear no more of it, or has signed out. */
export const forgetBatch = (personId: string): Promise<void> => del(batchKey(personId)).catch(() => undefined);

/** What is remembered; null if nothing is. */
export async function batchLeft(personId: string): Promise<Batch | null> {
  const batch = await get<Batch>(batchKey(personId)).catch(() => undefined);
  return batch && batch.items.size > 0 ? batch : null;
}
