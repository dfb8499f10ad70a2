import { isDeepStrictEqual } from 'node:util';
import { and, asc, eq, gt, isNull, sql } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { fullNumbersOf } from '@/core/agenda/numbering';
import { writeDay } from '@/core/calendar/typedDay';
import { grouped } from '@/core/collections/grouped';
import { Refusal, refuse } from '@/core/errors/refusal';
import type { MinutesSheet } from '@/core/minutes/contract';
import { quorumOf } from '@/core/minutes/quorum';
import { headingOf, lineMarkup, lineOf, minutesMarkup } from '@/core/minutes/text';
import { depthsOf } from '@/core/outline/outline';
import { stoppedBy } from '@/core/standstill/standstill';
import { counted } from '@/core/text/measure';
import { perform } from '../acts/act';
import { actsInSteps, asks } from '../acts/operation';
import { outcomesOfMeeting, writtenOf } from '../agenda/outcomes';
import { agendaSubject, itemsOf, readersWithinItems } from '../agenda/read';
import { now } from '../base/clock';
import { writeOwn } from '../columns/write';
import { db, type Reader, type Tx } from '../db/client';
import {
  agenda,
  attendee,
  document,
  itemOutcome,
  meeting,
  minutes,
  note,
  noteChange,
  place,
  version,
} from '../db/schema';
import { expectedHome } from '../expected/home';
import type { Actor } from '../gate/actor';
import { papersFor, standstillOf } from '../gate/held';
import { paperAllows } from '../gate/visible';
import { filedNote, requireWriting } from '../notes/create';
import { keepNote } from '../notes/keep';
import { begunWith, changeWith, joined, type NoteLine } from '../notes/text';
import { beginNote, standOf } from '../notes/write';
import { planOfSeries } from '../plans/read';

/** What the filing plan calls minutes. */
const called = /\bminutes\b/iu;

/** A meeting of a dossier, with its agenda where it has one. */
async function heldMeeting(reader: Reader, actor: Actor, meetingId: string, capability: 'see' | 'amend') {
  const { meeting: held, dossier } = await agendaSubject(reader, actor, { meetingId }, capability);
  if (held === null) refuse('not-found');
  const [found] = await reader.select().from(agenda).where(eq(agenda.meetingId, meetingId));
  return { held, dossier, agenda: found ?? null };
}

/** The minutes of a meeting as the caller may know of them, and what its items came to. */
export const minutesOf = asks('minutes.of', async (actor, { meetingId }): Promise<MinutesSheet> => {
  const reader = db();
  const { held, dossier, agenda: found } = await heldMeeting(reader, actor, meetingId, 'see');
  const still = await standstillOf(reader, dossier.lineage);
  const mayChange = has(dossier.held & ~stoppedBy(still), 'amend');
  const kept = await keptMinutes(reader, actor, meetingId);
  const expected = mayChange && kept === null ? await expectedHome(actor, dossier.id, meetingId, called) : null;
  const later = await reader
    .select({ id: meeting.id, day: meeting.day })
    .from(meeting)
    .where(and(eq(meeting.dossierId, dossier.id), gt(meeting.day, held.day)))
    .orderBy(asc(meeting.day), asc(meeting.id))
    .limit(50);
  return {
    mayChange,
    outcomes: await outcomesOfMeeting(reader, actor, meetingId),
    quorum: await quorumFor(reader, dossier),
    minutes: kept?.told ?? null,
    found: expected?.paper ? { documentId: expected.paper.id, title: expected.paper.title } : null,
    unwritten: mayChange && found && kept?.told?.isNote === true ? (await unwrittenLines(reader, found)).length : 0,
    later,
  };
});

async function quorumFor(reader: Reader, dossier: { readonly id: string; readonly seriesId: string }) {
  const { fields } = await planOfSeries(reader, dossier.seriesId);
  const [row] = await reader.select({ details: place.details }).from(place).where(eq(place.id, dossier.id));
  return quorumOf(fields, row?.details ?? {});
}

/** The minutes that are kept of a meeting; `told` is null where the caller may not see them. Null: there are none. */
async function keptMinutes(reader: Reader, actor: Actor, meetingId: string) {
  const [kept] = await reader.select().from(minutes).where(eq(minutes.meetingId, meetingId));
  if (!kept) return null;
  const [paper] = await reader
    .select({
      title: document.title,
      isNote: sql<boolean>`exists (select from ${note} where ${note.documentId} = ${document.id})`,
      isChanged: sql<boolean>`${document.versionId} <> ${kept.agreedVersionId}::uuid`,
    })
    .from(document)
    .where(and(eq(document.id, kept.documentId), isNull(document.disposedAt), paperAllows(actor, 'see')));
  if (!paper) return { ...kept, told: null };
  const [agreed] = await reader
    .select({ on: meeting.day, version: version.number })
    .from(meeting)
    .innerJoin(version, eq(version.id, kept.agreedVersionId ?? meetingId))
    .where(eq(meeting.id, kept.agreedAt ?? meetingId));
  return {
    ...kept,
    told: {
      documentId: kept.documentId,
      title: paper.title,
      isNote: paper.isNote,
      agreed: agreed && kept.agreedAt !== null ? { ...agreed, isChanged: paper.isChanged } : null,
    },
  };
}

/** Begins a meeting's minutes as a note, where the plan expects them; or takes a paper that is there for them. */
export const beginMinutes = actsInSteps('minutes.begin', async (actor, { meetingId, documentId }) => {
  const { held, dossier, agenda: found } = await heldMeeting(db(), actor, meetingId, 'amend');
  if (documentId !== null) return takePaper(actor, meetingId, documentId);
  if (found === null) refuse('invalid', 'The minutes follow the agenda: begin that first.');
  const home = await expectedHome(actor, dossier.id, meetingId, called);
  await requireWriting(actor, home.placeId);
  const title = `Minutes of ${dossier.name}, ${writeDay(held.day)}`;
  const { markup, lines } = await minutesAsText(db(), actor, { held, dossier, agenda: found });
  const begun = await begunWith(markup);
  const text = await joined(title, [begun.change]);
  return perform(actor, async (tx) => {
    await requireNone(tx, actor, meetingId);
    // What was made confidential while the text was laid out is in no minutes.
    await tx.select({ id: agenda.id }).from(agenda).where(eq(agenda.id, found.id)).for('update');
    const again = await minutesAsText(tx, actor, { held, dossier, agenda: found });
    if (again.markup !== markup) refuse('conflict');
    const { result } = await filedNote(tx, actor, home.placeId, title, begun, text);
    const changes = Object.entries(home.values).map(([columnId, after]) => ({
      documentId: result.documentId,
      columnId,
      before: null,
      after,
    }));
    await writeOwn(tx, actor, changes);
    await tx.insert(minutes).values({ meetingId, documentId: result.documentId });
    await noteWritten(tx, lines);
    const detail = { day: held.day, name: dossier.name, title };
    return { entry: { act: 'minutes.begun', subjects: [dossier.id, result.documentId], detail }, result };
  });
});

/** Refuses where a meeting has minutes that are there. Of two who begin them at once the second waits here, and is told. */
async function requireNone(tx: Tx, actor: Actor, meetingId: string): Promise<void> {
  await heldMeeting(tx, actor, meetingId, 'amend');
  await tx.select({ id: meeting.id }).from(meeting).where(eq(meeting.id, meetingId)).for('update');
  const [there] = await tx
    .select({ disposedAt: document.disposedAt })
    .from(minutes)
    .innerJoin(document, eq(document.id, minutes.documentId))
    .where(eq(minutes.meetingId, meetingId));
  if (there && there.disposedAt === null) refuse('conflict', 'The minutes were begun meanwhile. Load the page again.');
  await tx.delete(minutes).where(eq(minutes.meetingId, meetingId));
}

function takePaper(actor: Actor, meetingId: string, documentId: string): Promise<{ documentId: string }> {
  return perform(actor, async (tx) => {
    await requireNone(tx, actor, meetingId);
    const { held, dossier } = await heldMeeting(tx, actor, meetingId, 'amend');
    const [paper] = await papersFor(tx, actor, [documentId], 'see');
    if (!paper) refuse('not-found');
    await tx.insert(minutes).values({ meetingId, documentId });
    const detail = { day: held.day, name: dossier.name, title: paper.title };
    return {
      entry: { act: 'minutes.taken', subjects: [dossier.id, documentId], detail },
      result: { documentId },
    };
  });
}

type Agenda = typeof agenda.$inferSelect;

/** The items of an agenda as the minutes have them: all who see the folder read those, so of a confidential one the number alone. */
async function minuteItems(reader: Reader, found: Agenda) {
  const items = await itemsOf(reader, found.id);
  const readers = await readersWithinItems(reader, items);
  const numbers = fullNumbersOf(items, found.numbering);
  const depths = depthsOf(items);
  return items.map(({ id, title }, at) => ({
    id,
    title: readers.get(id) === null ? title : null,
    number: numbers[at] ?? '',
    depth: depths[at] ?? 1,
  }));
}

/** The minutes as they begin, and how each outcome stands in them. */
async function minutesAsText(
  reader: Reader,
  actor: Actor,
  {
    held,
    dossier,
    agenda: found,
  }: {
    readonly held: typeof meeting.$inferSelect;
    readonly dossier: { readonly id: string; readonly name: string; readonly seriesId: string };
    readonly agenda: Agenda;
  },
) {
  const outcomes = grouped(await outcomesOfMeeting(reader, actor, held.id), ({ itemId }) => itemId);
  const attendees = await reader
    .select({ name: attendee.name, part: attendee.part, presence: attendee.presence })
    .from(attendee)
    .where(eq(attendee.meetingId, held.id))
    .orderBy(asc(attendee.position), asc(attendee.name));
  const items = await minuteItems(reader, found);
  const told = items.flatMap(({ id, title }) => (title === null ? [] : (outcomes.get(id) ?? [])));
  const markup = minutesMarkup({
    meeting: held.title === dossier.name ? held.title : `${dossier.name}: ${held.title}`,
    day: held.day,
    venue: held.venue,
    startsAt: found.startsAt,
    attendees,
    quorum: await quorumFor(reader, dossier),
    items: items.map((item) => ({ ...item, outcomes: outcomes.get(item.id) ?? [] })),
  });
  return { markup, lines: told.map((outcome) => ({ id: outcome.id, line: lineOf(outcome) })) };
}

/** Notes how outcomes stand in the minutes; null: not any more. */
async function noteWritten(
  tx: Tx,
  lines: readonly { readonly id: string; readonly line: string | null }[],
): Promise<void> {
  for (const { id, line } of lines) await tx.update(itemOutcome).set({ written: line }).where(eq(itemOutcome.id, id));
}

/** The lines that the minutes lack or have otherwise. Of confidential items there are none. */
async function unwrittenLines(reader: Reader, found: Agenda) {
  const items = new Map((await minuteItems(reader, found)).map((item) => [item.id, item]));
  return (await writtenOf(reader, found.meetingId ?? found.id)).flatMap((outcome) => {
    const item = items.get(outcome.itemId);
    const isOut = outcome.removedAt !== null || item === undefined || item.title === null;
    const line = isOut ? null : lineOf(outcome);
    const { id, written } = outcome;
    if (line === written) return [];
    return [
      {
        id,
        line,
        markup: isOut ? '' : lineMarkup(outcome),
        number: item?.number ?? '',
        heading: headingOf(item?.number ?? '', item?.title ?? null),
        replaces: written,
      },
    ];
  });
}

/**
 * Puts the decisions and actions into the minutes that are not there as they are now: each under the heading of its item, in the
 * stead of the line that it was. Who writes in the note at the same moment loses nothing.
 */
export const writeInto = actsInSteps('minutes.writeIn', async (actor, { meetingId }) => {
  const { agenda: found } = await heldMeeting(db(), actor, meetingId, 'amend');
  const kept = await keptMinutes(db(), actor, meetingId);
  if (!found || !kept?.told) refuse('not-found');
  if (!kept.told.isNote) refuse('invalid', 'These minutes are not written here, so nothing can be put into them.');
  const { documentId } = kept;
  // Begun anew where a newer version of it was filed.
  await beginNote(actor, { documentId });
  const stand = await standOf(db(), documentId);
  const lines = await unwrittenLines(db(), found);
  if (lines.length === 0) return { written: 0 };
  const changes = await db()
    .select({ change: noteChange.change })
    .from(noteChange)
    .where(eq(noteChange.documentId, documentId))
    .orderBy(asc(noteChange.number));
  const change = await changeWith(
    changes.map((each) => each.change),
    lines.map(({ number, heading, markup, replaces }): NoteLine => ({ number, heading, markup, replaces })),
  );
  const done = await perform(actor, async (tx) => {
    const { held, dossier } = await heldMeeting(tx, actor, meetingId, 'amend');
    await papersFor(tx, actor, [documentId], 'amend');
    await tx.select({ id: agenda.id }).from(agenda).where(eq(agenda.id, found.id)).for('update');
    const again = await standOf(tx, documentId);
    if (!again.isCurrent || again.round !== stand.round) refuse('conflict');
    // Put in by another who pressed at once, changed, or made confidential meanwhile: then none of it is put in.
    if (!isDeepStrictEqual(await unwrittenLines(tx, found), lines)) refuse('conflict');
    const [last] = await tx
      .select({ number: sql<number>`max(${noteChange.number})::int` })
      .from(noteChange)
      .where(eq(noteChange.documentId, documentId));
    await tx.insert(noteChange).values({
      documentId,
      number: (last?.number ?? 0) + 1,
      round: stand.round,
      change,
      personId: actor.personId,
      at: now(),
    });
    await noteWritten(tx, lines);
    const detail = { count: counted(lines.length, 'change'), day: held.day, name: dossier.name };
    return {
      entry: { act: 'minutes.writtenIn', subjects: [dossier.id, documentId], detail },
      result: { written: lines.length },
    };
  });
  await keepNote(actor, { documentId });
  return done;
});

/** Says that a later meeting of the dossier agreed the minutes as they are now; or that none has. */
export const agreeMinutes = actsInSteps('minutes.agree', async (actor, { meetingId, atMeetingId }) => {
  await heldMeeting(db(), actor, meetingId, 'amend');
  const before = await keptMinutes(db(), actor, meetingId);
  if (!before?.told) refuse('not-found', 'There are no minutes of this meeting yet.');
  // What is agreed is what was read: with what was written last.
  const mayWrite = await papersFor(db(), actor, [before.documentId], 'amend').then(
    () => true,
    (error: unknown) => {
      if (!(error instanceof Refusal)) throw error;
      return false;
    },
  );
  if (before.told.isNote && mayWrite && atMeetingId !== null) await keepNote(actor, { documentId: before.documentId });
  return perform(actor, async (tx) => {
    const { held, dossier } = await heldMeeting(tx, actor, meetingId, 'amend');
    const [kept] = await tx.select().from(minutes).where(eq(minutes.meetingId, meetingId)).for('update');
    if (kept?.documentId !== before.documentId) refuse('conflict');
    const subjects = [dossier.id, kept.documentId];
    const detail = { day: held.day, name: dossier.name };
    const say = (agreed: { agreedAt: string | null; agreedVersionId: string | null }) =>
      tx.update(minutes).set(agreed).where(eq(minutes.meetingId, meetingId));
    if (atMeetingId === null) {
      await say({ agreedAt: null, agreedVersionId: null });
      return { entry: { act: 'minutes.notAgreed', subjects, detail }, result: null };
    }
    const [at] = await tx.select().from(meeting).where(eq(meeting.id, atMeetingId));
    if (at?.dossierId !== dossier.id || at.day <= held.day)
      refuse('invalid', 'Minutes are agreed at a later meeting of the same dossier.');
    const [paper] = await papersFor(tx, actor, [kept.documentId], 'see');
    await say({ agreedAt: at.id, agreedVersionId: paper?.versionId ?? null });
    return { entry: { act: 'minutes.agreed', subjects, detail: { ...detail, on: at.day } }, result: null };
  });
});
