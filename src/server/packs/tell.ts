import { and, eq, isNull, lt, or, sql } from 'drizzle-orm';
import { bitOf } from '@/core/access/capability';
import { writeDay } from '@/core/calendar/typedDay';
import { refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { perform } from '../acts/act';
import { actsInSteps } from '../acts/operation';
import { now } from '../base/clock';
import { config } from '../base/config';
import { db, writableDb } from '../db/client';
import { attendee, meeting, packIssue, person, place, scopeEntry } from '../db/schema';
import { trySendMail } from '../mail/outbox';
import { packFor } from './read';

/** Nobody is told twice within this time. */
const restMs = 60_000;

/**
 * Tells those who attend the meeting of an issue by mail that it is there: everybody with an account who may see it. The mail
 * has its address, and nothing of what is in it. Where this ends half-way, nobody counts as told, and it can be pressed again a
 * minute later.
 */
export const tellOfIssue = actsInSteps('pack.tell', async (actor, { issueId }) => {
  const [issue] = await db().select().from(packIssue).where(eq(packIssue.id, issueId));
  if (!issue) refuse('not-found');
  const { pack } = await packFor(db(), actor, issue.packId, 'amend');
  if (issue.state !== 'done') refuse('conflict', 'Only what is issued can be told.');
  if (pack.meetingId === null) refuse('invalid', 'This pack is of no meeting: there is nobody to tell.');
  const people = await db()
    .select({ name: person.name, address: person.email, day: meeting.day, dossier: place.name })
    .from(attendee)
    .innerJoin(meeting, eq(meeting.id, attendee.meetingId))
    .innerJoin(person, and(eq(person.id, attendee.personId), eq(person.active, true)))
    .innerJoin(place, eq(place.id, pack.placeId))
    .leftJoin(scopeEntry, and(eq(scopeEntry.scopeId, place.scopeId), eq(scopeEntry.personId, person.id)))
    .where(
      and(
        eq(attendee.meetingId, pack.meetingId),
        sql`(${person.keeper} or ${scopeEntry.capabilities} & ${bitOf('see')} <> 0)`,
      ),
    )
    .orderBy(person.name);
  // Of two who press at once one tells them.
  const claimed = await writableDb()
    .update(packIssue)
    .set({ toldAt: now(), told: 0 })
    .where(
      and(
        eq(packIssue.id, issueId),
        or(isNull(packIssue.toldAt), lt(packIssue.toldAt, new Date(now().getTime() - restMs))),
      ),
    )
    .returning({ id: packIssue.id });
  if (claimed.length === 0) refuse('conflict', 'They were told a moment ago.');
  let sent = 0;
  for (const { name, address, day, dossier } of people) {
    const mail = {
      to: { name, address },
      subject: `${issue.called}: ${pack.name}`,
      text: `The papers of ${dossier} for ${writeDay(day)} are there, as ${issue.called.toLowerCase()} of “${pack.name}”.\n\n${config().EMBRIN_URL}/issued/${issueId}`,
    };
    if (await trySendMail(mail)) sent += 1;
  }
  return perform(actor, async (tx) => {
    const { place: home } = await packFor(tx, actor, issue.packId, 'amend');
    await tx.update(packIssue).set({ toldAt: now(), told: sent }).where(eq(packIssue.id, issueId));
    const detail = { name: pack.name, called: issue.called, count: counted(sent, 'person', 'people') };
    return { entry: { act: 'pack.told', subjects: [home.id], detail }, result: { sent, of: people.length } };
  });
});
