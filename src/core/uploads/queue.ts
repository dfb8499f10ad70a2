import type { Cells } from '../archives/lists';
import type { Issue } from '../errors/issue';
import type { SameContentPlace, SameName } from './model';
import { withReading, type Reading } from './pace';

/** The state of a file in the queue. `interrupted` waits for a retry; `lost` for its file to be chosen again. */
export type QueueState =
  | 'waiting'
  | 'reading'
  | 'sending'
  | 'checking'
  | 'asking'
  | 'filed'
  | 'refused'
  | 'interrupted'
  | 'lost'
  | 'cancelled'
  | 'left-out';

/** One file on its way in. */
export interface QueueItem {
  readonly key: string;
  /** The upload's id at the server, once it has one. */
  readonly uploadId: string | null;
  readonly fileName: string;
  readonly sizeBytes: number;
  readonly sentBytes: number;
  readonly placeId: string;
  readonly placeName: string;
  readonly relativePath: string;
  readonly title: string;
  readonly remark: string;
  readonly onSameName: SameName | null;
  /** The paper of which it is to be the next version; null for a paper of its own. */
  readonly versionOf: string | null;
  /** Values that it gets when it is filed, as text by the names of their columns. */
  readonly cells: Cells;
  /** Which of them could not be taken over, and why: a sentence for each. */
  readonly notSet: readonly string[];
  /** Colleagues who are told once all files are filed, by id. */
  readonly tell: readonly string[];
  readonly state: QueueState;
  readonly issue: Issue | null;
  readonly sameContent: readonly SameContentPlace[];
  readonly documentId: string | null;
  readonly readings: readonly Reading[];
}

/** What can happen to the queue. */
export type QueueEvent =
  | { readonly type: 'added'; readonly items: readonly QueueItem[] }
  | { readonly type: 'started'; readonly key: string; readonly state: 'reading' | 'sending' | 'checking' }
  | { readonly type: 'known'; readonly key: string; readonly uploadId: string }
  | { readonly type: 'progressed'; readonly key: string; readonly sentBytes: number; readonly atMs: number }
  | {
      readonly type: 'filed';
      readonly key: string;
      readonly documentId: string;
      readonly placeId: string;
      readonly notSet?: readonly string[] | undefined;
    }
  | { readonly type: 'asked'; readonly key: string; readonly sameContent: readonly SameContentPlace[] }
  | { readonly type: 'refused'; readonly key: string; readonly issue: Issue }
  | { readonly type: 'interrupted'; readonly key: string; readonly issue: Issue }
  | { readonly type: 'retried'; readonly key: string }
  | { readonly type: 'paused'; readonly key: string }
  | { readonly type: 'cancelled'; readonly key: string }
  | { readonly type: 'leftOut'; readonly key: string }
  | { readonly type: 'redirected'; readonly placeId: string; readonly placeName: string }
  | { readonly type: 'cleared' };

const under: ReadonlySet<QueueState> = new Set(['waiting', 'reading', 'sending', 'checking']);
const over: ReadonlySet<QueueState> = new Set(['filed', 'refused', 'cancelled', 'left-out']);
/** Whether a file is being sent or filed. */
export const isUnderWay = (item: QueueItem): boolean => under.has(item.state);
/** Whether nothing more happens to a file by itself. */
export const isOver = (item: QueueItem): boolean => over.has(item.state);

/**
 * The files of a queue, in the order in which they came. What an event costs does not depend on how many they are, but for
 * those that concern all of them. Events for files that are over change nothing.
 */
export class FileQueue {
  readonly #items = new Map<string, QueueItem>();
  readonly #waiting = new Set<string>();

  get(key: string): QueueItem | undefined {
    return this.#items.get(key);
  }

  items(): readonly QueueItem[] {
    return [...this.#items.values()];
  }

  /** The file whose turn it is; undefined if none waits. */
  nextWaiting(): QueueItem | undefined {
    const [key] = this.#waiting;
    return key === undefined ? undefined : this.#items.get(key);
  }

  apply(event: QueueEvent): void {
    switch (event.type) {
      case 'added':
        for (const item of event.items) if (!this.#items.has(item.key)) this.#set(item);
        return;
      case 'cleared':
        for (const item of this.items()) if (isOver(item)) this.#items.delete(item.key);
        return;
      case 'redirected':
        for (const item of this.items())
          if (!isOver(item)) this.#set({ ...item, placeId: event.placeId, placeName: event.placeName });
        return;
      default: {
        const item = this.#items.get(event.key);
        if (item) this.#set(nextItem(item, event));
      }
    }
  }

  #set(item: QueueItem): void {
    this.#items.set(item.key, item);
    if (item.state === 'waiting') this.#waiting.add(item.key);
    else this.#waiting.delete(item.key);
  }
}

type ItemEvent = Extract<QueueEvent, { key: string }>;

function nextItem(item: QueueItem, event: ItemEvent): QueueItem {
  if (event.type === 'retried') {
    const mayRetry = item.state === 'interrupted' || item.state === 'cancelled' || item.state === 'refused';
    return mayRetry ? { ...item, state: 'waiting', issue: null, readings: [] } : item;
  }
  if (isOver(item)) return item;
  switch (event.type) {
    case 'started':
      return { ...item, state: event.state };
    case 'known':
      return { ...item, uploadId: event.uploadId };
    case 'progressed':
      return {
        ...item,
        sentBytes: Math.min(event.sentBytes, item.sizeBytes),
        readings: withReading(item.readings, { atMs: event.atMs, bytes: event.sentBytes }),
      };
    case 'filed':
      return {
        ...item,
        state: 'filed',
        sentBytes: item.sizeBytes,
        documentId: event.documentId,
        placeId: event.placeId,
        notSet: event.notSet ?? [],
      };
    case 'asked':
      return { ...item, state: 'asking', sameContent: event.sameContent };
    case 'refused':
      return { ...item, state: 'refused', issue: event.issue };
    case 'interrupted':
      return { ...item, state: 'interrupted', issue: event.issue };
    case 'paused':
      return item.state === 'reading' || item.state === 'sending' ? { ...item, state: 'waiting', readings: [] } : item;
    case 'cancelled':
      return { ...item, state: 'cancelled' };
    case 'leftOut':
      return { ...item, state: 'left-out' };
  }
}

/** Whether somebody has to look at a file: it was not filed, or not all of its values were taken over. */
export const needsLook = ({ state, notSet }: QueueItem): boolean =>
  ['asking', 'interrupted', 'lost', 'refused'].includes(state) || notSet.length > 0;

/** Totals of the queue: files filed, bytes sent, whether anything is in progress. */
export function queueTotals(queue: readonly QueueItem[]) {
  const counting = queue.filter(
    (item) => item.state !== 'cancelled' && item.state !== 'left-out' && item.state !== 'refused',
  );
  return {
    files: queue.length,
    filed: queue.filter((item) => item.state === 'filed').length,
    needing: queue.filter(needsLook).length,
    underWay: queue.filter(isUnderWay).length,
    sentBytes: counting.reduce((sum, item) => sum + item.sentBytes, 0),
    sizeBytes: counting.reduce((sum, item) => sum + item.sizeBytes, 0),
  };
}
