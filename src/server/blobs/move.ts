import { and, asc, count, eq, gt, ne, sql } from 'drizzle-orm';
import type { StoreName } from '@/core/content/model';
import { Refusal } from '@/core/errors/refusal';
import { db, writableDb } from '../db/client';
import { blob, library, upload } from '../db/schema';
import { apart } from '../db/transaction';
import { isUnfinished } from '../db/unfinished';
import { contentColumns, readContent, storeOf } from './content';
import { makeDirectory, removeKept } from './directory';
import { runningFingerprint } from './fingerprint';

/** How far moving has come, or how it ended. */
export interface Moved {
  readonly contents: number;
  readonly bytes: number;
  /** Contents left where they were, because they are not what was filed. */
  readonly damaged: number;
}

/**
 * Takes all content of the library to a store, and has what comes in stored there from the first moment on. Readers and
 * filing go on meanwhile. Each content is one transaction: broken off at any moment, nothing is lost, and a repeat goes on.
 * @param told called after each content.
 */
export async function moveContent(to: StoreName, told: (moved: Moved) => void): Promise<Moved> {
  if (to === 'directory') await makeDirectory();
  await writableDb().update(library).set({ contentStore: to });
  let moved: Moved = { contents: 0, bytes: 0, damaged: 0 };
  for (let after = ''; ;) {
    const [next] = await db()
      .select({ sha256: blob.sha256 })
      .from(blob)
      .where(and(ne(blob.store, to), gt(blob.sha256, after)))
      .orderBy(asc(blob.sha256))
      .limit(1);
    if (!next) return moved;
    after = next.sha256;
    const bytes = await moveOne(next.sha256, to);
    moved =
      bytes === null
        ? { ...moved, damaged: moved.damaged + 1 }
        : { ...moved, contents: moved.contents + 1, bytes: moved.bytes + bytes };
    told(moved);
  }
}

/** Moves one content and verifies its hash on the way. Returns its size; null if it is not what was filed. */
async function moveOne(sha256: string, to: StoreName): Promise<number | null> {
  try {
    const from = await apart(async (tx) => {
      const [content] = await tx.select(contentColumns).from(blob).where(eq(blob.sha256, sha256)).for('no key update');
      if (!content || content.store === to) return null;
      const running = runningFingerprint(content.sizeBytes);
      try {
        await storeOf(to).put(tx, content, fingerprinted(readContent(content), running));
        const found = await running.finish();
        if (found.sha256 !== sha256) throw new NotWhatWasFiled();
        await storeOf(content.store).forget(tx, content.contentId);
        await tx
          .update(blob)
          .set({ store: to, pieceSums: content.pieceSums ?? found.pieceSums, damagedAt: null })
          .where(eq(blob.sha256, sha256));
      } finally {
        running.end();
      }
      return content;
    });
    if (from?.store === 'directory') await removeKept(sha256);
    return from?.sizeBytes ?? 0;
  } catch (error) {
    if (error instanceof NotWhatWasFiled) return null;
    if (error instanceof Refusal && error.issue.kind === 'damaged-content') return null;
    throw error;
  }
}

class NotWhatWasFiled extends Error {
  override readonly name = 'NotWhatWasFiled';
}

async function* fingerprinted(
  bytes: AsyncIterable<Buffer>,
  running: ReturnType<typeof runningFingerprint>,
): AsyncGenerator<Buffer, void, void> {
  for await (const part of bytes) {
    await running.update(part);
    yield part;
  }
}

/** How much content each store has, and how many uploads under way. */
export async function whereContentIs() {
  const [settings] = await db().select({ store: library.contentStore }).from(library);
  const contents = await db()
    .select({ store: blob.store, contents: count(), bytes: sql<number>`sum(${blob.sizeBytes})::float8` })
    .from(blob)
    .groupBy(blob.store);
  const uploads = await db()
    .select({ store: upload.store, uploads: count() })
    .from(upload)
    .where(isUnfinished)
    .groupBy(upload.store);
  return { store: settings?.store ?? null, contents, uploads };
}
