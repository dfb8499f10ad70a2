import { and, asc, eq, inArray, isNull, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { has } from '@/core/access/capability';
import type { AgendaItemRow, AgendaSheet, AttendeeRow } from '@/core/agenda/contract';
import { readersWithin, toldItems, type Readable } from '@/core/outline/told';
import { writeDay } from '@/core/calendar/typedDay';
import { grouped } from '@/core/collections/grouped';
import { refuse } from '@/core/errors/refusal';
import { stoppedBy } from '@/core/standstill/standstill';
import { asks } from '../acts/operation';
import { db, type Reader, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import {
  agenda,
  agendaItem,
  agendaPaper,
  agendaReader,
  attendee,
  document,
  meeting,
  paperCall,
  person,
  version,
} from '../db/schema';
import { dossierFor } from '../expected/slots';
import type { Actor } from '../gate/actor';
import { standstillOf } from '../gate/held';
import { isIssued } from './issued';
import { colleagueIsKnown, paperAllows, paperIsDisposed } from '../gate/visible';

/** What an agenda is of: a meeting, or a dossier whose standing items it is. */
export type AgendaOf = { readonly meetingId: string } | { readonly dossierId: string };

/** Whose sight it is: of somebody who is impersonated theirs. */
const sightOf = (actor: Actor): string => actor.seenBy?.personId ?? actor.personId;

/** The meeting and the dossier of an agenda, for a capability on the dossier. */
export async function agendaSubject(reader: Reader, actor: Actor, of: AgendaOf, capability: 'see' | 'amend') {
  if ('dossierId' in of) return { meeting: null, dossier: await dossierFor(reader, actor, of.dossierId, capability) };
  const [found] = await reader.select().from(meeting).where(eq(meeting.id, of.meetingId));
  if (!found) refuse('not-found');
  return { meeting: found, dossier: await dossierFor(reader, actor, found.dossierId, capability) };
}

/** An agenda for a change, its row locked: who changes it at the same moment waits. */
export async function agendaFor(tx: Tx, actor: Actor, agendaId: string) {
  const [found] = await tx
    .select({ dossierId: agenda.dossierId, meetingId: agenda.meetingId })
    .from(agenda)
    .where(eq(agenda.id, agendaId));
  if (!found) refuse('not-found');
  const of = found.meetingId === null ? { dossierId: found.dossierId } : { meetingId: found.meetingId };
  const subject = await agendaSubject(tx, actor, of, 'amend');
  const [locked] = await tx.select().from(agenda).where(eq(agenda.id, agendaId)).for('update');
  if (!locked) refuse('not-found');
  return { ...subject, agenda: locked, named: agendaName(subject) };
}

/** The agenda of an item, for a change, with the item as it is under the agenda's lock. */
export async function agendaOfItem(tx: Tx, actor: Actor, itemId: string) {
  const [found] = await tx.select({ agendaId: agendaItem.agendaId }).from(agendaItem).where(eq(agendaItem.id, itemId));
  if (!found) refuse('not-found');
  const subject = await agendaFor(tx, actor, found.agendaId);
  const [item] = await tx.select().from(agendaItem).where(eq(agendaItem.id, itemId));
  if (!item) refuse('not-found');
  return { ...subject, item };
}

/** What the journal calls an agenda: never by the titles of its items, which may be confidential. */
export const agendaName = ({ meeting: of, dossier }: { meeting: { day: string } | null; dossier: { name: string } }) =>
  of === null ? `standing items of “${dossier.name}”` : `agenda of “${dossier.name}” for ${writeDay(of.day)}`;

/** The items of an agenda that are there, depth first. */
export const itemsOf = (reader: Reader, agendaId: string) =>
  reader
    .select()
    .from(agendaItem)
    .where(and(eq(agendaItem.agendaId, agendaId), isNull(agendaItem.removedAt)))
    .orderBy(asc(agendaItem.position));

/** Who may know of the confidential ones of some items, with their names, by item. */
export async function readersOfItems(reader: Reader, itemIds: readonly string[]) {
  if (itemIds.length === 0) return new Map<string, { itemId: string; personId: string; name: string }[]>();
  const rows = await reader
    .select({ itemId: agendaReader.itemId, personId: agendaReader.personId, name: person.name })
    .from(agendaReader)
    .innerJoin(person, eq(person.id, agendaReader.personId))
    .where(inArray(agendaReader.itemId, [...itemIds]))
    .orderBy(asc(person.name));
  return grouped(rows, ({ itemId }) => itemId);
}

type Guarded = Pick<typeof agendaItem.$inferSelect, 'id' | 'parentId' | 'confidential'>;

/** Items with who may know of each by itself. */
export async function readableItems<Item extends Guarded>(reader: Reader, items: readonly Item[]): Promise<Readable[]> {
  const readers = await readersOfItems(
    reader,
    items.filter(({ confidential }) => confidential).map(({ id }) => id),
  );
  return items.map(({ id, parentId, confidential }) => ({
    id,
    parentId,
    readers: confidential ? new Set(readers.get(id)?.map(({ personId }) => personId)) : null,
  }));
}

/** Who may know of items by themselves and by what they lie in; null for everybody. */
export const readersWithinItems = async (reader: Reader, items: readonly Guarded[]) =>
  readersWithin(await readableItems(reader, items));

/** The papers of some items that the caller may see, in order, by item; also those in the disposal tray that they may put back. */
export async function papersOfItems(reader: Reader, actor: Actor, itemIds: readonly string[]) {
  if (itemIds.length === 0) return new Map<string, never[]>();
  const held = alias(version, 'held_version');
  const rows = await reader
    .select({
      id: agendaPaper.id,
      itemId: agendaPaper.itemId,
      documentId: document.id,
      title: document.title,
      stamp: document.stamp,
      pageCount: document.pageCount,
      heldVersion: held.number,
      heldVersionId: agendaPaper.versionId,
      currentVersion: version.number,
      disposedAt: document.disposedAt,
    })
    .from(agendaPaper)
    .innerJoin(document, eq(document.id, agendaPaper.documentId))
    .innerJoin(version, eq(version.id, document.versionId))
    .leftJoin(held, eq(held.id, agendaPaper.versionId))
    .where(and(idIn(agendaPaper.itemId, itemIds), sql`(${paperAllows(actor, 'see')} or ${paperIsDisposed(actor)})`))
    .orderBy(asc(agendaPaper.position), asc(agendaPaper.id));
  return grouped(rows, ({ itemId }) => itemId);
}

/** The papers that are asked for, for some items, by item. */
async function callsOfItems(reader: Reader, itemIds: readonly string[]) {
  if (itemIds.length === 0) return new Map<string, never[]>();
  const rows = await reader
    .select({ ...callColumns, itemId: paperCall.itemId })
    .from(paperCall)
    .leftJoin(person, eq(person.id, paperCall.personId))
    .where(and(idIn(paperCall.itemId, itemIds), isNull(paperCall.removedAt)))
    .orderBy(sql`${paperCall.dueOn} nulls last`, asc(paperCall.calledAt), asc(paperCall.id));
  return grouped(rows, ({ itemId }) => itemId);
}

/** A call for a paper as its row tells it, joined to the person who owes it. */
export const callColumns = {
  id: paperCall.id,
  what: paperCall.what,
  personId: paperCall.personId,
  who: sql<string>`coalesce(${person.name}, ${paperCall.who})`,
  dueOn: paperCall.dueOn,
  handedIn: sql<boolean>`${paperCall.documentId} is not null`,
};

/** Who attends a meeting, in order: members first. */
export async function attendeesOf(reader: Reader, actor: Actor, meetingId: string): Promise<AttendeeRow[]> {
  const rows = await reader
    .select({
      id: attendee.id,
      personId: attendee.personId,
      name: attendee.name,
      part: attendee.part,
      answer: attendee.answer,
      presence: attendee.presence,
    })
    .from(attendee)
    .leftJoin(person, eq(person.id, attendee.personId))
    .where(and(eq(attendee.meetingId, meetingId), or(isNull(attendee.personId), colleagueIsKnown(actor))))
    .orderBy(asc(attendee.position), asc(attendee.name));
  return rows
    .map((row) => ({ ...row, isMe: row.personId === sightOf(actor) }))
    .sort((a, b) => Number(a.part !== 'member') - Number(b.part !== 'member'));
}

/** The items of an agenda as the caller is told of them. Of a confidential one only the number, its length and its depth. */
export async function toldItemsOf(
  reader: Reader,
  actor: Actor,
  agendaId: string,
  knowsAll: boolean,
): Promise<AgendaItemRow[]> {
  const items = await itemsOf(reader, agendaId);
  const readers = await readersOfItems(
    reader,
    items.filter(({ confidential }) => confidential).map(({ id }) => id),
  );
  const readersOf = ({ id, confidential }: (typeof items)[number]) => (confidential ? (readers.get(id) ?? []) : null);
  const readable = items.map((item) => ({
    id: item.id,
    parentId: item.parentId,
    readers: item.confidential ? new Set(readersOf(item)?.map(({ personId }) => personId)) : null,
  }));
  const told = toldItems(readable, sightOf(actor), knowsAll);
  const open = items.filter((_item, at) => told[at] === true);
  const papers = await papersOfItems(
    reader,
    actor,
    open.map(({ id }) => id),
  );
  const calls = await callsOfItems(
    reader,
    items.map(({ id }) => id),
  );
  const callsOf = (itemId: string) =>
    (calls.get(itemId) ?? []).map(({ itemId: _item, ...call }) => ({
      ...call,
      isMine: call.personId === sightOf(actor),
    }));
  return items.map((item, at): AgendaItemRow => {
    const { id, parentId, minutes, revision } = item;
    // Who owes a paper knows what for.
    if (told[at] !== true)
      return { id, parentId, minutes, revision, ...nothingTold, calls: callsOf(id).filter(({ isMine }) => isMine) };
    const { title, presenter, kind, notes, carriesOver, takesCarried, carriedFrom } = item;
    return {
      id,
      parentId,
      title,
      presenter,
      minutes,
      kind,
      notes,
      carriesOver,
      takesCarried,
      carriedFrom,
      revision,
      readers: readersOf(item)?.map(({ personId, name }) => ({ personId, name })) ?? null,
      calls: callsOf(id),
      papers: (papers.get(id) ?? []).map(({ itemId: _item, heldVersionId: _held, disposedAt, ...paper }) => ({
        ...paper,
        disposed: disposedAt !== null,
      })),
    };
  });
}

const nothingTold = {
  title: null,
  presenter: '',
  kind: null,
  notes: '',
  readers: null,
  carriesOver: false,
  takesCarried: false,
  carriedFrom: null,
  papers: [],
} as const;

/** An agenda, or the standing items of a dossier, with who attends. */
export const agendaSheet = asks('agenda.of', async (actor, { of }): Promise<AgendaSheet> => {
  const reader = db();
  const { meeting: held, dossier } = await agendaSubject(reader, actor, of, 'see');
  const [found] = await reader
    .select()
    .from(agenda)
    .where(
      held === null ? and(eq(agenda.dossierId, dossier.id), isNull(agenda.meetingId)) : eq(agenda.meetingId, held.id),
    );
  const still = await standstillOf(reader, dossier.lineage);
  const filed = [found?.pdfId, found?.wordId].flatMap((id) => id ?? []);
  const papers =
    filed.length === 0
      ? []
      : await reader
          .select({ documentId: document.id, title: document.title })
          .from(document)
          .where(and(idIn(document.id, filed), paperAllows(actor, 'see'), isNull(document.disposedAt)));
  return {
    agenda: found
      ? {
          id: found.id,
          startsAt: found.startsAt,
          numbering: found.numbering,
          revision: found.revision,
          filing: found.filing,
          issued: (await reader.$count(agenda, and(eq(agenda.id, found.id), isIssued))) > 0,
          filed: filed.flatMap((id) => papers.find(({ documentId }) => documentId === id) ?? []),
        }
      : null,
    meeting: held && { id: held.id, day: held.day, title: held.title, venue: held.venue },
    dossier: { id: dossier.id, name: dossier.name },
    mayChange: has(dossier.held & ~stoppedBy(still), 'amend'),
    items: found ? await toldItemsOf(reader, actor, found.id, has(dossier.held, 'amend')) : [],
    attendees: held ? await attendeesOf(reader, actor, held.id) : [],
  };
});
