import { eq } from 'drizzle-orm';
import { db } from '../db/client';
import { attachment, blob } from '../db/schema';

/** What is attached to a mail, in its order. */
export const attachedTo = (mailSha256: string) =>
  db()
    .select({
      number: attachment.number,
      name: attachment.name,
      mediaType: attachment.mediaType,
      sha256: attachment.sha256,
      sizeBytes: blob.sizeBytes,
    })
    .from(attachment)
    .innerJoin(blob, eq(blob.sha256, attachment.sha256))
    .where(eq(attachment.mailSha256, mailSha256))
    .orderBy(attachment.number);
