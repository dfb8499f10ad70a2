import { and, asc, eq, isNotNull } from 'drizzle-orm';
import { Refusal, refuse } from '@/core/errors/refusal';
import { checksInWords, isDoubtful } from '@/core/intake/senderChecks';
import { isSameDomain } from '@/core/intake/receipt';
import { perform } from '../acts/act';
import { db, writableDb } from '../db/client';
import { arrival, filingRule, person } from '../db/schema';
import type { Actor } from '../gate/actor';
import { faultIssue, logFault } from '../log/fault';
import { trySendMail } from '../mail/outbox';
import { arrivalFor } from './access';
import { fileParts } from './act';
import { requireWaiting, type Arrival } from './settle';
import { asProposed } from './offered';

/**
 * Files the next arrival that a rule files by itself, with what the keeper may do who said so. What speaks against it has it wait for a
 * person instead. Returns whether there was one.
 */
export async function fileNextByRule(): Promise<boolean> {
  const [next] = await db()
    .select({ arrival, rule: filingRule, keeper: person })
    .from(arrival)
    .innerJoin(filingRule, eq(filingRule.id, arrival.fileBy))
    .leftJoin(person, and(eq(person.id, filingRule.setBy), eq(person.active, true), eq(person.keeper, true)))
    .where(and(eq(arrival.state, 'waiting'), isNotNull(arrival.fileBy)))
    .orderBy(asc(arrival.arrivedAt), asc(arrival.id))
    .limit(1);
  if (!next) return false;
  await fileByRule(next).catch(async (error: unknown) => {
    const says =
      error instanceof Refusal ? error.issue.says : faultIssue(logFault(error, { where: 'filing by rule' })).says;
    // Filed, set aside or changed meanwhile, it is nothing to this rule any more.
    await writableDb()
      .update(arrival)
      .set({ fileBy: null, leftBecause: `A rule would have filed it by itself, and did not: ${says}` })
      .where(and(eq(arrival.id, next.arrival.id), eq(arrival.revision, next.arrival.revision)));
  });
  return true;
}

interface Next {
  readonly arrival: Arrival;
  readonly rule: typeof filingRule.$inferSelect;
  readonly keeper: typeof person.$inferSelect | null;
}

async function fileByRule({ arrival: row, rule, keeper }: Next): Promise<void> {
  if (!keeper) refuse('not-allowed', 'Whoever had the rule file by itself is no keeper any more.');
  const actor: Actor = { personId: keeper.id, name: keeper.name, email: keeper.email, keeper: true };
  const { proposal } = row;
  const offer = proposal === null ? null : await asProposed(actor, { ...row, proposal }, false);
  if (!offer) refuse('invalid', 'There is nothing in it to file, or it was filed already.');
  requireSafe(row, offer, rule.filesFrom);
  if (offer.parts.some(({ versionOf }) => versionOf !== undefined))
    refuse('invalid', 'By its name it is a newer version of a paper, which a person decides.');
  const mails = await perform(actor, async (tx) => {
    const found = await arrivalFor(tx, actor, row.id);
    requireWaiting(found, row.revision);
    const [still] = await tx.select().from(filingRule).where(eq(filingRule.id, rule.id)).for('share');
    if (!still?.on || still.revision !== rule.revision) refuse('conflict', 'The rule was changed meanwhile.');
    const filed = await fileParts(tx, actor, found, offer, rule.name);
    return { entry: filed.entry, result: filed.mails };
  });
  await Promise.all(mails.map(trySendMail));
}

/** What only a person may decide waits for one. */
function requireSafe(
  row: Arrival,
  { sure, hasFaults }: { readonly sure: number; readonly hasFaults: boolean },
  from: number | null,
): void {
  if (from === null) refuse('conflict', 'The rule files nothing by itself any more.');
  const { envelopeFrom, senderAddress } = row;
  if (envelopeFrom !== null && !isSameDomain(envelopeFrom, senderAddress))
    refuse('invalid', 'It was sent by another than it says that it is from.');
  if (isDoubtful(row.senderChecks))
    refuse('invalid', `The mail server doubts its sender: ${checksInWords(row.senderChecks)}.`);
  if (hasFaults) refuse('invalid', 'The data of the bill does not agree with itself, or with its page.');
  if (sure * 100 < from)
    refuse('invalid', `It is ${Math.floor(sure * 100)} % sure, and the rule files by itself from ${from} % on.`);
}
