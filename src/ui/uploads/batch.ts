import { del, get, set } from 'idb-keyval';
import type { QueueItem } from '@/core/uploads/queue';

/** Where the browser keeps it: one batch, of whoever uses this browser. */
const batchKey = 'embrin-batch';

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
export async function rememberBatch(
  entries: readonly { readonly item: QueueItem; readonly file: File }[],
): Promise<void> {
  const going = entries.filter(({ item }) => item.state === 'waiting');
  const [first] = going;
  if (!first) return;
  const before = await batchLeft();
  const items = new Map(before?.items);
  for (const { item, file } of going) items.set(markOf(file, item.relativePath), item);
  await set(batchKey, { placeName: first.item.placeName, items } satisfies Batch).catch(() => undefined);
}

/** Forgets them, once all are over or the person wants to hear no more of them. */
export const forgetBatch = (): Promise<void> => del(batchKey).catch(() => undefined);

/** What is remembered; null if nothing is. */
export async function batchLeft(): Promise<Batch | null> {
  return (await get<Batch>(batchKey).catch(() => undefined)) ?? null;
}
