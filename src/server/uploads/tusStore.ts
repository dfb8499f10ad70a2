import type { Readable } from 'node:stream';
import { DataStore, ERRORS, Upload } from '@tus/server';
import { eq } from 'drizzle-orm';
import { db } from '../db/client';
import { upload } from '../db/schema';
import { receive } from './receive';
import type { UploadRow } from './settle';

/** Uploads whose first bytes come with the request that began them: their row need not be read again. */
const begun = new Map<string, UploadRow>();

/** More than these are not remembered: requests that broke off before their first byte leave theirs behind. */
const mostBegun = 200;

/** Has the store know an upload that this request has begun. */
export function noteBegun(row: UploadRow): void {
  if (begun.size >= mostBegun) begun.clear();
  begun.set(row.id, row);
}

/**
 * Our uploads as a store of the tus server. `startUpload` makes the rows beforehand, so `create` does nothing.
 */
export class UploadStore extends DataStore {
  constructor() {
    super();
    this.extensions = ['creation', 'creation-with-upload'];
  }

  override create(made: Upload): Promise<Upload> {
    return Promise.resolve(made);
  }

  override async getUpload(id: string): Promise<Upload> {
    const [found] = await db().select().from(upload).where(eq(upload.id, id));
    if (!found) throw ERRORS.FILE_NOT_FOUND;
    return new Upload({ id, size: found.sizeBytes, offset: found.receivedBytes });
  }

  override async write(stream: Readable, id: string, offset: number): Promise<number> {
    const [found] = begun.has(id) ? [begun.get(id)] : await db().select().from(upload).where(eq(upload.id, id));
    begun.delete(id);
    if (!found) throw ERRORS.FILE_NOT_FOUND;
    // Begun a second time after the answer to the first was lost: all of it is here.
    if (offset === 0 && found.receivedBytes === found.sizeBytes) return found.sizeBytes;
    return receive(found, offset, stream);
  }
}
