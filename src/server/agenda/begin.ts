import { and, asc, desc, eq, inArray, isNull, lt } from 'drizzle-orm';
import { beginning } from '@/core/agenda/begin';
import { branchOf } from '@/core/outline/move';
import { refuse } from '@/core/errors/refusal';
import { acts } from '../acts/operation';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { agenda, agendaItem, agendaPaper, agendaReader, attendee, meeting } from '../db/schema';
import type { ItemRow } from './items';
import { agendaName, agendaSubject, itemsOf, readersWithinItems } from './read';

/**
 * Begins an agenda: with the standing items of its dossier, and with what the last meeting before it carried over, papers and
 * readers included. Who attended that meeting is asked again. The standing items of a dossier begin empty.
 */
export const beginAgenda = acts('agenda.begin', [], async (tx, actor, { of }) => {
  const { meeting: held, dossier } = await agendaSubject(tx, actor, of, 'amend');
  const standing = await standingOf(tx, dossier.id);
  const meetingId = held?.id ?? null;
  const [made] = await tx
    .insert(agenda)
    .values({
      dossierId: dossier.id,
      meetingId,
      startsAt: held ? (standing?.startsAt ?? null) : null,
      numbering: standing?.numbering ?? 'figures',
      changedAt: now(),
    })
    // Two begin it at once: the second is told, and finds the items of the first.
    .onConflictDoNothing()
    .returning({ id: agenda.id });
  if (!made) refuse('conflict', 'It was begun meanwhile. Load the page again.');
  const entry = {
    act: 'agenda.begun',
    subjects: [dossier.id],
    detail: { agenda: agendaName({ meeting: held, dossier }) },
  } as const;
  if (held === null) return { entry, result: { agendaId: made.id, standing: 0, carried: 0 } };
  const last = await lastBefore(tx, dossier.id, held);
  await takeAttendees(tx, last?.meetingId ?? null, held.id);
  const standingItems = standing ? await itemsOf(tx, standing.id) : [];
  const lastItems = last ? await itemsOf(tx, last.agendaId) : [];
  // What lies in an item that is carried over goes with it, once.
  const carried = lastItems.filter(
    ({ carriesOver, parentId }) =>
      carriesOver && !lastItems.some((above) => above.id === parentId && isCarried(lastItems, above)),
  );
  const readers = await readersWithinItems(tx, lastItems);
  const branches = carried.map(({ id }) =>
    branchOf(lastItems, id).map((item) => ({
      ...item,
      confidential: readers.get(item.id) !== null,
      carriedFrom: last?.day ?? null,
      takesCarried: false,
    })),
  );
  const items = beginning<ItemRow>(standingItems, branches, (title) => ({
    ...emptyItem,
    id: crypto.randomUUID(),
    agendaId: made.id,
    title,
    takesCarried: true,
  }));
  await copyItems(tx, made.id, items, new Map([...(await readersWithinItems(tx, standingItems)), ...readers]));
  return {
    entry,
    result: {
      agendaId: made.id,
      standing: standingItems.length,
      carried: branches.reduce((sum, { length }) => sum + length, 0),
    },
  };
});

function isCarried(items: readonly ItemRow[], item: ItemRow): boolean {
  if (item.carriesOver) return true;
  const above = items.find(({ id }) => id === item.parentId);
  return above !== undefined && isCarried(items, above);
}

const emptyItem = {
  parentId: null,
  position: 0,
  presenter: '',
  minutes: null,
  kind: null,
  notes: '',
  confidential: false,
  carriesOver: false,
  carriedFrom: null,
  revision: 0,
  removedAt: null,
} as const;

async function standingOf(tx: Tx, dossierId: string) {
  const [found] = await tx
    .select()
    .from(agenda)
    .where(and(eq(agenda.dossierId, dossierId), isNull(agenda.meetingId)));
  return found;
}

/** The last meeting of the dossier before this one that has an agenda. */
async function lastBefore(tx: Tx, dossierId: string, { day }: { readonly day: string }) {
  const [found] = await tx
    .select({ agendaId: agenda.id, meetingId: meeting.id, day: meeting.day })
    .from(agenda)
    .innerJoin(meeting, eq(meeting.id, agenda.meetingId))
    .where(and(eq(meeting.dossierId, dossierId), lt(meeting.day, day)))
    .orderBy(desc(meeting.day), desc(meeting.id))
    .limit(1);
  return found;
}

/**
 * Copies items with their papers into an agenda, under new ids. What they say of carrying over is asked anew.
 * @param readers who may know of each, also by what it lay in: that need not come along
 */
async function copyItems(
  tx: Tx,
  agendaId: string,
  items: readonly ItemRow[],
  readers: ReadonlyMap<string, ReadonlySet<string> | null>,
): Promise<void> {
  if (items.length === 0) return;
  const newIds = new Map(items.map(({ id }) => [id, crypto.randomUUID()]));
  const newId = (id: string): string => newIds.get(id) ?? id;
  await tx.insert(agendaItem).values(
    items.map((item, position) => ({
      ...item,
      id: newId(item.id),
      agendaId,
      parentId: item.parentId === null ? null : newId(item.parentId),
      position,
      carriesOver: false,
      revision: 0,
      removedAt: null,
    })),
  );
  const ids = items.map(({ id }) => id);
  const told = ids.flatMap((id) => [...(readers.get(id) ?? [])].map((personId) => ({ itemId: newId(id), personId })));
  if (told.length > 0) await tx.insert(agendaReader).values(told);
  const papers = await tx.select().from(agendaPaper).where(inArray(agendaPaper.itemId, ids));
  if (papers.length > 0)
    await tx
      .insert(agendaPaper)
      .values(papers.map(({ id: _id, ...each }) => ({ ...each, itemId: newId(each.itemId) })));
}

/** Those who attended the last meeting attend this one too, until somebody says otherwise; they have not answered yet. */
async function takeAttendees(tx: Tx, fromId: string | null, toId: string): Promise<void> {
  const there = await tx.select({ id: attendee.id }).from(attendee).where(eq(attendee.meetingId, toId)).limit(1);
  if (fromId === null || there.length > 0) return;
  const before = await tx.select().from(attendee).where(eq(attendee.meetingId, fromId)).orderBy(asc(attendee.position));
  if (before.length === 0) return;
  await tx
    .insert(attendee)
    .values(before.map(({ id: _id, ...each }) => ({ ...each, meetingId: toId, answer: null, presence: null })));
}
