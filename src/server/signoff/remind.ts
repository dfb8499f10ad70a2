import { and, eq, isNotNull } from 'drizzle-orm';
import { dayAt, dayNumber } from '@/core/calendar/period';
import { reminderDue } from '@/core/signoff/reminders';
import { appendToJournal } from '../acts/append';
import { now } from '../base/clock';
import { db } from '../db/client';
import { signer, signOff } from '../db/schema';
import { transaction } from '../db/transaction';
import { librarySettings } from '../library/settings';
import type { Mail } from '../mail/outbox';
import { sendAll } from './ask';
import { callTurns, signersOf, signOffFor, standingFrom } from './turns';

/**
 * Reminds those whose turn it is: so many days before the day, on the day, and once it is past. Each reminder is noted in the
 * transaction before it is sent, so that two workers send it once. Returns how many were sent.
 */
export async function remindSigners(): Promise<number> {
  const { timeZone } = await librarySettings();
  const today = dayAt(now().getTime(), timeZone);
  const open = await db()
    .select({ id: signOff.id })
    .from(signOff)
    .where(and(eq(signOff.state, 'open'), isNotNull(signOff.dueOn)));
  let sent = 0;
  for (const { id } of open) {
    const mails = await transaction([], async (tx) => {
      const found = await signOffFor(tx, id);
      if (found?.state !== 'open' || found.dueOn === null) return [];
      const due = dayNumber(found.dueOn) ?? today;
      const signers = await signersOf(tx, id);
      const reminded: Mail[] = [];
      for (const at of standingFrom(found, signers).turns) {
        const one = signers[at];
        if (!one) continue;
        const askedOn = one.askedAt === null ? today : dayAt(one.askedAt.getTime(), timeZone);
        const wanted = reminderDue({ due, remindDays: found.remindDays, askedOn, sent: one.reminders, today });
        if (wanted === null) continue;
        await tx.update(signer).set({ reminders: wanted }).where(eq(signer.id, one.id));
        const [mail] = await callTurns(tx, found, { signerId: one.id, isByHand: false });
        if (mail) reminded.push({ ...mail, subject: `Reminder: ${mail.subject}` });
      }
      if (reminded.length > 0)
        await appendToJournal(tx, null, {
          act: 'signoff.reminded',
          subjects: [found.documentId],
          detail: { title: found.title, number: found.number, who: reminded.map(({ to }) => to.name).join(', ') },
        });
      return reminded;
    });
    await sendAll(mails);
    sent += mails.length;
  }
  return sent;
}
