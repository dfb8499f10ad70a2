import type { UploadOutcome } from '@/core/uploads/model';
import { call } from '../server/call';
import { batchLeft, forgetFiles, type Batch } from './batch';
import { toSettle } from './toSettle';
import { tellOthers } from './tellOthers';

/** What one question, and one act, may name. */
const [mostAsked, together] = [1000, 100] as const;

const over: ReadonlySet<UploadOutcome['state']> = new Set(['filed', 'refused', 'left-out']);

/**
 * Files what had arrived whole when the page was closed, for which no file has to be chosen again. Once nothing is left
 * colleagues are told, as the person had asked. Answers what is left of the batch; null for nothing.
 */
export async function fileArrived(personId: string): Promise<Batch | null> {
  const batch = await batchLeft(personId);
  if (!batch) return null;
  const items = new Map([...batch.items.values()].map((item) => [item.key, item]));
  const outcomes = new Map<string, UploadOutcome>();
  const arrived: string[] = [];
  for (const uploadIds of inParts([...items.keys()], mostAsked))
    for (const { uploadId, receivedBytes, outcome } of await call('uploads.known', { uploadIds })) {
      if (outcome) outcomes.set(uploadId, outcome);
      else if (receivedBytes === items.get(uploadId)?.sizeBytes) arrived.push(uploadId);
    }
  for (const uploadIds of inParts(arrived, together))
    for (const { uploadId, outcome } of await call(
      'uploads.settle',
      toSettle(uploadIds.flatMap((key) => items.get(key) ?? [])),
    ))
      outcomes.set(uploadId, outcome);
  const isOver = (key: string): boolean => over.has(outcomes.get(key)?.state ?? 'receiving');
  if (![...items.keys()].every(isOver)) return batch;
  // Told first: if the page is closed just now, hearing twice is better than never.
  await tellOthers([...items.values()].filter(({ key }) => outcomes.get(key)?.state === 'filed')).catch(
    () => undefined,
  );
  await forgetFiles(personId, new Set(items.keys()));
  return null;
}

function inParts<T>(all: readonly T[], most: number): T[][] {
  return Array.from({ length: Math.ceil(all.length / most) }, (_part, at) => all.slice(at * most, (at + 1) * most));
}
