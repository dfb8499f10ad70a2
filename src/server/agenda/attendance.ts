import { and, eq, max } from 'drizzle-orm';
import { invalidField } from '@/core/errors/issue';
import { refuse, Refusal } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { acts } from '../acts/operation';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { attendee, person } from '../db/schema';
import type { Actor } from '../gate/actor';
import { agendaSubject } from './read';

/** A meeting has so many people at most. */
const mostAttendees = 200;

/** Writes down who attends a meeting. Those who are there already stay as they are. */
export const addAttendees = acts('attendance.add', [], async (tx, actor, { meetingId, people }) => {
  const { meeting, dossier } = await agendaSubject(tx, actor, { meetingId }, 'amend');
  if (meeting === null) refuse('not-found');
  const there = await tx
    .select({ personId: attendee.personId, name: attendee.name })
    .from(attendee)
    .where(eq(attendee.meetingId, meetingId));
  const named = await namesOf(tx, people);
  const seen = new Set(there.map((each) => each.personId ?? `outside ${each.name}`));
  const added = named.filter((each) => {
    const key = each.personId ?? `outside ${each.name}`;
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
  if (added.length === 0) return { entry: null, result: { added: 0 } };
  if (there.length + added.length > mostAttendees)
    refuse('invalid', `A meeting has ${mostAttendees} people at most. Nobody was added.`);
  const [last] = await tx
    .select({ position: max(attendee.position) })
    .from(attendee)
    .where(eq(attendee.meetingId, meetingId));
  const after = (last?.position ?? -1) + 1;
  await tx
    .insert(attendee)
    .values(added.map((each, at) => ({ ...each, meetingId, position: after + at })))
    .onConflictDoNothing();
  const detail = { count: counted(added.length, 'person', 'people'), day: meeting.day, name: dossier.name };
  return { entry: { act: 'attendance.added', subjects: [dossier.id], detail }, result: { added: added.length } };
});

type Asked = { readonly personId: string | null; readonly name: string; readonly part: 'member' | 'inAttendance' };

/** The people with the names that their accounts have. */
async function namesOf(tx: Tx, people: readonly Asked[]): Promise<Asked[]> {
  const ids = people.flatMap(({ personId }) => personId ?? []);
  const known =
    ids.length === 0
      ? []
      : await tx.select({ id: person.id, name: person.name }).from(person).where(idIn(person.id, ids));
  return people.map((each, at) => {
    if (each.personId === null) return each;
    const found = known.find(({ id }) => id === each.personId);
    if (!found) throw new Refusal(invalidField(`people.${at}`, 'That person is not known here.'));
    return { ...each, name: found.name };
  });
}

async function attendeeFor(tx: Tx, actor: Actor, attendeeId: string) {
  const [found] = await tx.select().from(attendee).where(eq(attendee.id, attendeeId));
  if (!found) refuse('not-found');
  const { meeting, dossier } = await agendaSubject(tx, actor, { meetingId: found.meetingId }, 'amend');
  const detail = { person: found.name, day: meeting?.day ?? '', name: dossier.name };
  return { found, subjects: [dossier.id], detail };
}

/** Changes in what part somebody attends, and what they answered by another way. */
export const changeAttendee = acts('attendance.change', [], async (tx, actor, { attendeeId, part, answer }) => {
  const { subjects, detail } = await attendeeFor(tx, actor, attendeeId);
  await tx.update(attendee).set({ part, answer }).where(eq(attendee.id, attendeeId));
  return { entry: { act: 'attendance.changed', subjects, detail }, result: null };
});

/** Takes somebody off those who attend. */
export const removeAttendee = acts('attendance.remove', [], async (tx, actor, { attendeeId }) => {
  const { subjects, detail } = await attendeeFor(tx, actor, attendeeId);
  await tx.delete(attendee).where(eq(attendee.id, attendeeId));
  return { entry: { act: 'attendance.removed', subjects, detail }, result: null };
});

/** What the caller answers to a meeting that they are asked to. */
export const answerMeeting = acts('attendance.answer', [], async (tx, actor, { meetingId, answer }) => {
  const { meeting, dossier } = await agendaSubject(tx, actor, { meetingId }, 'see');
  const answered = await tx
    .update(attendee)
    .set({ answer })
    .where(and(eq(attendee.meetingId, meetingId), eq(attendee.personId, actor.personId)))
    .returning({ id: attendee.id });
  if (answered.length === 0) refuse('not-allowed', 'You are not among those who are asked to this meeting.');
  const detail = { day: meeting?.day ?? '', name: dossier.name };
  return { entry: { act: 'attendance.answered', subjects: [dossier.id], detail }, result: null };
});
