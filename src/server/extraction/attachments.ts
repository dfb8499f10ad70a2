import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { eq } from 'drizzle-orm';
import type { Attachment } from '@/core/reading/form';
import { readingPriority } from '@/core/reading/stages';
import { storable } from '@/core/text/storable';
import type { FileKind } from '@/core/files/fileKind';
import { madeBytes } from '../cage/file';
import { storeBytes } from '../blobs/keep';
import { sniffBytes, sniffKind } from '../blobs/sniff';
import type { Tx } from '../db/client';
import { attachment } from '../db/schema';
import { enqueue } from '../jobs/queue';
import type { OpenContent } from './openContent';

/** A mail's attachments as they are listed, and what keeps them. */
interface Taken {
  readonly listed: Attachment[];
  readonly keep: (tx: Tx) => Promise<void>;
}

const unknownKind: Pick<FileKind, 'mediaType' | 'stamp'> = { mediaType: 'application/octet-stream', stamp: 'TEXT' };

/**
 * Keeps the attachments of a mail as contents of their own, which are read as any other. The way to them is through the
 * mail: who may see it may see them.
 */
export async function takeAttachments(
  opened: OpenContent,
  told: readonly { readonly number: number; readonly name: string; readonly sizeBytes: number }[],
): Promise<Taken> {
  const listed: Attachment[] = [];
  for (const { number, name } of told) {
    const bytes = await madeBytes(opened.within(`attachment-${number}`));
    if (!bytes) continue;
    const kind = (bytes.length === 0 ? null : await sniffKind(bytes.subarray(0, sniffBytes), name)) ?? unknownKind;
    listed.push({
      number,
      name:
        storable(name)
          .replace(/[\p{Cc}/\\]/gu, ' ')
          .trim()
          .slice(0, 200) || `Attachment ${number}`,
      mediaType: kind.mediaType,
      stamp: kind.stamp,
      sizeBytes: bytes.length,
      sha256: createHash('sha256').update(bytes).digest('hex'),
    });
  }
  return { listed, keep: (tx) => keep(tx, opened, listed) };
}

async function keep(tx: Tx, opened: OpenContent, listed: readonly Attachment[]): Promise<void> {
  const mailSha256 = opened.content.sha256;
  await tx.delete(attachment).where(eq(attachment.mailSha256, mailSha256));
  for (const { number, name, mediaType, sha256 } of listed) {
    if (sha256 === null) continue;
    await storeBytes(tx, sha256, await readFile(opened.within(`attachment-${number}`)));
    await tx.insert(attachment).values({ mailSha256, number, name, mediaType, sha256 });
  }
  const sizes = new Map(listed.flatMap(({ sha256, sizeBytes }) => (sha256 === null ? [] : [[sha256, sizeBytes]])));
  const contents = [...sizes.keys()];
  if (contents.length > 0)
    await enqueue(
      tx,
      'read',
      contents.map((sha256) => ({ sha256 })),
      // As any other content, and not before what people have filed themselves.
      (index) => readingPriority(sizes.get(contents[index] ?? '') ?? 0),
    );
}
