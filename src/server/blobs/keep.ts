import { pieceBytes } from '@/core/content/model';
import type { Tx } from '../db/client';
import { blob, library } from '../db/schema';
import { storeOf } from './content';
import { runningFingerprint } from './fingerprint';

/** Keeps bytes of ours as content, within a transaction; what is there already is left as it is. */
export async function storeBytes(tx: Tx, sha256: string, bytes: Buffer): Promise<void> {
  const running = runningFingerprint(bytes.length);
  try {
    for (const piece of pieces(bytes)) await running.update(piece);
    const found = await running.finish();
    if (found.sha256 !== sha256) throw new Error('Bytes changed while they were kept');
    const [to] = await tx.select({ store: library.contentStore }).from(library);
    if (!to) throw new Error('There is no library');
    const [made] = await tx
      .insert(blob)
      .values({
        sha256,
        pieceSums: found.pieceSums,
        contentId: crypto.randomUUID(),
        store: to.store,
        sizeBytes: bytes.length,
      })
      .onConflictDoNothing()
      .returning();
    if (made) await storeOf(to.store).put(tx, made, asyncPieces(bytes));
  } finally {
    running.end();
  }
}

function* pieces(bytes: Buffer): Generator<Buffer> {
  for (let at = 0; at < bytes.length; at += pieceBytes) yield bytes.subarray(at, at + pieceBytes);
}

async function* asyncPieces(bytes: Buffer): AsyncGenerator<Buffer> {
  yield* pieces(bytes);
}
