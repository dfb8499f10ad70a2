import { createHmac } from 'node:crypto';
import { asc, eq, sql } from 'drizzle-orm';
import { grouped } from '@/core/collections/grouped';
import { dayInWords } from '@/core/calendar/moment';
import { dayAt, dayNumber, isoDay } from '@/core/calendar/period';
import { standingOf, type SignOffStanding } from '@/core/signoff/standing';
import { readersOf } from '../access/readers';
import { now } from '../base/clock';
import { config } from '../base/config';
import { sha256Hex } from '../base/sha256';
import { lastDay } from '../calendar/lastDay';
import type { Reader, Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, outsideLink, person, signer, signOff, version } from '../db/schema';
import { librarySettings } from '../library/settings';
import type { Mail } from '../mail/outbox';

/** How long an outside link to sign works where no day was said, and after the day. */
const linkDays = 60;

/** A sign-off with what its messages say. Its row is locked within an act. */
export async function signOffFor(tx: Tx, signOffId: string) {
  const [found] = await tx.select().from(signOff).where(eq(signOff.id, signOffId)).for('update');
  if (!found) return null;
  const [more] = await tx
    .select({
      documentId: document.id,
      isDisposed: sql<boolean>`${document.disposedAt} is not null`,
      title: document.title,
      number: version.number,
      asker: person.name,
      askerEmail: person.email,
    })
    .from(signOff)
    .innerJoin(document, eq(document.id, signOff.documentId))
    .innerJoin(version, eq(version.id, signOff.versionId))
    .innerJoin(person, eq(person.id, signOff.askedBy))
    .where(eq(signOff.id, signOffId));
  if (!more) return null;
  return { ...found, ...more, documentId: more.documentId };
}
export type FoundSignOff = NonNullable<Awaited<ReturnType<typeof signOffFor>>>;

export type SignerRecord = typeof signer.$inferSelect;

/** All who are asked, in their order. */
export const signersOf = (reader: Reader, signOffId: string): Promise<SignerRecord[]> =>
  reader.select().from(signer).where(eq(signer.signOffId, signOffId)).orderBy(asc(signer.position));

/** The same of several sign-offs, by their ids. */
export async function signersOfAll(
  reader: Reader,
  ids: readonly string[],
): Promise<ReadonlyMap<string, SignerRecord[]>> {
  const rows = await reader.select().from(signer).where(idIn(signer.signOffId, ids)).orderBy(asc(signer.position));
  return grouped(rows, ({ signOffId }) => signOffId);
}

/** Where a sign-off stands, by the answers that are kept. */
export const standingFrom = (
  { needed, inTurn }: Pick<FoundSignOff, 'needed' | 'inTurn'>,
  signers: readonly Pick<SignerRecord, 'answer'>[],
): SignOffStanding =>
  standingOf(
    signers.map(({ answer }) => answer),
    needed,
    inTurn,
  );

/**
 * Calls those whose turn it has become and who were not called yet: notes it, makes links for those outside, and returns
 * the messages, to be sent once the transaction is through. Nobody is told of a paper that they may not see any more.
 * @param again somebody who is called though they were before: reminded, or by hand
 */
export async function callTurns(
  tx: Tx,
  found: FoundSignOff,
  again: { readonly signerId: string; readonly isByHand: boolean } | null = null,
): Promise<Mail[]> {
  if (found.isDisposed) return [];
  const signers = await signersOf(tx, found.id);
  const readers = new Set((await readersOf(tx, found.documentId)).map(({ id }) => id));
  const mails: Mail[] = [];
  for (const at of standingFrom(found, signers).turns) {
    const one = signers[at];
    if (!one || (one.askedAt !== null && one.id !== again?.signerId)) continue;
    if (one.personId !== null && !readers.has(one.personId)) continue;
    if (!again?.isByHand && (await isWithdrawn(tx, one))) continue;
    mails.push(await called(tx, found, one, again?.isByHand ?? false));
  }
  return mails;
}

/** Whether the link of somebody outside was withdrawn: then only whoever asked opens it again. */
async function isWithdrawn(tx: Tx, { linkId }: SignerRecord): Promise<boolean> {
  if (linkId === null) return false;
  const [link] = await tx
    .select({ withdrawnAt: outsideLink.withdrawnAt })
    .from(outsideLink)
    .where(eq(outsideLink.id, linkId));
  return link?.withdrawnAt !== null;
}

async function called(tx: Tx, found: FoundSignOff, one: SignerRecord, isByHand: boolean): Promise<Mail> {
  await tx.update(signer).set({ askedAt: now() }).where(eq(signer.id, one.id));
  const settings = await librarySettings();
  const doing = found.way === 'sign' ? 'sign' : 'approve';
  const until = found.dueOn === null ? '' : `, please by ${dayInWords(`${found.dueOn}T12:00:00Z`, settings.timeZone)}`;
  const address =
    one.personId === null
      ? await linkFor(tx, found, one, isByHand)
      : `${config().EMBRIN_URL}/paper/${found.documentId}?version=${found.number}`;
  const email = one.personId === null ? (one.email ?? '') : await emailOf(tx, one.personId);
  return {
    to: { name: one.name, address: email },
    subject: `${found.asker} asks you to ${doing} “${found.title}”`,
    text: [
      `${found.asker}, ${settings.name}, asks you to ${doing} version ${found.number} of “${found.title}”${until}:`,
      address,
      ...(found.wording === '' ? [] : ['', found.wording]),
      '',
    ].join('\n'),
  };
}

/**
 * A link for somebody outside to this version alone, the same each time they are asked: it follows from the library's secret and
 * who it is for, so that a reminder does not end what was sent before. Asked again by hand, one that was shut opens again.
 */
async function linkFor(tx: Tx, found: FoundSignOff, one: SignerRecord, isByHand: boolean): Promise<string> {
  const token = createHmac('sha256', config().EMBRIN_SECRET).update(`sign ${one.id}`).digest('base64url');
  const today = dayAt(now().getTime(), (await librarySettings()).timeZone);
  const due = found.dueOn === null ? today : (dayNumber(found.dueOn) ?? today);
  const expiresAt = await lastDay(isoDay(Math.max(due, today) + linkDays));
  if (one.linkId === null) {
    const [made] = await tx
      .insert(outsideLink)
      .values({
        tokenHash: sha256Hex(token),
        expiresAt,
        documentId: found.documentId,
        email: one.email,
        copies: true,
        madeBy: found.askedBy,
        madeAt: now(),
      })
      .returning({ id: outsideLink.id });
    if (!made) throw new Error('The link was not made');
    await tx.update(signer).set({ linkId: made.id }).where(eq(signer.id, one.id));
  } else
    await tx
      .update(outsideLink)
      .set({ expiresAt, ...(isByHand ? { wrongTries: 0, withdrawnAt: null, withdrawnBy: null } : {}) })
      .where(eq(outsideLink.id, one.linkId));
  return `${config().EMBRIN_URL}/outside/${token}`;
}

async function emailOf(reader: Reader, personId: string): Promise<string> {
  const [found] = await reader.select({ email: person.email }).from(person).where(eq(person.id, personId));
  return found?.email ?? '';
}
