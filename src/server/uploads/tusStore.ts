import type { Readable } from 'node:stream';
import { DataStore, ERRORS, Upload } from '@tus/server';
import { eq } from 'drizzle-orm';
import { db } from '../db/client';
import { upload } from '../db/schema';
import { receive } from './receive';

/**
 * Our uploads as a store of the tus server. `startUpload` makes the rows beforehand, so `create` does nothing.
 */
export class UploadStore extends DataStore {
  constructor() {
    super();
    this.extensions = ['creation'];
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
    const [found] = await db().select().from(upload).where(eq(upload.id, id));
    if (!found) throw ERRORS.FILE_NOT_FOUND;
    return receive(found, offset, stream);
  }
}
