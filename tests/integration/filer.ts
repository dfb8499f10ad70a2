/**
 * Files papers without end, as `kills.test.ts` has it: one by one and many together, with sending broken off now and then.
 * A process of its own, for it is killed. Says a line for each paper that it was told was filed.
 */
import { randomBytes } from 'node:crypto';
import { Readable } from 'node:stream';
import type { UploadOutcome } from '@/core/uploads/model';
import type { Actor } from '@/server/gate/actor';
import { ownUpload, receive } from '@/server/uploads/receive';
import { settleUpload } from '@/server/uploads/settle';
import { settleUploads } from '@/server/uploads/settleMany';
import { startUpload } from '@/server/uploads/start';

const [who, placeId = '', name = ''] = process.argv.slice(2);
const actor = JSON.parse(who ?? '') as Actor;

async function sent(number: number): Promise<string> {
  // Sometimes larger than a piece, sometimes what another sends as well.
  const bytes =
    number % 7 === 0
      ? Buffer.from(`the same ${number % 3}`)
      : Buffer.from(`${name} ${number} ${randomBytes(number % 5 === 0 ? 700_000 : 4000).toString('hex')}`);
  const id = crypto.randomUUID();
  const more = number % 7 === 0 ? { onSameContent: 'file' as const } : {};
  await startUpload(actor, id, bytes.length, { placeId, fileName: `${name} ${number}.txt`, ...more });
  const half = Math.floor(bytes.length / 2);
  if (number % 4 === 0) await receive(await ownUpload(actor, id), 0, Readable.from([bytes.subarray(0, half)]));
  const row = await ownUpload(actor, id);
  await receive(row, row.receivedBytes, Readable.from([bytes.subarray(row.receivedBytes)]));
  return id;
}

const told = (outcome: UploadOutcome) => {
  if (outcome.state === 'filed') process.stdout.write(`${outcome.documentId}\n`);
};

for (let number = 0; ; number += 4) {
  told(await settleUpload(actor, await sent(number)));
  const uploadIds = await Promise.all([1, 2, 3].map((more) => sent(number + more)));
  for (const { outcome } of await settleUploads(actor, { uploadIds })) told(outcome);
}
