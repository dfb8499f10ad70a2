import { and, eq, isNull } from 'drizzle-orm';
import { writeWholeDays } from '@/core/calendar/wholeDays';
import { refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { acts, asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { now } from '../base/clock';
import { config } from '../base/config';
import { db } from '../db/client';
import { agenda, agendaItem, meeting, pack } from '../db/schema';
import { keepToPlan } from '../plans/plans';
import { dossierFor } from '../expected/slots';

/** The meetings of a dossier, in order. */
export const meetingsOf = asks('meetings.of', async (actor, { dossierId }) => {
  await dossierFor(db(), actor, dossierId, 'see');
  return db()
    .select({
      id: meeting.id,
      day: meeting.day,
      title: meeting.title,
      venue: meeting.venue,
      revision: meeting.revision,
    })
    .from(meeting)
    .where(eq(meeting.dossierId, dossierId))
    .orderBy(meeting.day, meeting.id);
});

/** Makes meetings on some days, each with its planned folders. */
export const makeMeetings = acts('meetings.make', ['tree', 'access', 'given'], async (tx, actor, input) => {
  const dossier = await dossierFor(tx, actor, input.dossierId, 'amend');
  const { title, venue } = input;
  const days = [...new Set(input.days)].sort();
  await tx.insert(meeting).values(days.map((day) => ({ dossierId: dossier.id, day, title, venue })));
  const folders = await keepToPlan(tx, actor, dossier.seriesId, [dossier.id], 'amend');
  const detail = { name: dossier.name, count: counted(days.length, 'meeting'), first: days[0] ?? '' };
  return {
    entry: { act: 'meetings.made', subjects: [dossier.id], detail },
    result: { made: days.length, folders },
  };
});

/** Changes a meeting's day, title or venue. Its folders are renamed by the plan, and move to its filing year. */
export const changeMeeting = acts('meeting.change', ['tree', 'access', 'given'], async (tx, actor, input) => {
  const [found] = await tx.select().from(meeting).where(eq(meeting.id, input.meetingId));
  if (!found) refuse('not-found');
  const dossier = await dossierFor(tx, actor, found.dossierId, 'amend');
  const { day, title, venue, revision } = input;
  const changed = await tx
    .update(meeting)
    .set({ day, title, venue, revision: revision + 1 })
    .where(and(eq(meeting.id, found.id), eq(meeting.revision, revision)))
    .returning({ id: meeting.id });
  if (changed.length === 0) refuse('conflict');
  await keepToPlan(tx, actor, dossier.seriesId, [dossier.id], 'amend');
  const detail = { name: dossier.name, before: found.day, day, title };
  return { entry: { act: 'meeting.changed', subjects: [dossier.id], detail }, result: null };
});

/** The meetings of a dossier that the caller may see, as an iCalendar file. */
export async function calendarOf(actor: Actor, dossierId: string): Promise<{ name: string; text: string }> {
  const { name } = await dossierFor(db(), actor, dossierId, 'see');
  const meetings = await meetingsOf(actor, { dossierId });
  // Where its agenda is, and the pack.
  const address = (id: string): string => `${config().EMBRIN_URL}/meeting/${id}`;
  const days = meetings.map(({ venue, ...held }) => ({
    ...held,
    where: venue,
    address: address(held.id),
    warnDays: 0,
  }));
  const text = writeWholeDays(name, 'Meetings', days, now());
  return { name, text };
}

/** Removes a meeting and its empty folders. Folders with papers stay, no longer tied to the plan. */
export const removeMeeting = acts('meeting.remove', ['tree', 'access', 'given'], async (tx, actor, input) => {
  const [found] = await tx.select().from(meeting).where(eq(meeting.id, input.meetingId));
  if (!found) refuse('not-found');
  const dossier = await dossierFor(tx, actor, found.dossierId, 'amend');
  const [item] = await tx
    .select({ id: agendaItem.id })
    .from(agendaItem)
    .innerJoin(agenda, eq(agenda.id, agendaItem.agendaId))
    .where(and(eq(agenda.meetingId, found.id), isNull(agendaItem.removedAt)))
    .limit(1);
  const [held] = await tx.select({ id: pack.id }).from(pack).where(eq(pack.meetingId, found.id)).limit(1);
  if (held) refuse('conflict', 'A pack belongs to this meeting. Nothing was removed.');
  if (item) refuse('conflict', 'This meeting has an agenda. Nothing was removed. Take the items off it first.');
  const gone = await tx
    .delete(meeting)
    .where(and(eq(meeting.id, found.id), eq(meeting.revision, input.revision)))
    .returning();
  if (gone.length === 0) refuse('conflict');
  await keepToPlan(tx, actor, dossier.seriesId, [dossier.id], 'amend');
  const detail = { name: dossier.name, day: found.day, title: found.title };
  return { entry: { act: 'meeting.removed', subjects: [dossier.id], detail }, result: null };
});
