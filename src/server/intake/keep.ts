import { readingPriority } from '@/core/reading/stages';
import { now } from '../base/clock';
import { sha256Hex } from '../base/sha256';
import { storeBytes } from '../blobs/keep';
import { arrival } from '../db/schema';
import { apart } from '../db/transaction';
import { enqueue } from '../jobs/queue';

/** From whom and to whom a sending server said that a mail goes (RFC 5321, 2.3.1). */
export interface Envelope {
  /** '' for a report of delivery. */
  readonly from: string;
  readonly to: readonly string[];
}

const longest = 320;

/**
 * Keeps a mail as it came, for good, before its sender is told that it was taken. Nothing in it is read here: that is done in the
 * cage. It has no journal entry: nobody has done anything yet.
 */
export async function keepMail(bytes: Buffer, { from, to }: Envelope): Promise<{ readonly arrivalId: string }> {
  const sha256 = sha256Hex(bytes);
  return apart(async (tx) => {
    await storeBytes(tx, sha256, bytes);
    const [made] = await tx
      .insert(arrival)
      .values({
        way: 'mail',
        arrivedAt: now(),
        sha256,
        fileName: 'Mail.eml',
        mediaType: 'message/rfc822',
        envelopeFrom: from.slice(0, longest),
        sentTo: to.map((each) => each.slice(0, longest)),
      })
      .returning({ id: arrival.id });
    if (!made) throw new Error('The arrival was not kept');
    await enqueue(tx, 'read', [{ sha256 }], () => readingPriority(bytes.length));
    return { arrivalId: made.id };
  });
}
