import { and, asc, eq, gt, sql } from 'drizzle-orm';
import { mostReceiptsAnHour, receiptEveryHours } from '@/core/intake/receipt';
import { now } from '../base/clock';
import { db, writableDb } from '../db/client';
import { arrival, library } from '../db/schema';
import { viewOf } from '../extraction/openContent';
import { sendMail } from '../mail/outbox';

const hourMs = 60 * 60 * 1000;

/**
 * Sends the next receipt that a sender is to have, if the library wishes them. It is noted before it is sent: where the process dies in
 * between, a sender has none, and never two. Returns whether there was one to see to.
 */
export async function sendNextReceipt(): Promise<boolean> {
  const [next] = await db()
    .select()
    .from(arrival)
    .where(eq(arrival.receipt, 'due'))
    .orderBy(asc(arrival.arrivedAt), asc(arrival.id))
    .limit(1);
  if (!next?.envelopeFrom) return false;
  const [settings] = await db().select({ name: library.name, answers: library.answersSenders }).from(library);
  const isWanted = settings?.answers === true && !(await isRationed(next.envelopeFrom));
  const [mine] = await writableDb()
    .update(arrival)
    .set(isWanted ? { receipt: 'sent', receiptAt: now() } : { receipt: 'none' })
    .where(and(eq(arrival.id, next.id), eq(arrival.receipt, 'due')))
    .returning({ id: arrival.id });
  if (!mine || !isWanted || !settings) return mine !== undefined;
  const view = await viewOf(next.sha256);
  const messageId = view?.form === 'mail' ? (view.messageId ?? '') : '';
  await sendMail({
    to: { name: next.senderName, address: next.envelopeFrom },
    subject: `Auto: ${next.subject === '' ? 'your mail' : next.subject}`.slice(0, 200),
    text: [
      `Your mail has arrived at ${settings.name}. Somebody will see to it.`,
      'This was written by a program. Nobody reads answers to it.',
    ].join('\n\n'),
    answers: messageId,
  });
  return true;
}

/** Whether a sender has had a receipt lately, or everybody together too many. */
async function isRationed(address: string): Promise<boolean> {
  const since = (hours: number) => gt(arrival.receiptAt, new Date(now().getTime() - hours * hourMs));
  const theirs = await db().$count(
    arrival,
    and(since(receiptEveryHours), sql`lower(${arrival.envelopeFrom}) = ${address.toLowerCase()}`),
  );
  return theirs > 0 || (await db().$count(arrival, since(1))) >= mostReceiptsAnHour;
}
