import type { Readable } from 'node:stream';
import { DataStore, ERRORS, Upload } from '@tus/server';
import { eq } from 'drizzle-orm';
import { db } from '../db/client';
import { upload } from '../db/schema';
import { receive } from './receive';

/**
 * The tus server's view of our uploads. The rows are made by `startUpload` before the server asks for them, so
 * `create` has nothing left to do.
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
