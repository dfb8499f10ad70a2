import { and, eq, sql } from 'drizzle-orm';
import type { Bytes } from '../blobs/contentStore';
import { db } from '../db/client';
import { readingForm } from '../db/schema';

/** How much one statement reads. */
const stretchBytes = 1024 * 1024;

/** A form that was made of some content, to be handed out in parts; null if there is none. */
export async function keptForm(sha256: string, form: 'pages' | 'view') {
  const here = and(eq(readingForm.sha256, sha256), eq(readingForm.form, form));
  const [found] = await db().select({ sizeBytes: readingForm.sizeBytes }).from(readingForm).where(here);
  if (!found) return null;
  return {
    sizeBytes: found.sizeBytes,
    async *read(fromByte: number, toByte: number): Bytes {
      for (let at = fromByte; at < toByte; at += stretchBytes) {
        const length = Math.min(stretchBytes, toByte - at);
        const [part] = await db()
          .select({ data: sql<Buffer>`substring(${readingForm.data} from ${at + 1}::integer for ${length}::integer)` })
          .from(readingForm)
          .where(here);
        // It was made anew meanwhile, and is another length.
        if (part?.data.length !== length) throw new Error('A form was replaced while it was read');
        yield part.data;
      }
    },
  };
}
