import { and, eq, sql } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { refuse } from '@/core/errors/refusal';
import type { SlotName } from '@/core/expected/contract';
import { filingYearLabel } from '@/core/calendar/filingYear';
import { acts, actsInSteps } from '../acts/operation';
import { perform } from '../acts/act';
import type { Actor } from '../gate/actor';
import { capabilitiesIn, papersFor, placeFor } from '../gate/held';
import { paperAllows } from '../gate/visible';
import { config } from '../base/config';
import type { Reader } from '../db/client';
import { document, expectedSay, filingYear, meeting, person } from '../db/schema';
import { libraryCalendar } from '../calendar/libraryCalendar';
import { trySendMail } from '../mail/outbox';
import { planOfSeries } from '../plans/read';
import { dossierFor } from './slots';

/** An expected paper by name: “Minutes” of “Full board”, 14 Jul 2026. */
export async function slotFor(reader: Reader, actor: Actor, slot: SlotName, capability: 'add' | 'amend') {
  const dossier = await dossierFor(reader, actor, slot.dossierId, capability);
  const { expected } = await planOfSeries(reader, dossier.seriesId);
  const expectation = expected.find((each) => each.id === slot.expectationId);
  if (!expectation) refuse('gone', 'The plan expects that paper no more. Load the page again.');
  const [of] =
    slot.meetingId === null
      ? []
      : await reader
          .select({ day: meeting.day, title: meeting.title })
          .from(meeting)
          .where(and(eq(meeting.id, slot.meetingId), eq(meeting.dossierId, dossier.id)));
  const [kept] =
    slot.startYear === null
      ? []
      : await reader.select().from(filingYear).where(eq(filingYear.startYear, slot.startYear));
  const fits = {
    once: slot.startYear === null && slot.meetingId === null,
    year: kept !== undefined && slot.meetingId === null,
    meeting: of !== undefined,
  }[expectation.timing];
  if (!fits) refuse('not-found');
  const madeFor =
    of?.day ?? (slot.startYear === null ? '' : filingYearLabel(slot.startYear, await libraryCalendar(reader)));
  return { dossier, expectation, of: madeFor === '' ? dossier.name : `${dossier.name}, ${madeFor}` };
}

/**
 * States which paper an expected one is, or that it is not needed, or removes the statement. A caller who may only add
 * can name a paper they filed, if nothing was stated before.
 */
export const sayOfExpected = acts('expected.say', [], async (tx, actor, { says, ...slot }) => {
  const paperId = says !== null && 'paper' in says ? says.paper : null;
  const [paper] = paperId === null ? [] : await papersFor(tx, actor, [paperId], 'see');
  const isOwn = paper?.filedBy === actor.personId;
  const { dossier, expectation, of } = await slotFor(tx, actor, slot, isOwn ? 'add' : 'amend');
  // A meeting belongs to one year, so statements about it are found by the meeting alone.
  const named = { ...slot, startYear: slot.meetingId === null ? slot.startYear : null };
  const unsaid = await tx
    .delete(expectedSay)
    .where(
      and(
        eq(expectedSay.expectationId, named.expectationId),
        eq(expectedSay.dossierId, named.dossierId),
        sql`${expectedSay.startYear} is not distinct from ${named.startYear}`,
        sql`${expectedSay.meetingId} is not distinct from ${named.meetingId}::uuid`,
      ),
    )
    .returning({ documentId: expectedSay.documentId });
  if (isOwn && (await stands(tx, actor, unsaid))) await placeFor(tx, actor, dossier.id, 'amend');
  const detail = { expected: expectation.name, of };
  const subjects = [dossier.id];
  if (says === null)
    return { entry: unsaid.length === 0 ? null : { act: 'expected.unsaid', subjects, detail }, result: null };
  if ('notNeeded' in says) {
    await tx.insert(expectedSay).values({ ...named, reason: says.notNeeded, saidBy: actor.personId });
    return {
      entry: { act: 'expected.waived', subjects, detail: { ...detail, reason: says.notNeeded } },
      result: null,
    };
  }
  if (!paper) refuse('not-found');
  await tx.insert(expectedSay).values({ ...named, documentId: paper.id, saidBy: actor.personId });
  // The title is left to the paper's own journal: readers of the dossier may not know of the paper.
  return { entry: { act: 'expected.pointed', subjects: [dossier.id, paper.id], detail }, result: null };
});

/** Whether a statement counts for the caller: that the paper is not needed, or a paper they may see. */
async function stands(
  reader: Reader,
  actor: Actor,
  said: readonly { readonly documentId: string | null }[],
): Promise<boolean> {
  const [one] = said;
  if (!one || one.documentId === null) return one !== undefined;
  const found = await reader
    .select({ id: document.id })
    .from(document)
    .where(and(eq(document.id, one.documentId), paperAllows(actor, 'see')));
  return found.length > 0;
}

/** Asks a colleague for an expected paper, by mail. */
export const askForExpected = actsInSteps('expected.ask', async (actor, { personId, words, ...slot }) => {
  const sent = await perform(actor, async (tx) => {
    const { dossier, expectation, of } = await slotFor(tx, actor, slot, 'amend');
    const [to] = await tx
      .select({ name: person.name, address: person.email, keeper: person.keeper })
      .from(person)
      .where(and(eq(person.id, personId), eq(person.active, true)));
    if (!to) refuse('not-found', 'That colleague has no account here any more.');
    // The message names the dossier, so its recipient has to be allowed to know of it.
    const theirs = await capabilitiesIn(tx, { ...to, personId, email: to.address }, dossier.scopeId);
    if (!has(theirs, 'see'))
      refuse('invalid', `${dossier.name} is not open to ${to.name}. Ask someone else, or open it to them first.`);
    const [from] = await tx.select({ name: person.name }).from(person).where(eq(person.id, actor.personId));
    const mail = {
      to,
      subject: `${expectation.name}: ${of}`,
      text: [
        `${from?.name ?? 'A colleague'} asks you for “${expectation.name}” of ${of}.`,
        words,
        `It is filed here: ${config().EMBRIN_URL}/place/${dossier.id}`,
      ]
        .filter((each) => each !== '')
        .join('\n\n'),
    };
    const detail = { expected: expectation.name, of, person: to.name };
    return { entry: { act: 'expected.asked', subjects: [dossier.id], detail }, result: mail };
  });
  return { sent: await trySendMail(sent) };
});
