import { Upload, type DetailedError } from 'tus-js-client';
import { issue, type Issue } from '@/core/errors/issue';
import { fromProblem } from '@/core/errors/problem';
import { Refusal } from '@/core/errors/refusal';
import type { UploadOutcome } from '@/core/uploads/model';
import { nextQueue, type QueueEvent, type QueueItem } from '@/core/uploads/queue';
import { call } from '../server/call';
import { signedInAgain } from '../server/signedOut';
import { fileHash } from './fileHash';

/** How many files are on their way at a time: more would only share the same line. */
const atATime = 2;
const retryDelays = [0, 1000, 2000, 4000, 8000, 15_000];

/**
 * The files on their way in: what is known of each is the reducer's in core; here is what moves them: the
 * hash, the tus client, the server's answer. Lives outside React, so that no screen's coming and going stops it.
 */
export class UploadQueue {
  readonly #onFiled: () => void;
  readonly #files = new Map<string, File>();
  readonly #then = new Map<string, (documentId: string) => void>();
  readonly #running = new Map<string, Upload | null>();
  readonly #listeners = new Set<() => void>();
  #queue: readonly QueueItem[] = [];

  constructor(onFiled: () => void) {
    this.#onFiled = onFiled;
  }

  readonly items = (): readonly QueueItem[] => this.#queue;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  #tell(event: QueueEvent): void {
    this.#queue = nextQueue(this.#queue, event);
    for (const listener of this.#listeners) listener();
  }

  #item = (key: string): QueueItem | undefined => this.#queue.find((item) => item.key === key);

  /** Adds files with what is known of them; those refused already come only to be named. `then` is told of each paper filed. */
  add(
    entries: readonly { readonly item: QueueItem; readonly file: File }[],
    then?: (documentId: string) => void,
  ): void {
    for (const { item, file } of entries) {
      this.#files.set(item.key, file);
      if (then) this.#then.set(item.key, then);
    }
    this.#tell({ type: 'added', items: entries.map(({ item }) => item) });
    this.#pump();
  }

  clear(): void {
    this.#tell({ type: 'cleared' });
  }

  retry(key: string): void {
    this.#tell({ type: 'retried', key });
    this.#pump();
  }

  async cancel(key: string): Promise<void> {
    const item = this.#item(key);
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
    const uploadId = this.#item(key)?.uploadId;
    if (!uploadId) return;
    try {
      this.#settle(key, await call('upload.answer', { uploadId, ...answers }));
    } catch (error) {
      this.#tell({ type: 'interrupted', key, issue: issueOf(error) });
    }
  }

  /** Sends all that is not filed yet to another place. */
  async redirect(place: { readonly id: string; readonly name: string }): Promise<void> {
    const under = this.#queue.filter((item) => !['filed', 'refused', 'cancelled', 'left-out'].includes(item.state));
    const uploadIds = under.flatMap((item) => item.uploadId ?? []);
    if (uploadIds.length > 0) await call('upload.redirect', { uploadIds, placeId: place.id });
    this.#tell({ type: 'redirected', placeId: place.id, placeName: place.name });
  }

  #release(key: string): void {
    this.#running.delete(key);
    this.#pump();
  }

  #pump(): void {
    for (const item of this.#queue) {
      if (this.#running.size >= atATime) return;
      if (item.state === 'waiting' && !this.#running.has(item.key)) void this.#send(item.key);
    }
  }

  async #send(key: string): Promise<void> {
    const file = this.#files.get(key);
    if (!file) return;
    this.#running.set(key, null);
    this.#tell({ type: 'started', key, state: 'reading' });
    const sha256 = await fileHash(file);
    const item = this.#item(key);
    if (!item || item.state === 'cancelled') return this.#release(key);
    if (sha256 === null) {
      this.#tell({
        type: 'interrupted',
        key,
        issue: issue('fault', 'The file can no longer be read on this computer. Choose it again.'),
      });
      return this.#release(key);
    }
    const upload = new Upload(file, {
      endpoint: '/api/uploads',
      retryDelays,
      metadata: metadataOf(item, sha256),
      removeFingerprintOnSuccess: true,
      // The same file, by name, size, time and content, is gone on with where it broke off, also after a reload.
      fingerprint: () => Promise.resolve(`embrin-${file.name}-${file.size}-${file.lastModified}-${sha256}`),
      onUploadUrlAvailable: () => this.#tell({ type: 'known', key, uploadId: idIn(upload.url) }),
      onProgress: (sentBytes) => this.#tell({ type: 'progressed', key, sentBytes, atMs: performance.now() }),
      onShouldRetry: (error) => {
        const status = error.originalResponse?.getStatus() ?? 0;
        return status === 0 || status >= 500 || status === 409 || status === 423;
      },
      onError: (error) => void this.#failed(key, error),
      onSuccess: () => void this.#arrived(key),
    });
    this.#running.set(key, upload);
    const [before] = await upload.findPreviousUploads();
    if (before) {
      upload.resumeFromPreviousUpload(before);
      await call('upload.redirect', { uploadIds: [idIn(before.uploadUrl)], placeId: item.placeId }).catch(
        () => undefined,
      );
    }
    if (this.#item(key)?.state === 'cancelled') return this.#release(key);
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
    const told = response
      ? problemIn(response.getBody())
      : issue('unavailable', 'The connection was lost. What has arrived is kept; continue when it is back.');
    const lasting = status === 413 || status === 415 || status === 422 || status === 403 || status === 404;
    this.#tell({ type: lasting ? 'refused' : 'interrupted', key, issue: told });
    this.#release(key);
  }

  async #arrived(key: string): Promise<void> {
    this.#tell({ type: 'started', key, state: 'checking' });
    const uploadId = this.#item(key)?.uploadId;
    try {
      if (uploadId) this.#settle(key, await call('upload.outcome', { uploadId }));
    } catch (error) {
      this.#tell({ type: 'interrupted', key, issue: issueOf(error) });
    }
    this.#release(key);
  }

  #settle(key: string, outcome: UploadOutcome): void {
    switch (outcome.state) {
      case 'filed':
        this.#tell({ type: 'filed', key, documentId: outcome.documentId, placeId: outcome.placeId });
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

const idIn = (url: string | null): string => url?.split('/').at(-1) ?? '';

function metadataOf(item: QueueItem, sha256: string): Record<string, string> {
  const { placeId, fileName, title, note, relativePath, onSameName } = item;
  return {
    placeId,
    fileName,
    title,
    sha256,
    ...(note === '' ? {} : { note }),
    ...(relativePath === '' ? {} : { relativePath }),
    ...(onSameName === null ? {} : { onSameName }),
  };
}

function problemIn(body: string): Issue {
  try {
    return fromProblem(JSON.parse(body));
  } catch {
    return issue('fault', 'The server refused this part. What has arrived is kept; try again.');
  }
}

const issueOf = (error: unknown): Issue => (error instanceof Refusal ? error.issue : issue('fault'));
