import { randomBytes } from 'node:crypto';
import { Readable } from 'node:stream';
import type { UploadOutcome } from '@/core/uploads/model';
import type { Actor } from '@/server/gate/actor';
import { readContent } from '@/server/blobs/content';
import { contentFor, currentOf } from '@/server/documents/content';
import { ownUpload, receive } from '@/server/uploads/receive';
import { settleUpload } from '@/server/uploads/settle';
import { startUpload } from '@/server/uploads/start';

/** Content that no other file has. */
export const text = (words: string) => Buffer.from(`${words}\n${randomBytes(6).toString('hex')}\n`);

/** Sends a file whole, as a browser does, and settles what becomes of it. */
export async function send(
  actor: Actor,
  placeId: string,
  fileName: string,
  content: Buffer,
  more: object = {},
): Promise<{ id: string; outcome: UploadOutcome }> {
  const id = crypto.randomUUID();
  await startUpload(actor, id, content.length, { placeId, fileName, ...more });
  await receive(await ownUpload(actor, id), 0, Readable.from([content]));
  return { id, outcome: await settleUpload(actor, id) };
}

/** The paper that a file became. */
export async function filed(
  actor: Actor,
  placeId: string,
  fileName: string,
  content = text(fileName),
  more: object = {},
): Promise<string> {
  const { outcome } = await send(actor, placeId, fileName, content, more);
  if (outcome.state !== 'filed') throw new Error(JSON.stringify(outcome));
  return outcome.documentId;
}

/** The content of a paper's newest version. */
export async function bytesOf(actor: Actor, documentId: string): Promise<Buffer> {
  const content = await contentFor(actor, currentOf(documentId), 'see');
  const pieces: Buffer[] = [];
  for await (const piece of readContent(content)) pieces.push(piece);
  return Buffer.concat(pieces);
}
