import { and, eq, inArray, isNull } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { dayAt, dayNumber, isoDay } from '@/core/calendar/period';
import { invalidField } from '@/core/errors/issue';
import { refuse, Refusal } from '@/core/errors/refusal';
import type { AskedSigner } from '@/core/signoff/contract';
import type { ReadInputOf } from '@/core/contract';
import { counted } from '@/core/text/measure';
import { acts, actsInSteps } from '../acts/operation';
import { perform } from '../acts/act';
import { readersOf } from '../access/readers';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { document, outsideLink, signer, signOff, version } from '../db/schema';
import { noteSignatures } from '../documents/signature';
import { slotFor } from '../expected/says';
import { expectedOf } from '../expected/slots';
import type { Actor } from '../gate/actor';
import { capabilitiesOn, papersFor, placeFor } from '../gate/held';
import { librarySettings } from '../library/settings';
import { trySendMail, type Mail } from '../mail/outbox';
import { callTurns, signersOf, signOffFor, standingFrom, type FoundSignOff } from './turns';

/** The day by which people answer lies at most so many days ahead: a link to someone outside lasts a year. */
const mostDaysAhead = 300;

/** Signed copies of larger files cannot be bound. */
const mostBytes = 60_000_000;

/** Sends messages about what is done. Returns the names of those whom they did not reach. */
export async function sendAll(mails: readonly Mail[]): Promise<string[]> {
  const notReached: string[] = [];
  for (const mail of mails) if (!(await trySendMail(mail))) notReached.push(mail.to.name);
  return notReached;
}

/**
 * Asks people to sign or approve the current version of a paper. Needs `manage`: who may be asked is who may see the paper, and
 * only who manages it is told.
 */
export const askForSignatures = actsInSteps('signoff.ask', async (actor, input) => {
  const { timeZone } = await librarySettings();
  const today = dayAt(now().getTime(), timeZone);
  const due = input.dueOn === null ? null : dayNumber(input.dueOn);
  if (due !== null && (due < today || due > today + mostDaysAhead))
    throw new Refusal(invalidField('dueOn', 'The day lies ahead, and within 300 days from now.'));
  const placeId = await placeOfSlot(actor, input.slot);
  const { signOffId, mails } = await perform(actor, async (tx) => {
    const { documentId, versionNumber, way, inTurn, wording, dueOn, remindDays } = input;
    const [paper] = await papersFor(tx, actor, [documentId], 'manage', 'evenClosed');
    if (!paper) refuse('not-found');
    const [current] = await tx
      .select({ id: version.id, number: version.number, sha256: version.sha256 })
      .from(version)
      .where(eq(version.id, paper.versionId ?? ''));
    if (current?.number !== versionNumber)
      refuse('conflict', 'A newer version was filed meanwhile. Nobody was asked. Look at it, and ask about that.');
    if (paper.sizeBytes > mostBytes)
      refuse('too-large', 'This file is too large for a signed copy to be made of it: 60 MB fit. Nobody was asked.');
    const named = await namedSigners(tx, documentId, input.signers);
    await refuseTwice(tx, current.id, way, input.signers);
    const needed = input.needed ?? named.length;
    if (needed > named.length)
      throw new Refusal(invalidField('needed', `Only ${named.length} are asked: no more than that can agree.`));
    const target = await targetOf(tx, actor, input.slot, placeId, paper.homeId);
    const [made] = await tx
      .insert(signOff)
      .values({
        documentId,
        versionId: current.id,
        way,
        state: 'open',
        wording,
        inTurn,
        needed,
        dueOn,
        remindDays,
        askedBy: actor.personId,
        askedAt: now(),
        sealState: 'none',
        ...target,
      })
      .returning({ id: signOff.id });
    if (!made) throw new Error('The sign-off was not made');
    await tx.insert(signer).values(named.map((each, position) => ({ ...each, signOffId: made.id, position })));
    await noteSignatures(tx, [documentId]);
    const found = await signOffFor(tx, made.id);
    const detail = { title: paper.title, number: current.number, of: counted(named.length, 'person', 'people') };
    return {
      entry: { act: 'signoff.asked', subjects: [documentId], detail },
      result: { signOffId: made.id, mails: found ? await callTurns(tx, found) : [] },
    };
  });
  return { signOffId, notReached: await sendAll(mails) };
});

type Named = { readonly personId: string | null; readonly name: string; readonly email: string | null };

/** Those who are asked, with their names: each once, and all able to see the paper. */
async function namedSigners(tx: Tx, documentId: string, signers: readonly AskedSigner[]): Promise<Named[]> {
  const readers = new Map((await readersOf(tx, documentId)).map((each) => [each.id, each]));
  const addresses = new Set<string>();
  return signers.map((each, at) => {
    const wrong = (says: string) => new Refusal(invalidField(`signers.${at}`, says));
    const found = 'personId' in each ? readers.get(each.personId) : null;
    if (found === undefined)
      throw wrong('Somebody who is asked may not see this paper. Open it to them first, or take them out.');
    const named: Named =
      'personId' in each
        ? { personId: each.personId, name: found?.name ?? '', email: null }
        : { personId: null, name: each.name, email: each.email };
    const address = (found?.email ?? named.email ?? '').toLowerCase();
    if (addresses.has(address)) throw wrong(`${named.name} is asked twice.`);
    addresses.add(address);
    return named;
  });
}

/** Refuses to ask somebody who is being asked the same of this version already. */
async function refuseTwice(
  tx: Tx,
  versionId: string,
  way: 'sign' | 'approve',
  signers: readonly AskedSigner[],
): Promise<void> {
  const people = signers.flatMap((each) => ('personId' in each ? [each.personId] : []));
  const addresses = signers.flatMap((each) => ('email' in each ? [each.email] : []));
  const asked = await tx
    .select({ name: signer.name, personId: signer.personId, email: signer.email })
    .from(signer)
    .innerJoin(signOff, eq(signOff.id, signer.signOffId))
    .where(
      and(eq(signOff.versionId, versionId), eq(signOff.way, way), eq(signOff.state, 'open'), isNull(signer.answer)),
    );
  const twice = asked.find(({ personId, email }) =>
    personId === null ? addresses.includes(email ?? '') : people.includes(personId),
  );
  if (twice) refuse('conflict', `${twice.name} is being asked that of this version already. Nobody was asked again.`);
}

/** Where an expected paper is filed; null where none is meant. Refuses where the caller may not file there. */
async function placeOfSlot(actor: Actor, slot: ReadInputOf<'signoff.ask'>['slot']): Promise<string | null> {
  if (slot === null) return null;
  const { slots } = await expectedOf(actor, { dossierId: slot.dossierId });
  const row = slots.find(
    (each) =>
      each.expectationId === slot.expectationId &&
      each.startYear === slot.startYear &&
      each.meetingId === slot.meetingId,
  );
  if (!row?.place) throw new Refusal(invalidField('slot', 'You may not file there. Choose another place.'));
  return row.place.id;
}

/** The expected paper that the signed copy is, and where it goes; beside the paper where it is none. The caller may add there. */
async function targetOf(
  tx: Tx,
  actor: Actor,
  slot: ReadInputOf<'signoff.ask'>['slot'],
  placeId: string | null,
  homeId: string,
) {
  if (slot !== null) await slotFor(tx, actor, slot, 'add');
  await placeFor(tx, actor, placeId ?? homeId, 'add');
  return { ...slot, placeId };
}

/** A sign-off that the caller may direct: whoever asked, and whoever manages the paper. */
async function directed(tx: Tx, actor: Actor, signOffId: string): Promise<FoundSignOff> {
  const found = await signOffFor(tx, signOffId);
  if (!found) refuse('not-found');
  await papersFor(tx, actor, [found.documentId], 'see');
  if (found.askedBy !== actor.personId && !has(await capabilitiesOn(tx, actor, found.documentId), 'manage'))
    refuse('not-allowed');
  return found;
}

/** Stops the links of those without an account, so that they open nothing any more. */
async function stopLinks(tx: Tx, actor: Actor, signerIds: readonly string[]): Promise<void> {
  const rows = await tx
    .select({ linkId: signer.linkId })
    .from(signer)
    .where(inArray(signer.id, [...signerIds]));
  const links = rows.flatMap(({ linkId }) => linkId ?? []);
  if (links.length > 0)
    await tx
      .update(outsideLink)
      .set({ withdrawnAt: now(), withdrawnBy: actor.personId })
      .where(and(inArray(outsideLink.id, links), isNull(outsideLink.withdrawnAt)));
}

/** Withdraws a sign-off that is open; or what was said of a scan. */
export const withdrawSignOff = acts('signoff.withdraw', [], async (tx, actor, { signOffId, reason }) => {
  const found = await directed(tx, actor, signOffId);
  if (found.state !== 'open' && found.way !== 'onPaper')
    refuse('conflict', 'It has come to an end already: what was signed stays signed.');
  if (found.state === 'withdrawn') refuse('conflict', 'It was withdrawn already.');
  await tx
    .update(signOff)
    .set({ state: 'withdrawn', endedAt: now(), endReason: reason })
    .where(eq(signOff.id, signOffId));
  await noteSignatures(tx, [found.documentId, ...(found.signedId === null ? [] : [found.signedId])]);
  await stopLinks(
    tx,
    actor,
    (await signersOf(tx, signOffId)).map(({ id }) => id),
  );
  const detail = { title: found.title, number: found.number, reason };
  return { entry: { act: 'signoff.withdrawn', subjects: [found.documentId], detail }, result: null };
});

/** Lets one who was asked off, for instance because they have left: the rest is enough. */
export const releaseSigner = actsInSteps('signoff.release', async (actor, { signerId, reason }) => {
  const mails = await perform(actor, async (tx) => {
    const [one] = await tx.select({ signOffId: signer.signOffId }).from(signer).where(eq(signer.id, signerId));
    if (!one) refuse('not-found');
    const found = await directed(tx, actor, one.signOffId);
    if (found.state !== 'open') refuse('conflict', 'It has come to an end already.');
    const signers = await signersOf(tx, found.id);
    const released = signers.find(({ id }) => id === signerId);
    if (released?.answer !== null) refuse('conflict', 'They have answered meanwhile.');
    const left = signers.filter(({ id, answer }) => id !== signerId && answer !== 'released');
    if (left.length === 0) refuse('invalid', 'Nobody else is asked. Withdraw it instead.');
    await tx.update(signer).set({ answer: 'released', answeredAt: now(), reason }).where(eq(signer.id, signerId));
    await stopLinks(tx, actor, [signerId]);
    const detail = { title: found.title, number: found.number, name: released.name, reason };
    return {
      entry: { act: 'signoff.released', subjects: [found.documentId], detail },
      result: await goOn(tx, found),
    };
  });
  await sendAll(mails);
  return null;
});

/** Brings a sign-off on after an answer: ends it, or calls whose turn it is. Returns the messages to be sent. */
export async function goOn(tx: Tx, found: FoundSignOff): Promise<Mail[]> {
  const standing = standingFrom(found, await signersOf(tx, found.id));
  if (standing.state === 'open') return callTurns(tx, found);
  const isSigned = standing.state === 'signed';
  await tx
    .update(signOff)
    .set({ state: standing.state, endedAt: now(), sealState: isSigned ? 'waiting' : 'none' })
    .where(eq(signOff.id, found.id));
  await noteSignatures(tx, [found.documentId]);
  const outcome = isSigned
    ? `is ${found.way === 'sign' ? 'signed' : 'approved'} by ${standing.agreed} of ${standing.of}`
    : 'was declined';
  return [
    {
      to: { name: found.asker, address: found.askerEmail },
      subject: `“${found.title}” ${outcome}`,
      text: `Version ${found.number} of “${found.title}” ${outcome}.\n`,
    },
  ];
}

/** Has the signed copy made after all that could not be made. */
export const sealAgain = acts('signoff.sealAgain', [], async (tx, actor, { signOffId }) => {
  const found = await directed(tx, actor, signOffId);
  if (found.sealState !== 'failed') refuse('conflict', 'The signed copy is there, or is being made.');
  await tx.update(signOff).set({ sealState: 'waiting', sealTries: 0 }).where(eq(signOff.id, signOffId));
  const detail = { title: found.title, number: found.number };
  return { entry: { act: 'signoff.sealedAgain', subjects: [found.documentId], detail }, result: null };
});

/** Calls somebody again whose turn it is, by another message. */
export const callAgain = actsInSteps('signoff.callAgain', async (actor, { signerId }) => {
  const mails = await perform(actor, async (tx) => {
    const [one] = await tx
      .select({ signOffId: signer.signOffId, name: signer.name })
      .from(signer)
      .where(eq(signer.id, signerId));
    if (!one) refuse('not-found');
    const found = await directed(tx, actor, one.signOffId);
    const called = await callTurns(tx, found, { signerId, isByHand: true });
    if (called.length === 0) refuse('conflict', 'It is not their turn, or they have answered meanwhile.');
    const detail = { title: found.title, number: found.number, name: one.name };
    return { entry: { act: 'signoff.calledAgain', subjects: [found.documentId], detail }, result: called };
  });
  return { notReached: await sendAll(mails) };
});

/** Says that a paper is the scan of what people signed on paper. Needs `amend` of both. */
export const markOnPaper = acts('signoff.markOnPaper', [], async (tx, actor, input) => {
  const { scanId, documentId, versionNumber, signers } = input;
  const papers = await papersFor(tx, actor, [...new Set([scanId, documentId])], 'amend', 'evenClosed');
  const [paper, scan] = [papers.find(({ id }) => id === documentId), papers.find(({ id }) => id === scanId)];
  if (!paper || !scan) refuse('not-found');
  const [signed] = await tx
    .select({ id: version.id, sha256: version.sha256 })
    .from(version)
    .where(and(eq(version.documentId, documentId), eq(version.number, versionNumber)));
  if (!signed) throw new Refusal(invalidField('versionNumber', 'The paper has no such version.'));
  if (scanId === documentId && scan.versionId === signed.id)
    throw new Refusal(invalidField('documentId', 'A scan is not its own original. Choose the paper that was printed.'));
  const names = new Set(signers.map(({ name }) => name.toLowerCase()));
  if (names.size < signers.length) throw new Refusal(invalidField('signers', 'Somebody is named twice.'));
  const { timeZone } = await librarySettings();
  const today = isoDay(dayAt(now().getTime(), timeZone));
  if (signers.some(({ on }) => on > today))
    throw new Refusal(invalidField('signers', 'Nobody has signed on a day that is still to come.'));
  const [current] = await tx
    .select({ sha256: version.sha256 })
    .from(version)
    .innerJoin(document, eq(document.versionId, version.id))
    .where(eq(document.id, scanId));
  const [made] = await tx
    .insert(signOff)
    .values({
      documentId,
      versionId: signed.id,
      way: 'onPaper',
      state: 'signed',
      inTurn: false,
      needed: signers.length,
      remindDays: 0,
      askedBy: actor.personId,
      askedAt: now(),
      endedAt: now(),
      sealState: 'none',
      signedId: scanId,
      signedSha256: current?.sha256 ?? null,
    })
    .returning({ id: signOff.id });
  if (!made) throw new Error('The signatures were not noted');
  const values = signers.map(({ name, on }, position) => ({
    signOffId: made.id,
    position,
    name,
    answer: 'agreed' as const,
    answeredAt: new Date(`${on}T12:00:00Z`),
    proof: 'paper' as const,
  }));
  await tx.insert(signer).values(values);
  await noteSignatures(tx, [documentId, scanId]);
  const who = signers.map(({ name }) => name).join(', ');
  return {
    entry: {
      act: 'signoff.markedOnPaper',
      subjects: [...new Set([documentId, scanId])],
      detail: { title: paper.title, number: versionNumber, scan: scan.title, who },
    },
    result: { signOffId: made.id },
  };
});
