import { crc32 } from 'node:zlib';
import { createHash } from 'node:crypto';
import { eq, sql } from 'drizzle-orm';
import { pieceBytes, type StoreName } from '@/core/content/model';
import { Refusal } from '@/core/errors/refusal';
import { issue, issueKinds } from '@/core/errors/issue';
import { writableDb } from '../db/client';
import { blob } from '../db/schema';
import { logFault } from '../log/fault';
import { ContentMissing, type Bytes, type Content, type ContentStore } from './contentStore';
import { directoryStore } from './directory';
import { rowStore } from './rows';

const stores: Readonly<Record<StoreName, ContentStore>> = { rows: rowStore, directory: directoryStore };

/** A store by its name. Content and uploads know theirs; new ones go where `library.content_store` says. */
export const storeOf = (name: StoreName): ContentStore => stores[name];

/** What reading needs to know of content: columns of `blob` for a select list. */
export const contentColumns = {
  sha256: blob.sha256,
  contentId: blob.contentId,
  sizeBytes: blob.sizeBytes,
  store: blob.store,
  pieceSums: blob.pieceSums,
  damagedAt: blob.damagedAt,
} as const;

/** Bytes are not those that were filed. */
class ContentDamaged extends Error {
  override readonly name = 'ContentDamaged';
}

/**
 * The bytes [fromByte, toByte) of content, each piece checked before it is passed on: a byte that changed on the disk is
 * never given out. Content is marked as damaged then, and the log has a fault.
 * @throws Refusal `damaged-content`, before the first byte that is wrong
 */
export async function* readContent(content: Content, fromByte = 0, toByte = content.sizeBytes): Bytes {
  try {
    yield* checkedPieces(content, fromByte, toByte);
  } catch (error) {
    if (!(error instanceof ContentDamaged || error instanceof ContentMissing)) throw error;
    await mark(content.sha256, true);
    const number = logFault(error, { where: 'content' });
    throw new Refusal(issue('damaged-content', `${issueKinds['damaged-content'].says} Its number is ${number}.`));
  }
}

async function mark(sha256: string, damaged: boolean): Promise<void> {
  await writableDb()
    .update(blob)
    .set({ damagedAt: damaged ? sql`coalesce(${blob.damagedAt}, now())` : null })
    .where(eq(blob.sha256, sha256));
}

/**
 * Refuses content that was found damaged, in words and before anything is sent; unless it is whole again, as after it came
 * back from a backup.
 */
export async function requireWhole(content: Content & { readonly damagedAt: Date | null }): Promise<void> {
  if (content.damagedAt === null) return;
  for await (const _part of readContent(content));
  await mark(content.sha256, false);
}

/** Reads whole pieces, checks them, and hands out what was asked for of them. */
async function* checkedPieces(content: Content, fromByte: number, toByte: number): Bytes {
  if (content.pieceSums === null) return yield* wholeChecked(content, fromByte, toByte);
  const first = Math.floor(fromByte / pieceBytes);
  let start = first * pieceBytes;
  const end = Math.min(content.sizeBytes, Math.ceil(toByte / pieceBytes) * pieceBytes);
  let [index, sum, filled] = [first, 0, 0];
  let held: Buffer[] = [];
  for await (const part of anywhere(content, start, end)) {
    for (let rest = part; rest.length > 0;) {
      const bytes = rest.subarray(0, pieceBytes - filled);
      rest = rest.subarray(bytes.length);
      sum = crc32(bytes, sum);
      filled += bytes.length;
      held.push(bytes);
      if (filled < pieceBytes && start + filled < end) continue;
      if ((sum | 0) !== content.pieceSums[index])
        throw new ContentDamaged(`Content ${content.sha256} is damaged in its piece ${index}`);
      for (const each of held) {
        const asked = each.subarray(Math.max(0, fromByte - start), Math.max(0, toByte - start));
        start += each.length;
        if (asked.length > 0) yield asked;
      }
      [index, sum, filled, held] = [index + 1, 0, 0, []];
    }
  }
}

/** Content without sums: the whole is hashed on the way, and its last part held back until it agrees. */
async function* wholeChecked(content: Content, fromByte: number, toByte: number): Bytes {
  if (fromByte > 0 || toByte < content.sizeBytes) return yield* anywhere(content, fromByte, toByte);
  const hash = createHash('sha256');
  let held: Buffer | null = null;
  for await (const part of anywhere(content, fromByte, toByte)) {
    if (held) yield held;
    hash.update(part);
    held = part;
  }
  if (hash.digest('hex') !== content.sha256) throw new ContentDamaged(`Content ${content.sha256} is damaged`);
  if (held) yield held;
}

/** Reads from the store that has it; goes on in the other one if the content was moved there meanwhile. */
async function* anywhere(content: Content, fromByte: number, toByte: number): Bytes {
  let at = fromByte;
  try {
    for await (const part of storeOf(content.store).read(content, at, toByte)) {
      at += part.length;
      yield part;
    }
  } catch (error) {
    if (!(error instanceof ContentMissing)) throw error;
    const [there] = await writableDb().select(contentColumns).from(blob).where(eq(blob.sha256, content.sha256));
    if (!there || there.store === content.store) throw error;
    yield* storeOf(there.store).read(there, at, toByte);
  }
}
