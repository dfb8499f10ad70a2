import { and, asc, eq } from 'drizzle-orm';
import MailComposer from 'nodemailer/lib/mail-composer';
import { nameKey } from '@/core/text/fold';
import { atMoment } from '@/server/base/clock';
import { db, writableDb } from '@/server/db/client';
import { arrival, document, place } from '@/server/db/schema';
import type { Actor } from '@/server/gate/actor';
import { keepMail } from '@/server/intake/keep';
import { keepFilingRule } from '@/server/intake/rules';
import { someone, type Places } from './named';

/** Which dossiers of the suppliers, from 0, and how many of their mails were filed. */
const senders = [
  [4, 6],
  [9, 4],
  [15, 3],
] as const;
/** One whose bookkeeper once sent what belonged to another. */
const mixedUp = 9;
const dayMs = 86_400_000;
/** They came through the year, and waited from one hour to two days. */
const daysApart = 26;
const hoursWaited = [3, 1, 20, 5, 44, 2, 7] as const;
/** What of some of them was corrected. */
const corrected: Readonly<Record<number, readonly string[]>> = { 3: ['Title'], 8: ['Place'], 11: ['Amount', 'Title'] };

/** Mails that were filed in the weeks before, and a filing rule for one of their senders. */
export async function layFiledArrivals(places: Places, keeper: Actor, storyEnds: Date): Promise<void> {
  const dossiers = await db()
    .select({ id: place.id, name: place.name, reference: place.reference })
    .from(place)
    .where(and(eq(place.parentId, someone(places, 'Suppliers')), eq(place.kind, 'dossier'), eq(place.closed, false)))
    .orderBy(asc(place.position), asc(place.name));
  let sent = 0;
  for (const [index, mails] of senders) {
    const dossier = dossiers[index];
    if (!dossier) throw new Error('There are fewer suppliers');
    const address = `accounts@${nameKey(dossier.name).replaceAll(/[^a-z]+/gu, '-')}.example`;
    for (let mail = 0; mail < mails; mail += 1) {
      const moment = new Date(storyEnds.getTime() - (sent * daysApart + 2) * dayMs);
      const isMixedUp = index === mixedUp && mail === 1;
      const filedIn = isMixedUp ? dossiers[index + 1] : dossier;
      await atMoment(moment, () => filedMail(address, dossier.name, moment, (sent += 1), filedIn?.id ?? '', keeper));
    }
    if (index === mixedUp)
      await atMoment(storyEnds, () =>
        keepFilingRule(keeper, {
          ...{ id: null, revision: 0, on: true, title: 'Invoice {number}', filesFrom: null, placeId: dossier.id },
          name: `Bills of ${dossier.name}`,
          conditions: [{ field: 'from', text: address }],
        }),
      );
  }
}

async function filedMail(address: string, name: string, moment: Date, number: number, dossierId: string, by: Actor) {
  const subject = `Invoice ${4100 + number}`;
  const raw = await new MailComposer({
    ...{ from: `"${name}" <${address}>`, to: 'intake@saltmarrow.example', subject, date: moment },
    ...{ text: `Our invoice.\n\n${name}`, messageId: `<filed-${number}@saltmarrow.example>` },
  })
    .compile()
    .build();
  const { arrivalId } = await keepMail(raw, { from: address, to: ['intake@saltmarrow.example'] });
  // A paper of that dossier, as if it had come that way: nothing is read while the library is made.
  const [paper] = await db()
    .select({ id: document.id })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(eq(place.parentId, dossierId))
    .limit(1);
  await writableDb()
    .update(arrival)
    .set({
      ...{ state: 'filed', senderAddress: address, senderName: name, subject, dossierId },
      ...{
        documentIds: paper ? [paper.id] : [],
        doneBy: by.personId,
        doneAt: new Date(moment.getTime() + (hoursWaited[number % hoursWaited.length] ?? 1) * 3_600_000),
      },
      ...{ corrected: [...(corrected[number] ?? [])], revision: 2 },
      proposal: { parts: [{ attachment: null, title: subject, counts: true }], candidates: [] },
    })
    .where(eq(arrival.id, arrivalId));
}
