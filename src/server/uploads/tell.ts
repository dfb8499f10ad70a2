import { and, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { perform } from '../acts/act';
import { actsInSteps } from '../acts/operation';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, upload } from '../db/schema';
import { messagesAbout } from '../documents/tell';
import type { Actor } from '../gate/actor';
import { paperAllows } from '../gate/visible';
import { trySendMail } from '../mail/outbox';
import { isOwnUpload } from './receive';

/**
 * Tells colleagues by mail of what came of some of the caller's uploads: one message each, about the papers that are open to
 * them. Who sees none of them gets none, and the caller is told so.
 */
export const tellOfFiled = actsInSteps('uploads.tell', async (actor, { uploadIds, personIds }) => {
  const { mails, notTold } = await perform(actor, [], async (tx) => {
    const papers = await filedBy(tx, actor, uploadIds);
    if (papers.length === 0) refuse('not-found', 'Nothing has come of these files, so nobody was told.');
    const { mails, told, notTold } = await messagesAbout(tx, actor, papers, personIds);
    if (told.length === 0) return { entry: null, result: { mails, notTold } };
    const detail = { count: papers, people: told.map(({ name }) => name).join(', ') };
    // All of them, as in the entry of their filing: each reader is told of those that are open to them.
    const subjects = [...new Set(papers.flatMap((paper) => [paper.id, paper.homeId]))];
    return { entry: { act: 'papers.told', subjects, detail }, result: { mails, notTold } };
  });
  const sent = await Promise.all(mails.map(trySendMail));
  return { told: sent.filter(Boolean).length, notTold };
});

/** The papers that came of uploads of the caller, and that they may see. */
async function filedBy(tx: Tx, actor: Actor, uploadIds: readonly string[]) {
  return tx
    .selectDistinct({ id: document.id, title: document.title, homeId: document.homeId })
    .from(upload)
    .innerJoin(document, sql`${document.id}::text = ${upload.outcome} ->> 'documentId'`)
    .where(and(idIn(upload.id, uploadIds), isOwnUpload(actor), paperAllows(actor, 'see')));
}
