import { grouped } from '@/core/collections/grouped';
import type { OutputOf } from '@/core/contract';
import { mostToldOf } from '@/core/uploads/contract';
import type { QueueItem } from '@/core/uploads/queue';
import { call } from '../server/call';

/** Tells colleagues of files that were filed: one message for all that the same people were to be told of. */
export async function tellOthers(
  filed: readonly Pick<QueueItem, 'key' | 'tell'>[],
): Promise<OutputOf<'uploads.tell'>[]> {
  const wanted = filed.filter(({ tell }) => tell.length > 0);
  const told: OutputOf<'uploads.tell'>[] = [];
  for (const group of grouped(wanted, ({ tell }) => tell.join()).values()) {
    const uploadIds = group.map((item) => item.key).slice(0, mostToldOf);
    told.push(await call('uploads.tell', { uploadIds, personIds: [...(group[0]?.tell ?? [])] }));
  }
  return told;
}
