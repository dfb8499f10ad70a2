import { and, asc, desc, eq, inArray, isNull, or, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { has } from '@/core/access/capability';
import { grouped } from '@/core/collections/grouped';
import { refuse } from '@/core/errors/refusal';
import type { PackEntryRow, PackIssueRow, PackLine, PackSheet, PageFault } from '@/core/packs/contract';
import { shownForm } from '@/core/reading/form';
import { stoppedBy } from '@/core/standstill/standstill';
import { asks } from '../acts/operation';
import { readersWithinItems } from '../agenda/read';
import { now } from '../base/clock';
import { db, type Reader, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import {
  agendaItem,
  document,
  meeting,
  pack,
  packEntry,
  packIssue,
  packReader,
  person,
  reading,
  readingForm,
  readingStage,
  version,
} from '../db/schema';
import type { Actor } from '../gate/actor';
import { placeFor, standstillOf } from '../gate/held';
import { ownOf, paperAllows, paperIsDisposed } from '../gate/visible';

/** A pack with its place, for a capability there. */
export async function packFor(reader: Reader, actor: Actor, packId: string, capability: 'see' | 'amend') {
  const [found] = await reader.select().from(pack).where(eq(pack.id, packId));
  if (!found) refuse('not-found');
  return { pack: found, place: await placeFor(reader, actor, found.placeId, capability) };
}

/** The same for a change, the pack's row locked: who changes it at the same moment waits. */
export async function packToChange(tx: Tx, actor: Actor, packId: string) {
  const { place } = await packFor(tx, actor, packId, 'amend');
  const [locked] = await tx.select().from(pack).where(eq(pack.id, packId)).for('update');
  if (!locked) refuse('not-found');
  return { pack: locked, place };
}

/** The entries of a pack that are there, depth first. */
export const entriesOf = (reader: Reader, packId: string) =>
  reader
    .select()
    .from(packEntry)
    .where(and(eq(packEntry.packId, packId), isNull(packEntry.removedAt)))
    .orderBy(asc(packEntry.position));

export type EntryRow = Awaited<ReturnType<typeof entriesOf>>[number];

/**
 * Who may know of each entry that is confidential, by entry. Of the section of an agenda's item that is what the agenda says now,
 * also of the items that it lies in there; of an item that was taken off, what it said last.
 */
export async function readersOfEntries(
  reader: Reader,
  entries: readonly EntryRow[],
): Promise<Map<string, readonly { readonly personId: string; readonly name: string }[]>> {
  const asAgenda = await readersByAgenda(reader, entries);
  const own = entries.filter(({ id, confidential }) => confidential && !asAgenda.has(id)).map(({ id }) => id);
  const rows =
    own.length === 0
      ? []
      : await reader
          .select({ entryId: packReader.entryId, personId: packReader.personId })
          .from(packReader)
          .where(inArray(packReader.entryId, own));
  const ids = new Map<string, readonly string[] | null>(own.map((id) => [id, []]));
  for (const [id, personIds] of grouped(rows, ({ entryId }) => entryId))
    ids.set(
      id,
      personIds.map(({ personId }) => personId),
    );
  for (const [id, personIds] of asAgenda) ids.set(id, personIds);
  const people = [...new Set([...ids.values()].flatMap((each) => each ?? []))];
  const names =
    people.length === 0
      ? []
      : await reader
          .select({ personId: person.id, name: person.name })
          .from(person)
          .where(inArray(person.id, people))
          .orderBy(asc(person.name));
  return new Map(
    [...ids].flatMap(([id, personIds]) =>
      personIds === null ? [] : [[id, names.filter(({ personId }) => personIds.includes(personId))] as const],
    ),
  );
}

/** Who may know of sections by the items of the agenda that they are of, as those are now; null for everybody. */
async function readersByAgenda(reader: Reader, entries: readonly EntryRow[]) {
  const itemIds = entries.flatMap(({ itemId }) => itemId ?? []);
  const found = new Map<string, readonly string[] | null>();
  if (itemIds.length === 0) return found;
  const agendas = await reader
    .selectDistinct({ agendaId: agendaItem.agendaId })
    .from(agendaItem)
    .where(inArray(agendaItem.id, itemIds));
  for (const { agendaId } of agendas) {
    // Also those that were taken off since.
    const items = await reader.select().from(agendaItem).where(eq(agendaItem.agendaId, agendaId));
    const within = await readersWithinItems(reader, items);
    for (const { id, itemId } of entries) {
      const told = itemId === null ? undefined : within.get(itemId);
      if (told !== undefined) found.set(id, told === null ? null : [...told]);
    }
  }
  return found;
}

/** The versions that entries stand for, of papers that meet a condition, with what keeps one from being pages. */
export async function papersOfEntries(reader: Reader, entries: readonly EntryRow[], seen: SQL) {
  const ids = entries.flatMap(({ id, documentId }) => (documentId === null ? [] : [id]));
  if (ids.length === 0) return new Map<string, Awaited<ReturnType<typeof rowsOf>>[number]>();
  return new Map((await rowsOf(reader, ids, seen)).map((row) => [row.entryId, row]));
}

const current = alias(version, 'current_version');
const form = alias(readingStage, 'form_stage');

async function rowsOf(reader: Reader, entryIds: readonly string[], seen: SQL) {
  const rows = await reader
    .select({
      entryId: packEntry.id,
      documentId: document.id,
      title: document.title,
      stamp: document.stamp,
      disposedAt: document.disposedAt,
      heldId: packEntry.versionId,
      currentVersion: current.number,
      versionId: version.id,
      versionNumber: version.number,
      sha256: version.sha256,
      fileName: version.fileName,
      mediaType: version.mediaType,
      pageCount: sql<number | null>`coalesce(${reading.pageCount}, ${readingForm.pages})`,
      outcome: form.outcome,
      why: form.why,
    })
    .from(packEntry)
    .innerJoin(document, eq(document.id, packEntry.documentId))
    .innerJoin(current, eq(current.id, document.versionId))
    .innerJoin(
      version,
      or(eq(version.id, packEntry.versionId), and(isNull(packEntry.versionId), eq(version.id, document.versionId))),
    )
    .leftJoin(reading, eq(reading.sha256, version.sha256))
    .leftJoin(readingForm, and(eq(readingForm.sha256, version.sha256), eq(readingForm.form, 'pages')))
    .leftJoin(form, and(eq(form.sha256, version.sha256), eq(form.stage, 'form')))
    .where(and(idIn(packEntry.id, entryIds), seen));
  return rows.map((row) => ({ ...row, fault: faultOf(row) }));
}

/** What keeps a paper from being pages; null: nothing. */
function faultOf(row: {
  readonly disposedAt: Date | null;
  readonly mediaType: string;
  readonly pageCount: number | null;
  readonly outcome: string | null;
  readonly why: string | null;
}): PageFault | null {
  if (row.disposedAt !== null) return 'disposed';
  if (row.why === 'protected') return 'protected';
  const canBePages = shownForm(row.mediaType);
  if (canBePages === null || canBePages === 'list') return 'noPages';
  if (row.pageCount !== null && row.pageCount > 0) return null;
  return row.outcome === null ? 'notRead' : row.why === 'damaged' ? 'damaged' : 'noPages';
}

const secondsLeftOf = ({ done, begunAt, record }: typeof packIssue.$inferSelect): number | null => {
  const of = record.entries.filter(({ documentId }) => documentId !== null).length;
  const took = begunAt === null ? 0 : (now().getTime() - begunAt.getTime()) / 1000;
  return took < 2 || done === 0 ? null : Math.max(0, (of - done) * (took / done));
};

/** The issues of some packs, by pack, the newest first. */
async function issuesOf(
  reader: Reader,
  actor: Actor,
  packIds: readonly string[],
): Promise<Map<string, PackIssueRow[]>> {
  if (packIds.length === 0) return new Map();
  const rows = await reader
    .select({ issue: packIssue, name: person.name, meetingId: pack.meetingId })
    .from(packIssue)
    .innerJoin(pack, eq(pack.id, packIssue.packId))
    .innerJoin(person, eq(person.id, packIssue.issuedBy))
    .where(inArray(packIssue.packId, [...packIds]))
    .orderBy(desc(packIssue.number));
  const byPack = grouped(rows, ({ issue }) => issue.packId);
  return new Map(
    [...byPack].map(([packId, issues]) => [
      packId,
      issues.map(({ issue, name, meetingId }): PackIssueRow => {
        const { id, called, supplementTo, state, fault, faultWords, done, pages, endReason, record, issuedAt } = issue;
        return {
          id,
          called,
          isSupplement: supplementTo !== null,
          state,
          fault,
          // Titles of papers are for whoever issued it: they were all open to them.
          faultWords: issue.issuedBy === ownOf(actor) ? faultWords : '',
          done,
          of: record.entries.filter(({ documentId }) => documentId !== null).length,
          secondsLeft: state === 'making' ? secondsLeftOf(issue) : null,
          pages,
          issuedBy: name,
          issuedAt: issuedAt?.toISOString() ?? null,
          ofMeeting: meetingId !== null,
          told: issue.toldAt === null ? null : { at: issue.toldAt.toISOString(), people: issue.told ?? 0 },
          endReason,
        };
      }),
    ]),
  );
}

/** Whether whoever may only read is told of an issue. */
const isOut = ({ state }: PackIssueRow): boolean => state === 'done' || state === 'withdrawn';

/** The packs of a meeting or a place: for whoever may put them together all of them, for others what is issued. */
export const packsOf = asks('packs.of', async (actor, { of }): Promise<readonly PackLine[]> => {
  const reader = db();
  const placeId = 'placeId' in of ? of.placeId : await dossierOf(reader, of.meetingId);
  const { held, lineage } = await placeFor(reader, actor, placeId, 'see');
  const mayAmend = has(held, 'amend');
  const still = await standstillOf(reader, lineage);
  const packs = await reader
    .select({ id: pack.id, name: pack.name })
    .from(pack)
    .where('placeId' in of ? eq(pack.placeId, of.placeId) : eq(pack.meetingId, of.meetingId))
    .orderBy(desc(pack.madeAt), asc(pack.id));
  const issues = await issuesOf(
    reader,
    actor,
    packs.map(({ id }) => id),
  );
  return packs.flatMap(({ id, name }) => {
    const all = issues.get(id) ?? [];
    const told = mayAmend ? all : all.filter(isOut);
    if (!mayAmend && told.length === 0) return [];
    return [{ id, name, mayChange: has(held & ~stoppedBy(still), 'amend'), issues: told }];
  });
});

async function dossierOf(reader: Reader, meetingId: string): Promise<string> {
  const [found] = await reader.select({ dossierId: meeting.dossierId }).from(meeting).where(eq(meeting.id, meetingId));
  return found?.dossierId ?? refuse('not-found');
}

/** A pack that is put together, for whoever may. Of a paper that they may not see they are told that one is there. */
export const packSheet = asks('pack.of', async (actor, { packId }): Promise<PackSheet> => {
  const reader = db();
  const { pack: found, place } = await packFor(reader, actor, packId, 'see');
  if (!has(place.held, 'amend')) refuse('not-allowed');
  const still = await standstillOf(reader, place.lineage);
  const entries = await entriesOf(reader, packId);
  const readers = await readersOfEntries(reader, entries);
  const papers = await papersOfEntries(reader, entries, or(paperAllows(actor, 'see'), paperIsDisposed(actor)) as SQL);
  const [held] =
    found.meetingId === null
      ? []
      : await reader
          .select({ id: meeting.id, day: meeting.day, title: meeting.title })
          .from(meeting)
          .where(eq(meeting.id, found.meetingId));
  const { id, name, description, preparedBy, forWhom, day, stampPlace, sheets, revision } = found;
  return {
    id,
    name,
    description,
    preparedBy,
    forWhom,
    day,
    stampPlace,
    sheets,
    hasPicture: found.pictureId !== null,
    revision,
    place: { id: place.id, name: place.name },
    meeting: held ?? null,
    mayChange: has(place.held & ~stoppedBy(still), 'amend'),
    entries: entries.map((entry): PackEntryRow => {
      const paper = papers.get(entry.id);
      const isHidden = entry.kind === 'paper' && !paper;
      return {
        id: entry.id,
        parentId: entry.parentId,
        kind: entry.kind,
        title: isHidden ? 'A paper that is not open to you' : entry.title,
        paper: paper
          ? {
              documentId: paper.documentId,
              title: paper.title,
              stamp: paper.stamp,
              heldVersion: paper.heldId === null ? null : paper.versionNumber,
              currentVersion: paper.currentVersion,
              pageCount: paper.pageCount,
              fault: paper.fault,
            }
          : null,
        pages: isHidden ? '' : entry.pages,
        readers: readers.get(entry.id) ?? null,
      };
    }),
    issues: (await issuesOf(reader, actor, [packId])).get(packId) ?? [],
  };
});
