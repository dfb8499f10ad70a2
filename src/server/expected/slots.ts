import { and, eq, sql } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { stoppedBy } from '@/core/standstill/standstill';
import { isListed, type Column } from '@/core/columns/model';
import { refuse } from '@/core/errors/refusal';
import type { SlotRow } from '@/core/expected/contract';
import { officerOf } from '@/core/dossiers/details';
import { occasionKey, slotKey, slotsOf, type Slot } from '@/core/expected/slots';
import type { Expectation } from '@/core/plans/expectation';
import { asksNothing, isBlock } from '@/core/views/conditions';
import { isoDay } from '@/core/calendar/period';
import { asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { placeFor, standstillOf } from '../gate/held';
import { paperAllows, placeAllows, placeIsStill } from '../gate/visible';
import { db, type Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { document, expectedSay, meeting, person, place } from '../db/schema';
import { columnsIn } from '../columns/inForce';
import { expectingOf, type KnownDossier } from './expecting';

/** A dossier that the caller may see, with its series. */
export async function dossierFor(
  reader: Reader,
  actor: Actor,
  dossierId: string,
  capability: 'see' | 'add' | 'amend' | 'manage',
) {
  const found = await placeFor(reader, actor, dossierId, capability);
  if (found.kind !== 'dossier' || found.parentId === null) refuse('invalid', 'That is no dossier.');
  return { ...found, seriesId: found.parentId };
}

/** The expected papers of a dossier, or of one of its years, with their states and what the caller can do about them. */
export const expectedOf = asks('expected.of', async (actor, input) => {
  const { seriesId, held: capabilities, lineage } = await dossierFor(db(), actor, input.dossierId, 'see');
  const { fields, dossiers, calendar, held } = await expectingOf(actor, seriesId, input.dossierId);
  const [dossier] = dossiers;
  if (!dossier) refuse('not-found');
  const officerId = officerOf(fields, dossier.details);
  const [officer] =
    officerId === null
      ? []
      : await db().select({ id: person.id, name: person.name }).from(person).where(eq(person.id, officerId));
  const still = await standstillOf(db(), lineage);
  const base = { mayAmend: has(capabilities & ~stoppedBy(still), 'amend'), officer: officer ?? null };
  if (held === null) return { ...base, state: 'counting', slots: [] };
  const slots = slotsOf(dossier, held.facts, calendar.yearStartMonth).filter(
    ({ occasion }) => input.startYear === undefined || occasion.startYear === input.startYear,
  );
  const keyOf = (slot: Slot) => slotKey(slot.expectation.id, slot.occasion.key);
  const paperOf = (slot: Slot) => held.pointed.get(keyOf(slot)) ?? held.papers.get(keyOf(slot));
  const [papers, meetings, waivers, places, columns] = await Promise.all([
    titlesOf(
      actor,
      slots.flatMap((slot) => paperOf(slot) ?? []),
    ),
    meetingsById(slots.flatMap((slot) => slot.occasion.meetingId ?? [])),
    waiversOf(dossier.id),
    placesToFile(actor, dossier),
    columnsIn(actor, seriesId, true),
  ]);
  return {
    ...base,
    state: 'counted',
    slots: slots.map((slot): SlotRow => {
      const { expectation, occasion, due, state } = slot;
      const { startYear, meetingId } = occasion;
      const key = keyOf(slot);
      const paperId = paperOf(slot);
      const title = paperId === undefined ? undefined : papers.get(paperId);
      return {
        expectationId: expectation.id,
        dossierId: dossier.id,
        startYear,
        meetingId,
        name: expectation.name,
        timing: expectation.timing,
        meeting: meetingId === null ? null : (meetings.get(meetingId) ?? null),
        due: isoDay(due),
        state,
        paper: paperId === undefined || title === undefined ? null : { id: paperId, title },
        runsOut: dayOrNull(held.runsOut.get(key)),
        pointed: held.pointed.has(key),
        waiver: waivers.get(key) ?? null,
        place: places(slot),
        values: plainValues(expectation, columns),
      };
    }),
  };
});

const dayOrNull = (day: number | undefined): string | null => (day === undefined ? null : isoDay(day));

async function titlesOf(actor: Actor, ids: readonly string[]): Promise<Map<string, string>> {
  if (ids.length === 0) return new Map();
  const rows = await db()
    .select({ id: document.id, title: document.title })
    .from(document)
    .where(and(idIn(document.id, new Set(ids)), paperAllows(actor, 'see')));
  return new Map(rows.map(({ id, title }) => [id, title]));
}

/** Meetings by id. The caller has been checked to see their dossiers. */
export async function meetingsById(
  ids: readonly string[],
): Promise<ReadonlyMap<string, { readonly day: string; readonly title: string }>> {
  if (ids.length === 0) return new Map();
  const rows = await db()
    .select({ id: meeting.id, day: meeting.day, title: meeting.title })
    .from(meeting)
    .where(idIn(meeting.id, new Set(ids)));
  return new Map(rows.map(({ id, ...rest }) => [id, rest]));
}

async function waiversOf(dossierId: string): Promise<Map<string, { reason: string; by: string }>> {
  const rows = await db()
    .select({
      expectationId: expectedSay.expectationId,
      startYear: expectedSay.startYear,
      meetingId: expectedSay.meetingId,
      reason: expectedSay.reason,
      by: sql<string>`${person.name}`,
    })
    .from(expectedSay)
    .innerJoin(person, eq(person.id, expectedSay.saidBy))
    .where(and(eq(expectedSay.dossierId, dossierId), sql`${expectedSay.documentId} is null`));
  return new Map(
    rows.map(({ expectationId, startYear, meetingId, reason, by }) => [
      slotKey(expectationId, occasionKey(dossierId, startYear, meetingId)),
      { reason, by },
    ]),
  );
}

/** Where the caller can file papers of a dossier, by slot. */
async function placesToFile(actor: Actor, dossier: KnownDossier): Promise<(slot: Slot) => SlotRow['place']> {
  const rows = await db()
    .select({ id: place.id, name: place.name, kind: place.kind, year: place.filingYear, key: place.plannedKey })
    .from(place)
    .where(
      and(
        sql`${place.lineage} @> array[${dossier.id}::uuid]`,
        placeAllows(actor, 'add'),
        sql`not ${placeIsStill('add')}`,
      ),
    )
    .orderBy(sql`array_length(${place.lineage}, 1)`, place.position);
  const as = (row: (typeof rows)[number] | undefined) => (row ? { id: row.id, name: row.name } : null);
  return ({ expectation, occasion: { startYear, meetingId } }) => {
    const madeFor = meetingId ?? (startYear === null ? '' : String(startYear));
    const key = `${expectation.folderId} ${madeFor}`.trim();
    if (expectation.folderId !== null) return as(rows.find((row) => row.key === key));
    if (meetingId !== null) return as(rows.find((row) => row.key?.endsWith(` ${meetingId}`)));
    return as(
      rows.find((row) => (startYear === null ? row.id === dossier.id : row.kind === 'year' && row.year === startYear)),
    );
  };
}

/** The column values that make a paper meet an expectation, if each condition is a single value; else null. */
function plainValues({ conditions }: Expectation, columns: readonly Column[]): Readonly<Record<string, string>> | null {
  const values: Record<string, string> = {};
  for (const part of conditions) {
    if (isBlock(part)) return null;
    if (asksNothing(part)) continue;
    const column = columns.find((each) => each.id === part.of);
    const [value] = 'anyOf' in part ? part.anyOf : [];
    if (!column || !isListed(column.type) || typeof value !== 'string') return null;
    values[column.id] = value;
  }
  return values;
}
