import { and, eq } from 'drizzle-orm';
import { writeCalendar } from '@/core/meetings/icalendar';
import type { MeetingRow } from '@/core/meetings/contract';
import type { OutputOf, ReadInputOf } from '@/core/contract';
import { refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { perform } from '../acts/act';
import type { Actor } from '../gate/actor';
import { now } from '../base/clock';
import { config } from '../base/config';
import { db } from '../db/client';
import { meeting } from '../db/schema';
import { keepToPlan } from '../plans/plans';
import { dossierFor } from '../expected/slots';

/** The meetings of a dossier, in order. */
export async function meetingsOf(actor: Actor, { dossierId }: ReadInputOf<'meetings.of'>): Promise<MeetingRow[]> {
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
}

/** Makes meetings on some days, each with the folders that the plan has for one. */
export async function makeMeetings(
  actor: Actor,
  input: ReadInputOf<'meetings.make'>,
): Promise<OutputOf<'meetings.make'>> {
  return perform(actor, ['tree', 'access', 'given'], async (tx) => {
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
}

/** Gives a meeting another day, title or place; its folders take up the names that the plan has for it now, and move with its year. */
export async function changeMeeting(actor: Actor, input: ReadInputOf<'meeting.change'>): Promise<null> {
  return perform(actor, ['tree', 'access', 'given'], async (tx) => {
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
}

/** The meetings of a dossier as an iCalendar file, for whoever may see it. */
export async function calendarOf(actor: Actor, dossierId: string): Promise<{ name: string; text: string }> {
  const { name } = await dossierFor(db(), actor, dossierId, 'see');
  const meetings = await meetingsOf(actor, { dossierId });
  const text = writeCalendar(name, meetings, () => `${config().EMBRIN_URL}/place/${dossierId}`, now());
  return { name, text };
}

/** Takes a meeting away; its folders go where they are empty, and stay as a person's own where they are not. */
export async function removeMeeting(actor: Actor, input: ReadInputOf<'meeting.remove'>): Promise<null> {
  return perform(actor, ['tree', 'access', 'given'], async (tx) => {
    const [found] = await tx.select().from(meeting).where(eq(meeting.id, input.meetingId));
    if (!found) refuse('not-found');
    const dossier = await dossierFor(tx, actor, found.dossierId, 'amend');
    const gone = await tx
      .delete(meeting)
      .where(and(eq(meeting.id, found.id), eq(meeting.revision, input.revision)))
      .returning();
    if (gone.length === 0) refuse('conflict');
    await keepToPlan(tx, actor, dossier.seriesId, [dossier.id], 'amend');
    const detail = { name: dossier.name, day: found.day, title: found.title };
    return { entry: { act: 'meeting.removed', subjects: [dossier.id], detail }, result: null };
  });
}
