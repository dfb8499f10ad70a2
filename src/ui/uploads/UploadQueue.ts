import DataLoader from 'dataloader';
import { Upload, type DetailedError } from 'tus-js-client';
import type { OutputOf } from '@/core/contract';
import { issue, type Issue } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';
import type { KnownUpload, UploadOutcome } from '@/core/uploads/model';
import { withReading, type Reading } from '@/core/uploads/pace';
import { FileQueue, isOver, queueTotals, type QueueEvent, type QueueItem } from '@/core/uploads/queue';
import { call } from '../server/call';
import { signedInAgain } from '../server/signedOut';
import { fileHash } from './fileHash';
import { issueOfSending, mayRetry, retryDelays, smallBytes } from './sending';
import { forgetFiles, rememberFiles } from './batch';
import { toSettle } from './toSettle';
import { tellOthers } from './tellOthers';

/** How many small files are on their way at a time, and how many in all while a large one is: more would only share the line. */
const atATime = { small: 6, large: 2 } as const;
/** What is filed together: so many, or what has come within a time, which is shorter where nothing more is to come. */
const together = { most: 100, withinMs: 1000, lastWithinMs: 60 } as const;
/** What one question may name. */
const mostAsked = 1000;
/** The screen hears of changes at most this often. */
const toldEveryMs = 120;

/** A file with what is known of it. Its key is the id of its upload. */
export interface QueuedFile {
  readonly item: QueueItem;
  readonly file: File;
}

/**
 * The files on their way in: what is known of each is the queue's in core; here is what moves them: the hash, the tus client,
 * the server's answer. Lives outside React, so that no screen's coming and going stops it.
 */
export class UploadQueue {
  readonly #personId: string;
  readonly #onFiled: () => void;
  readonly #onTold: (told: OutputOf<'uploads.tell'> | Issue) => void;
  readonly #files = new Map<string, File>();
  readonly #then = new Map<string, (documentId: string) => void>();
  readonly #told = new Set<string>();
  readonly #running = new Map<string, Upload | null>();
  readonly #listeners = new Set<() => void>();
  readonly #queue = new FileQueue();
  #items: readonly QueueItem[] = [];
  #telling: ReturnType<typeof setTimeout> | null = null;
  #toldAt = 0;
  #pace: readonly Reading[] = [];
  #paused = false;

  /** Complete uploads are filed together, as far as they come together. */
  readonly #filing = new DataLoader<string, UploadOutcome>(
    async (uploadIds) => {
      const answers = await call('uploads.settle', toSettle(uploadIds.flatMap((key) => this.#queue.get(key) ?? [])));
      const byId = new Map(answers.map(({ uploadId, outcome }) => [uploadId, outcome]));
      return uploadIds.map((id) => byId.get(id) ?? new Refusal(issue('unavailable')));
    },
    {
      cache: false,
      maxBatchSize: together.most,
      batchScheduleFn: (file) =>
        setTimeout(file, this.#queue.nextWaiting() ? together.withinMs : together.lastWithinMs),
    },
  );

  /**
   * @param personId whose files they are.
   * @param onFiled called for each paper that was filed.
   * @param onTold called with what came of telling colleagues.
   */
  constructor(personId: string, onFiled: () => void, onTold: (told: OutputOf<'uploads.tell'> | Issue) => void) {
    this.#personId = personId;
    this.#onFiled = onFiled;
    this.#onTold = onTold;
  }

  readonly items = (): readonly QueueItem[] => this.#items;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  /** How many bytes of all files had been sent lately. */
  readonly pace = (): readonly Reading[] => this.#pace;

  get isPaused(): boolean {
    return this.#paused;
  }

  #tell(event: QueueEvent): void {
    this.#queue.apply(event);
    this.#telling ??= setTimeout(
      () => {
        this.#telling = null;
        this.#toldAt = performance.now();
        this.#items = this.#queue.items();
        const bytes = queueTotals(this.#items).sentBytes;
        this.#pace = this.#running.size === 0 ? [] : withReading(this.#pace, { atMs: this.#toldAt, bytes });
        for (const listener of this.#listeners) listener();
      },
      Math.max(0, this.#toldAt + toldEveryMs - performance.now()),
    );
  }

  /**
   * Adds files with what is known of them; those refused already come only to be named. `then` is told of each paper filed.
   * The batch is remembered on this computer until all of it is over, so that it can be gone on with.
   */
  add(entries: readonly QueuedFile[], then?: (documentId: string) => void): void {
    for (const { item, file } of entries) {
      this.#files.set(item.key, file);
      if (then) this.#then.set(item.key, then);
    }
    this.#tell({ type: 'added', items: entries.map(({ item }) => item) });
    void rememberFiles(this.#personId, entries).then(() => this.#forgetIfOver());
    this.#pump();
  }

  /** Adds files of a batch that was broken off: what the library has of them is not sent again. */
  async goOnWith(entries: readonly QueuedFile[]): Promise<void> {
    const known = new Map<string, KnownUpload>();
    for (let at = 0; at < entries.length; at += mostAsked) {
      const uploadIds = entries.slice(at, at + mostAsked).map(({ item }) => item.key);
      for (const each of await call('uploads.known', { uploadIds })) known.set(each.uploadId, each);
    }
    for (const { item, file } of entries) this.#files.set(item.key, file);
    const items = entries.map(({ item }) => {
      const uploadId = known.has(item.key) ? item.key : null;
      return { ...item, uploadId, sentBytes: known.get(item.key)?.receivedBytes ?? 0 };
    });
    this.#tell({ type: 'added', items });
    for (const { key, sizeBytes } of items) {
      const found = known.get(key);
      if (found?.outcome) this.#settle(key, found.outcome);
      else if (found && found.receivedBytes === sizeBytes) void this.#arrived(key);
    }
    this.#pump();
  }

  clear(): void {
    this.#tell({ type: 'cleared' });
  }

  /** Stops sending after what is being filed, until `resume`. */
  async pause(): Promise<void> {
    this.#paused = true;
    const running = [...this.#running];
    await Promise.all(running.map(([, upload]) => upload?.abort()));
    for (const [key] of running) {
      this.#tell({ type: 'paused', key });
      if (this.#queue.get(key)?.state === 'waiting') this.#running.delete(key);
    }
  }

  resume(): void {
    this.#paused = false;
    for (const { key, state } of this.#queue.items()) if (state === 'interrupted') this.#tell({ type: 'retried', key });
    this.#pump();
  }

  retry(key: string): void {
    this.#tell({ type: 'retried', key });
    this.#pump();
  }

  async cancel(key: string): Promise<void> {
    const item = this.#queue.get(key);
    await this.#running.get(key)?.abort();
    this.#tell({ type: 'cancelled', key });
    this.#release(key);
    if (item?.uploadId) await call('upload.cancel', { uploadId: item.uploadId }).catch(() => undefined);
  }

  /** Answers the question an upload waits for. */
  async answer(
    key: string,
    answers: { onSameName?: 'version' | 'both'; onSameContent?: 'file' | 'leave' },
  ): Promise<void> {
    const uploadId = this.#queue.get(key)?.uploadId;
    if (!uploadId) return;
    try {
      this.#settle(key, await call('upload.answer', { uploadId, ...answers, cells: this.#queue.get(key)?.cells }));
      this.#forgetIfOver();
    } catch (error) {
      this.#tell({ type: 'interrupted', key, issue: issueOf(error) });
    }
  }

  /** Sends all that is not filed yet to another place. */
  async redirect(place: { readonly id: string; readonly name: string }): Promise<void> {
    const uploadIds = this.#queue.items().flatMap((item) => (isOver(item) ? [] : (item.uploadId ?? [])));
    for (let at = 0; at < uploadIds.length; at += mostAsked)
      await call('upload.redirect', { uploadIds: uploadIds.slice(at, at + mostAsked), placeId: place.id });
    this.#tell({ type: 'redirected', placeId: place.id, placeName: place.name });
  }

  #release(key: string): void {
    this.#running.delete(key);
    this.#forgetIfOver();
    this.#pump();
  }

  #forgetIfOver(): void {
    if (this.#running.size > 0 || this.#queue.nextWaiting()) return;
    const items = this.#queue.items();
    if (!items.every((item) => isOver(item))) return;
    // Told first: if the page is closed just now, hearing twice is better than never.
    void this.#tellOthers(items).then(() => forgetFiles(this.#personId, new Set(items.map((item) => item.key))));
  }

  /** Tells colleagues of what was filed, in one message for all that they were to be told of. */
  async #tellOthers(items: readonly QueueItem[]): Promise<void> {
    const filed = items.filter(({ state, key, tell }) => state === 'filed' && tell.length > 0 && !this.#told.has(key));
    for (const { key } of filed) this.#told.add(key);
    try {
      for (const told of await tellOthers(filed)) this.#onTold(told);
    } catch (error) {
      this.#onTold(issueOf(error));
    }
  }

  #pump(): void {
    while (!this.#paused) {
      const item = this.#queue.nextWaiting();
      if (!item) return;
      const isLarge = item.sizeBytes > smallBytes || this.#isLargeRunning();
      if (this.#running.size >= (isLarge ? atATime.large : atATime.small)) return;
      this.#running.set(item.key, null);
      this.#tell({ type: 'started', key: item.key, state: 'reading' });
      void this.#send(item.key);
    }
  }

  #isLargeRunning(): boolean {
    for (const key of this.#running.keys()) if ((this.#queue.get(key)?.sizeBytes ?? 0) > smallBytes) return true;
    return false;
  }

  async #send(key: string): Promise<void> {
    const file = this.#files.get(key);
    const sha256 = file ? await fileHash(file) : null;
    const item = this.#queue.get(key);
    if (item?.state !== 'reading') return this.#release(key);
    if (!file || sha256 === null) {
      const says = 'The file can no longer be read on this computer. Choose it again.';
      this.#tell({ type: 'interrupted', key, issue: issue('fault', says) });
      return this.#release(key);
    }
    const isSmall = file.size <= smallBytes;
    const upload = new Upload(file, {
      endpoint: '/api/uploads',
      // An upload that the library knows is gone on with where it broke off; one that it does not know is begun.
      uploadUrl: item.uploadId !== null && !isSmall ? `/api/uploads/${key}` : null,
      uploadDataDuringCreation: isSmall,
      retryDelays,
      storeFingerprintForResuming: false,
      metadata: metadataOf(item, sha256),
      onUploadUrlAvailable: () => this.#tell({ type: 'known', key, uploadId: key }),
      onProgress: (sentBytes) => this.#tell({ type: 'progressed', key, sentBytes, atMs: performance.now() }),
      onShouldRetry: mayRetry,
      onError: (error) => void this.#failed(key, error),
      onSuccess: () => void this.#arrived(key),
    });
    this.#running.set(key, upload);
    this.#tell({ type: 'started', key, state: 'sending' });
    upload.start();
  }

  async #failed(key: string, error: Error | DetailedError): Promise<void> {
    const response = 'originalResponse' in error ? error.originalResponse : null;
    const status = response?.getStatus() ?? 0;
    if (status === 401 && (await signedInAgain())) {
      this.#running.get(key)?.start();
      return;
    }
    const told = issueOfSending(error);
    const lasting = status === 413 || status === 415 || status === 422 || status === 403 || status === 404;
    this.#tell({ type: lasting ? 'refused' : 'interrupted', key, issue: told });
    this.#release(key);
  }

  async #arrived(key: string): Promise<void> {
    this.#tell({ type: 'known', key, uploadId: key });
    this.#tell({ type: 'started', key, state: 'checking' });
    // The line is free for the next while this one is being filed.
    this.#running.delete(key);
    this.#pump();
    try {
      this.#settle(key, await this.#filing.load(key));
    } catch (error) {
      this.#tell({ type: 'interrupted', key, issue: issueOf(error) });
    }
    this.#forgetIfOver();
  }

  #settle(key: string, outcome: UploadOutcome): void {
    switch (outcome.state) {
      case 'filed':
        this.#tell({ type: 'filed', key, ...outcome });
        this.#files.delete(key);
        this.#then.get(key)?.(outcome.documentId);
        this.#then.delete(key);
        this.#onFiled();
        return;
      case 'same-content':
        return this.#tell({ type: 'asked', key, sameContent: outcome.places });
      case 'same-name':
        return this.#tell({ type: 'asked', key, sameContent: [] });
      case 'left-out':
        return this.#tell({ type: 'leftOut', key });
      case 'refused':
        return this.#tell({ type: 'refused', key, issue: outcome.issue });
      case 'receiving':
        return this.#tell({ type: 'interrupted', key, issue: issue('unavailable') });
    }
  }
}

function metadataOf(item: QueueItem, sha256: string): Record<string, string> {
  const { key, placeId, fileName, title, remark, relativePath, onSameName, versionOf } = item;
  return {
    id: key,
    filing: 'held',
    placeId,
    fileName,
    title,
    sha256,
    ...(remark === '' ? {} : { remark }),
    ...(relativePath === '' ? {} : { relativePath }),
    ...(onSameName === null ? {} : { onSameName }),
    ...(versionOf === null ? {} : { versionOf }),
  };
}

const issueOf = (error: unknown): Issue => (error instanceof Refusal ? error.issue : issue('fault'));
