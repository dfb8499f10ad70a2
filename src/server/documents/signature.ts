import { and, sql } from 'drizzle-orm';
import type { PaperSignature } from '@/core/documents/signature';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document } from '../db/schema';

/**
 * What came of signatures on a paper's current version, from what is stored of them: signed, if one is, or if the paper is the signed
 * copy or the scan of one; else asked for, else declined. A version that was not asked about has none.
 */
export const signatureOf = sql<PaperSignature | null>`(case
  when exists (select from sign_off where sign_off.version_id = ${document.versionId} and sign_off.state = 'signed')
    or exists (select from sign_off join version on version.id = ${document.versionId}
      where sign_off.signed_id = ${document.id} and sign_off.state = 'signed' and sign_off.signed_sha256 = version.sha256)
    then 'signed'
  when exists (select from sign_off where sign_off.version_id = ${document.versionId} and sign_off.state = 'open') then 'asked'
  when exists (select from sign_off where sign_off.version_id = ${document.versionId} and sign_off.state = 'declined') then 'declined'
end)`;

/** Works out anew what came of signatures on some papers, after one was asked for, answered, sealed or withdrawn, or a version added. */
export async function noteSignatures(tx: Tx, documentIds: readonly string[]): Promise<void> {
  await tx
    .update(document)
    .set({ signature: signatureOf })
    .where(and(idIn(document.id, documentIds), sql`${document.signature} is distinct from ${signatureOf}`));
}
