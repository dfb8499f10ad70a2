import { Refusal, refuse } from '@/core/errors/refusal';
import type { AlikeArrival } from '@/core/intake/contract';
import { actsInSteps, asks } from '../acts/operation';
import { perform } from '../acts/act';
import type { Actor } from '../gate/actor';
import { faultIssue, logFault } from '../log/fault';
import { trySendMail } from '../mail/outbox';
import { arrivalFor } from './access';
import { fileParts } from './act';
import { requireWaiting } from './settle';
import { alikeTo, foundArrival, rowOf } from './lists';
import { asProposed } from './offered';

/** The arrivals that are like one, and that one first, as they would be filed; those for which there is no place are left out. */
export const alikeArrivals = asks('arrival.alike', async (actor, { arrivalId }) => {
  const rows = await alikeTo(actor, await foundArrival(actor, arrivalId));
  const alike: AlikeArrival[] = [];
  for (const row of rows) {
    const { proposal, revision } = row;
    const offer = proposal === null ? null : await asProposed(actor, { ...row, proposal }, true);
    if (offer === null) continue;
    const parts = offer.parts.map(({ title, fields, newerOf }) => ({
      title: newerOf === null ? title : `Newer version of ${newerOf}`,
      values: fields.flatMap(({ name, text }) => (text === '' ? [] : [{ name, text }])),
    }));
    alike.push({ ...rowOf(row), revision, path: offer.path, parts });
  }
  return alike;
});

/** Files arrivals as they are proposed, one after the other, each in a transaction of its own. */
export const agreeToArrivals = actsInSteps('arrivals.agree', async (actor, { arrivals }) => {
  const filed: string[] = [];
  const left: { arrivalId: string; says: string }[] = [];
  let hidden = 0;
  for (const { id, revision } of arrivals) {
    const says = await agree(actor, id, revision).catch((error: unknown) => {
      if (!(error instanceof Refusal)) return faultIssue(logFault(error, { where: 'arrivals.agree' })).says;
      if (error.issue.kind === 'not-found') hidden += 1;
      return error.issue.says;
    });
    if (says === null) filed.push(id);
    else left.push({ arrivalId: id, says });
  }
  if (hidden === arrivals.length) refuse('not-found');
  return { filed, left };
});

/** Files one as it is proposed. Returns why not, in words; null: it is filed. */
async function agree(actor: Actor, arrivalId: string, revision: number): Promise<string | null> {
  const offer = await asProposed(actor, await foundArrival(actor, arrivalId), true);
  if (offer === null) return 'Nothing is proposed for it: file it by itself.';
  const mails = await perform(actor, async (tx) => {
    const found = await arrivalFor(tx, actor, arrivalId);
    // What was proposed is what was looked at.
    requireWaiting(found, revision);
    const filed = await fileParts(tx, actor, found, offer, null);
    return { entry: filed.entry, result: filed.mails };
  });
  await Promise.all(mails.map(trySendMail));
  return null;
}
