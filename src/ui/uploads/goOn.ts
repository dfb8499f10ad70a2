import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { batchLeft, markOf } from './batch';
import type { QueuedFile, UploadQueue } from './UploadQueue';

/** A file with the folders it comes in. */
interface Coming {
  readonly file: File;
  readonly relativePath: string;
}

/** Goes on with those files that were on their way when the page was closed. Returns the others. */
export async function goOn<T extends Coming>(
  personId: string,
  queue: UploadQueue,
  files: readonly T[],
): Promise<readonly T[]> {
  const batch = await batchLeft(personId);
  const known = new Set(queue.items().map((item) => item.key));
  const again: QueuedFile[] = [];
  const others: T[] = [];
  for (const each of files) {
    const item = batch?.items.get(markOf(each.file, each.relativePath));
    if (item && !known.has(item.key)) again.push({ item, file: each.file });
    else others.push(each);
  }
  if (again.length > 0)
    await queue.goOnWith(again).catch((error: unknown) => {
      say.refusal(saysOf(error));
    });
  return others;
}
