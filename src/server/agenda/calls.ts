import { and, asc, eq, gte, isNull, sql } from 'drizzle-orm';
import type { OwedPaper } from '@/core/agenda/contract';
import { writeDay } from '@/core/calendar/typedDay';
import { refuse } from '@/core/errors/refusal';
import { acts, actsInSteps, asks } from '../acts/operation';
import { perform } from '../acts/act';
import { now } from '../base/clock';
import { config } from '../base/config';
import { db, type Tx } from '../db/client';
import { agenda, agendaItem, agendaPaper, meeting, paperCall, person, place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { refuseStill } from '../gate/held';
import { ownOf, placeAllows } from '../gate/visible';
import { trySendMail } from '../mail/outbox';
import { today } from '../scopes/memberships';
import { doerFor } from './doer';
import { noteChanged, numberOf } from './items';
import { attached } from './papers';
import { agendaName, agendaOfItem, agendaSubject, callColumns, itemsOf } from './read';

/** So many papers are asked for, for one item, and so many are listed. */
const [mostCalls, mostOwed] = [50, 300];

/** Asks somebody for a paper for an item. It stands on their desk until it is handed in; a mail says so too. */
export const callForPaper = actsInSteps('agenda.call', async (actor, { itemId, what, personId, who, dueOn }) => {
  const { callId, mail } = await perform(actor, async (tx) => {
    const { agenda: found, item, meeting: held, dossier, named } = await agendaOfItem(tx, actor, itemId);
    if (item.removedAt !== null) refuse('not-found');
    if (held === null) refuse('invalid', 'Papers are asked for, for a meeting: standing items are of none.');
    const there = and(eq(paperCall.itemId, itemId), isNull(paperCall.removedAt));
    if ((await tx.$count(paperCall, there)) >= mostCalls)
      refuse('invalid', `At most ${mostCalls} papers are asked for, for one item.`);
    const doer = personId === null ? null : await doerFor(tx, personId, dossier.id);
    const name = doer?.name ?? who;
    const [made] = await tx
      .insert(paperCall)
      .values({ itemId, what, personId, who: name, dueOn, calledAt: now() })
      .returning({ id: paperCall.id });
    if (!made) throw new Error('The call was not made');
    const number = numberOf(await itemsOf(tx, found.id), found.numbering, itemId);
    const by = dueOn === null ? '' : `, by ${writeDay(dueOn)}`;
    return {
      entry: { act: 'agenda.called', subjects: [dossier.id], detail: { person: name, number, agenda: named } },
      result: {
        callId: made.id,
        mail: doer && {
          to: { name: doer.name, address: doer.email },
          subject: `A paper for ${dossier.name}, ${writeDay(held.day)}`,
          text: [
            `${actor.name} asks you for “${what}”${by}.`,
            `It is handed in here, once it is filed: ${config().EMBRIN_URL}/meeting/${held.id}`,
          ].join('\n\n'),
        },
      },
    };
  });
  return { callId, sent: mail !== null && (await trySendMail(mail)) };
});

/** A call with its item and agenda, whose row is locked: for who may change the agenda, and who owes the paper. */
async function callFor(tx: Tx, actor: Actor, callId: string, alsoOwner: boolean) {
  const [found] = await tx
    .select({ call: paperCall, item: agendaItem, agenda })
    .from(paperCall)
    .innerJoin(agendaItem, eq(agendaItem.id, paperCall.itemId))
    .innerJoin(agenda, eq(agenda.id, agendaItem.agendaId))
    .where(and(eq(paperCall.id, callId), isNull(agendaItem.removedAt)));
  if (!found?.agenda.meetingId) refuse('not-found');
  const isOwner = alsoOwner && found.call.personId === actor.personId;
  const of = { meetingId: found.agenda.meetingId };
  const subject = await agendaSubject(tx, actor, of, isOwner ? 'see' : 'amend');
  // Who owes it needs no right to change the agenda; where the place stands still, nobody changes anything.
  await refuseStill(tx, subject.dossier.lineage, 'amend');
  await tx.select({ id: agenda.id }).from(agenda).where(eq(agenda.id, found.agenda.id)).for('update');
  const [call] = await tx.select().from(paperCall).where(eq(paperCall.id, callId));
  if (!call) refuse('not-found');
  const number = numberOf(await itemsOf(tx, found.agenda.id), found.agenda.numbering, call.itemId);
  return { ...found, call, subjects: [subject.dossier.id], detail: { number, agenda: agendaName(subject) } };
}

/** Takes back that somebody is asked for a paper, or asks again. */
export const uncallPaper = acts('agenda.uncall', [], async (tx, actor, { callId, removed }) => {
  const { call, subjects, detail } = await callFor(tx, actor, callId, false);
  if (removed === (call.removedAt !== null)) refuse('conflict');
  await tx
    .update(paperCall)
    .set({ removedAt: removed ? now() : null })
    .where(eq(paperCall.id, callId));
  const act = removed ? 'agenda.uncalled' : 'agenda.called';
  return { entry: { act, subjects, detail: { ...detail, person: call.who } }, result: null };
});

/** Hands in a paper that was asked for: one that the caller may see, which is attached to the item. Or takes that back. */
export const handInPaper = acts('agenda.handIn', [], async (tx, actor, { callId, documentId }) => {
  const { call, agenda: found, subjects, detail } = await callFor(tx, actor, callId, true);
  if (call.removedAt !== null || (documentId === null) === (call.documentId === null)) refuse('conflict');
  if (call.attached)
    await tx
      .delete(agendaPaper)
      .where(and(eq(agendaPaper.itemId, call.itemId), eq(agendaPaper.documentId, call.documentId ?? '')));
  const ids = documentId === null ? [] : (await attached(tx, actor, call.itemId, [documentId])).ids;
  await tx
    .update(paperCall)
    .set({ documentId, attached: ids.length > 0 })
    .where(eq(paperCall.id, callId));
  await noteChanged(tx, found.id);
  const act = documentId === null ? 'agenda.handedBack' : 'agenda.handedIn';
  return { entry: { act, subjects: documentId === null ? subjects : [...subjects, documentId], detail }, result: null };
});

/** Papers that are owed to meetings of today and later, the first due first: the caller's own, or all to meetings whose agendas they may change. */
export const papersOwed = asks('agenda.owed', async (actor, { whose }): Promise<readonly OwedPaper[]> => {
  const personId = ownOf(actor);
  if (personId === null) return [];
  const day = await today(db());
  const rows = await db()
    .select({
      ...callColumns,
      meeting: { id: meeting.id, day: meeting.day },
      dossier: { id: place.id, name: place.name },
    })
    .from(paperCall)
    .innerJoin(agendaItem, eq(agendaItem.id, paperCall.itemId))
    .innerJoin(agenda, eq(agenda.id, agendaItem.agendaId))
    .innerJoin(meeting, eq(meeting.id, agenda.meetingId))
    .innerJoin(place, eq(place.id, meeting.dossierId))
    .leftJoin(person, eq(person.id, paperCall.personId))
    .where(
      and(
        isNull(paperCall.removedAt),
        isNull(paperCall.documentId),
        isNull(agendaItem.removedAt),
        gte(meeting.day, day),
        whose === 'mine'
          ? and(eq(paperCall.personId, personId), placeAllows(actor, 'see'))
          : placeAllows(actor, 'amend'),
      ),
    )
    .orderBy(sql`${paperCall.dueOn} nulls last`, asc(meeting.day), asc(paperCall.id))
    .limit(mostOwed);
  return rows.map((row) => ({ ...row, isMine: row.personId === personId }));
});
