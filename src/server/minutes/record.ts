import { and, eq, gte, isNotNull, isNull, max, ne, not, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { mostOutcomes, outcomeKindWords, type OutcomeKind } from '@/core/minutes/model';
import { acts } from '../acts/operation';
import { doerFor } from '../agenda/doer';
import { isIssued } from '../agenda/issued';
import { numberOf } from '../agenda/items';
import { agendaOfItem, agendaSubject, itemsOf } from '../agenda/read';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { agenda, agendaItem, attendee, itemOutcome, meeting } from '../db/schema';
import type { Actor } from '../gate/actor';
import { refuseStill } from '../gate/held';
import { today } from '../scopes/memberships';

/** Records a decision or an action under an item. */
export const recordOutcome = acts('outcome.record', [], async (tx, actor, { itemId, kind, ...says }) => {
  const subject = await agendaOfItem(tx, actor, itemId);
  if (subject.item.removedAt !== null) refuse('not-found');
  if (subject.meeting === null)
    refuse('invalid', 'Standing items come to nothing: record it under an item of a meeting.');
  const [there] = await tx
    .select({ last: max(itemOutcome.position), count: sql<number>`count(*)::int` })
    .from(itemOutcome)
    .where(and(eq(itemOutcome.itemId, itemId), isNull(itemOutcome.removedAt)));
  if ((there?.count ?? 0) >= mostOutcomes) refuse('invalid', `An item has ${mostOutcomes} of them at most.`);
  const [made] = await tx
    .insert(itemOutcome)
    .values({
      itemId,
      kind,
      ...(await saidOfAction(tx, subject.dossier, kind, says)),
      position: (there?.last ?? -1) + 1,
      recordedAt: now(),
    })
    .returning({ id: itemOutcome.id });
  if (!made) throw new Error('The outcome was not recorded');
  await noteActions(tx, subject.dossier.id);
  return {
    entry: { act: 'outcome.recorded', ...(await about(tx, subject, kind)) },
    result: { outcomeId: made.id },
  };
});

/** An outcome for a change, under the lock of its agenda. */
async function outcomeFor(tx: Tx, actor: Actor, outcomeId: string) {
  const [found] = await tx
    .select({ itemId: itemOutcome.itemId })
    .from(itemOutcome)
    .where(eq(itemOutcome.id, outcomeId));
  if (!found) refuse('not-found');
  const subject = await agendaOfItem(tx, actor, found.itemId);
  const [outcome] = await tx.select().from(itemOutcome).where(eq(itemOutcome.id, outcomeId));
  if (!outcome) refuse('not-found');
  return { ...subject, outcome };
}

/** Changes what a decision or an action says. */
export const changeOutcome = acts('outcome.change', [], async (tx, actor, { outcomeId, revision, ...says }) => {
  const subject = await outcomeFor(tx, actor, outcomeId);
  const { outcome, dossier } = subject;
  if (outcome.removedAt !== null) refuse('not-found');
  if (outcome.revision !== revision) refuse('conflict');
  await tx
    .update(itemOutcome)
    .set({ ...(await saidOfAction(tx, dossier, outcome.kind, says)), revision: revision + 1 })
    .where(eq(itemOutcome.id, outcomeId));
  await noteActions(tx, dossier.id);
  return { entry: { act: 'outcome.changed', ...(await about(tx, subject, outcome.kind)) }, result: null };
});

/** Removes a decision or an action, or puts it back. */
export const removeOutcome = acts('outcome.remove', [], async (tx, actor, { outcomeId, removed }) => {
  const subject = await outcomeFor(tx, actor, outcomeId);
  const { outcome, dossier } = subject;
  if (removed === (outcome.removedAt !== null)) refuse('conflict');
  await tx
    .update(itemOutcome)
    .set({ removedAt: removed ? now() : null })
    .where(eq(itemOutcome.id, outcomeId));
  await noteActions(tx, dossier.id);
  const act = removed ? 'outcome.removed' : 'outcome.putBack';
  return { entry: { act, ...(await about(tx, subject, outcome.kind)) }, result: null };
});

interface Says {
  readonly text: string;
  readonly personId: string | null;
  readonly who: string;
  readonly dueOn: string | null;
}

/**
 * What an outcome says, as it is kept. An action stands on the desk of who does it, so they must be able to see the dossier; a
 * decision is nobody's to do.
 */
async function saidOfAction(
  tx: Tx,
  dossier: { readonly id: string },
  kind: OutcomeKind,
  { text, personId, who, dueOn }: Says,
): Promise<Says> {
  if (kind === 'decision') return { text, personId: null, who: '', dueOn: null };
  if (personId === null) return { text, personId, who, dueOn };
  const { name } = await doerFor(tx, personId, dossier.id);
  return { text, personId, who: name, dueOn };
}

type Subject = Awaited<ReturnType<typeof agendaOfItem>>;

/** The journal never tells what an outcome says: its item may be confidential. */
async function about(tx: Tx, { agenda: found, item, dossier, named }: Subject, kind: OutcomeKind) {
  const number = numberOf(await itemsOf(tx, found.id), found.numbering, item.id);
  return { subjects: [dossier.id], detail: { kind: outcomeKindWords[kind].toLowerCase(), number, agenda: named } };
}

/** The printed agendas of meetings to come list what is open: they are made again. */
async function noteActions(tx: Tx, dossierId: string): Promise<void> {
  await tx
    .update(agenda)
    .set({ changedAt: now(), filingTries: 0, filing: 'waiting' })
    .where(
      and(
        eq(agenda.dossierId, dossierId),
        ne(agenda.filing, 'no'),
        not(isIssued),
        sql`${agenda.meetingId} in (select id from ${meeting} where ${gte(meeting.day, await today(tx))})`,
      ),
    );
}

/** Says that an action is done, or open again. */
export const settleAction = acts('action.settle', [], async (tx, actor, { outcomeId, done, remark }) => {
  const [found] = await tx
    .select({ personId: itemOutcome.personId, meetingId: agenda.meetingId })
    .from(itemOutcome)
    .innerJoin(agendaItem, eq(agendaItem.id, itemOutcome.itemId))
    .innerJoin(agenda, eq(agenda.id, agendaItem.agendaId))
    .where(and(eq(itemOutcome.id, outcomeId), isNull(itemOutcome.removedAt), eq(itemOutcome.kind, 'action')));
  if (!found?.meetingId) refuse('not-found');
  const isMine = found.personId === actor.personId;
  const { dossier, meeting: held } = await agendaSubject(
    tx,
    actor,
    { meetingId: found.meetingId },
    isMine ? 'see' : 'amend',
  );
  // Who does it needs no right to change the agenda; where the place stands still, nobody changes anything.
  await refuseStill(tx, dossier.lineage, 'amend');
  const settled = await tx
    .update(itemOutcome)
    .set(
      done
        ? { doneAt: now(), doneBy: actor.personId, doneRemark: remark }
        : { doneAt: null, doneBy: null, doneRemark: '' },
    )
    .where(and(eq(itemOutcome.id, outcomeId), done ? isNull(itemOutcome.doneAt) : isNotNull(itemOutcome.doneAt)))
    .returning({ id: itemOutcome.id });
  if (settled.length === 0) refuse('conflict', 'Somebody has said so already. Load the page again.');
  await noteActions(tx, dossier.id);
  const detail = { day: held?.day ?? '', name: dossier.name };
  return { entry: { act: done ? 'action.done' : 'action.reopened', subjects: [dossier.id], detail }, result: null };
});

/** Notes who was at a meeting. */
export const noteAttendance = acts('attendance.note', [], async (tx, actor, { meetingId, people }) => {
  const { meeting: held, dossier } = await agendaSubject(tx, actor, { meetingId }, 'amend');
  let noted = 0;
  for (const { attendeeId, presence } of people) {
    const changed = await tx
      .update(attendee)
      .set({ presence })
      .where(and(eq(attendee.id, attendeeId), eq(attendee.meetingId, meetingId)))
      .returning({ id: attendee.id });
    noted += changed.length;
  }
  if (noted === 0) refuse('not-found');
  const detail = { count: counted(noted, 'person', 'people'), day: held?.day ?? '', name: dossier.name };
  return { entry: { act: 'attendance.noted', subjects: [dossier.id], detail }, result: { noted } };
});
