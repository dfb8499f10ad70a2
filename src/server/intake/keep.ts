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

/** From where something was fetched. */
export interface Fetched {
  readonly wayInId: string;
  /** The same whenever the same is fetched again. */
  readonly origin: string;
}

type Named = Pick<typeof arrival.$inferInsert, 'way' | 'fileName' | 'mediaType'>;

const longest = 320;
const mail: Named = { way: 'mail', fileName: 'Mail.eml', mediaType: 'message/rfc822' };

/** Keeps a mail that was sent to the library, for good, before its sender is told that it was taken. */
export async function keepMail(bytes: Buffer, { from, to }: Envelope): Promise<{ readonly arrivalId: string }> {
  const envelope = { envelopeFrom: from.slice(0, longest), sentTo: to.map((each) => each.slice(0, longest)) };
  const arrivalId = await keep(bytes, { ...mail, ...envelope });
  if (arrivalId === null) throw new Error('The arrival was not kept');
  return { arrivalId };
}

/** Keeps a mail that was fetched. Returns whether it is new. */
export const keepFetchedMail = async (bytes: Buffer, fetched: Fetched): Promise<boolean> =>
  (await keep(bytes, { ...mail, ...fetched, sentTo: [] })) !== null;

/** Keeps a file that was fetched. Returns whether it is new. */
export const keepFetchedFile = async (bytes: Buffer, named: Named, fetched: Fetched): Promise<boolean> =>
  (await keep(bytes, { ...named, ...fetched, sentTo: [] })) !== null;

/**
 * Keeps what arrived as it came, once. Nothing in it is read here: that is done in the cage. It has no journal entry: nobody has done
 * anything yet.
 */
async function keep(
  bytes: Buffer,
  row: Omit<typeof arrival.$inferInsert, 'arrivedAt' | 'sha256'>,
): Promise<string | null> {
  const sha256 = sha256Hex(bytes);
  return apart(async (tx) => {
    await storeBytes(tx, sha256, bytes);
    const [made] = await tx
      .insert(arrival)
      .values({ ...row, arrivedAt: now(), sha256 })
      .onConflictDoNothing({ target: arrival.origin })
      .returning({ id: arrival.id });
    if (!made) return null;
    await enqueue(tx, 'read', [{ sha256 }], () => readingPriority(bytes.length));
    return made.id;
  });
}
