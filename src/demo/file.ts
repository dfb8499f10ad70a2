import { Readable } from 'node:stream';
import type { Actor } from '@/server/gate/actor';
import { ownUpload, receive } from '@/server/uploads/receive';
import { settleUpload } from '@/server/uploads/settle';
import { startUpload } from '@/server/uploads/start';

/** Files a buffer the way a person's upload is filed: announced, received, checked, settled. Returns the paper's id. */
export async function fileBuffer(
  actor: Actor,
  placeId: string,
  fileName: string,
  content: Buffer,
  onSameName: 'version' | 'both' = 'both',
): Promise<string> {
  const id = crypto.randomUUID();
  await startUpload(actor, id, content.length, { placeId, fileName, onSameName, onSameContent: 'file' });
  await receive(await ownUpload(actor, id), 0, Readable.from([content]));
  const outcome = await settleUpload(actor, id);
  if (outcome.state !== 'filed') throw new Error(`${fileName} was not filed: ${JSON.stringify(outcome)}`);
  return outcome.documentId;
}
