import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { fileAsPart, proposedParts } from '@/core/intake/parts';
import { mayAnswer } from '@/core/intake/receipt';
import { senderChecks } from '@/core/intake/senderChecks';
import { titleWith } from '@/core/intake/title';
import { isMail, type ProposedPart, type Proposal } from '@/core/intake/model';
import type { MailForm } from '@/core/reading/form';
import type { Around } from '@/core/stated/model';
import { identifiersIn } from '@/core/stated/identifiers';
import { searchKey } from '@/core/text/fold';
import { storable } from '@/core/text/storable';
import { sha256Hex } from '../base/sha256';
import { db, writableDb } from '../db/client';
import { arrival, attachment, place, reading, readingPage, wayIn } from '../db/schema';
import { databaseError } from '../db/sqlState';
import { viewOf } from '../extraction/openContent';
import { logFault } from '../log/fault';
import { attachedTo } from './attached';
import { nothingUsual, usualFor, withoutTwice } from './alongside';
import { byRule } from './byRule';
import { papersOf } from './cut';
import { candidatesFor } from './known';
import { isRead } from './isRead';
import { statedBy } from './state';
import { taughtIn } from './taught';

/** So much of the text of each part is looked through. In characters. */
const mostText = 200_000;

/** So many addresses to which a mail was sent are looked at. */
const mostAddresses = 100;

/** A longer subject is cut. In characters. */
const longestSubject = 1000;

type Arrival = typeof arrival.$inferSelect;

/** Makes the proposal for the arrival that has waited longest and is read by now. Returns whether there was one. */
export async function proposeNext(): Promise<boolean> {
  const [next] = await db()
    .select()
    .from(arrival)
    .where(
      and(
        eq(arrival.state, 'unread'),
        isNull(arrival.cut),
        isNull(arrival.joins),
        isRead(arrival.sha256),
        sql`not exists (select from ${attachment} where ${attachment.mailSha256} = ${arrival.sha256} and ${isRead(attachment.sha256, false)})`,
      ),
    )
    .orderBy(asc(arrival.arrivedAt), asc(arrival.id))
    .limit(1);
  if (!next) return false;
  await propose(next).catch(async (error: unknown) => {
    // Nobody waits in vain: a person sees to it without a proposal.
    logFault(error, { where: 'intake' });
    await settle(next, { sameKey: null, proposal: { parts: bareParts(next, '', []), candidates: [] } });
  });
  return true;
}

const bareParts = (
  { mediaType, fileName }: Arrival,
  subject: string,
  attached: Awaited<ReturnType<typeof attachedTo>>,
): ProposedPart[] => (isMail(mediaType) ? proposedParts(subject, attached) : fileAsPart(fileName));

async function propose(next: Arrival): Promise<void> {
  const cut = await papersOf(next);
  if (cut !== null) {
    await once(next, { sameKey: next.sha256, cut }, { sameKey: next.sha256 });
    return;
  }
  const view = isMail(next.mediaType) ? await viewOf(next.sha256) : null;
  const mail = view?.form === 'mail' ? view : null;
  const attached = isMail(next.mediaType) ? await attachedTo(next.sha256) : [];
  const contents = [next.sha256, ...attached.map(({ sha256 }) => sha256)];
  const sender = mail?.from[0];
  const subject = storable(mail?.subject ?? (isMail(next.mediaType) ? '' : next.fileName)).slice(0, longestSubject);
  const senderAddress = storable(sender?.address ?? '')
    .toLowerCase()
    .slice(0, 320);
  // Of what was fetched only the mail itself says to whom it was sent.
  const sentTo =
    next.origin === null
      ? next.sentTo
      : [...(mail?.to ?? []), ...(mail?.copiedTo ?? [])]
          .map(({ address }) => storable(address))
          .slice(0, mostAddresses);
  const references = await referencesIn(contents);
  const around = { arrivedOn: next.arrivedAt.toISOString().slice(0, 10), references: await ours(references) };
  const bare = bareParts(next, subject, attached);
  const read = await withStated(bare, next, attached, subject, around);
  const bills = read.flatMap(({ bill }) => (bill ? Object.values(bill.seller) : []));
  const text = [subject, ...bills, await textOf(contents)].join('\n');
  const identifiers = identifiersIn(text).map(({ value }) => value);
  const candidates = await candidatesFor({
    id: next.id,
    sender: senderAddress,
    sentTo,
    sheet: next.sheetReference,
    references,
    identifiers,
    text,
    contents,
  });
  // What its sender's papers have taught can be told once it is known in which dossier they lie.
  const taught = candidates[0] ? await taughtIn(candidates[0].dossierId, senderAddress) : [];
  const parts = taught.length === 0 ? read : await withStated(bare, next, attached, subject, { ...around, taught });
  const stated = parts.flatMap(({ stated: each = [] }) => each);
  const ruled = await byRule({ sender: senderAddress, sentTo, subject, text, stated }, candidates);
  const likeliest = ruled.candidates[0]?.dossierId ?? null;
  const done = likeliest === null ? nothingUsual : await usualFor(senderAddress, likeliest);
  const proposal: Proposal = {
    ...{ parts: ruled.titled(parts), candidates: ruled.candidates, ...ruled.ruled },
    labels: withoutTwice([...ruled.labels, ...done.labels]),
    tell: withoutTwice([...ruled.tell, ...done.tell]),
  };
  // Two pages of a stack may be alike, and are two papers.
  const sameKey = next.partOf !== null ? null : mail === null ? next.sha256 : sameMail(mail, contents.slice(1));
  await settle(next, {
    sameKey,
    senderAddress,
    senderName: storable(sender?.name ?? '').slice(0, 320),
    subject,
    sentTo,
    identifiers,
    senderChecks: senderChecks((mail?.checked ?? []).map(storable), await believed(next)),
    proposal,
    fileBy: next.isPersons ? null : ruled.fileBy,
    // What is proposed anew was answered, or was not to be.
    ...(next.proposal === null &&
    mail !== null &&
    mayAnswer({ automatic: mail.automatic !== false, envelopeFrom: next.envelopeFrom, senderAddress })
      ? { receipt: 'due' }
      : {}),
    leftBecause: null,
  });
}

/** The name of the mail server whose word about senders is believed for an arrival; '' for none. */
async function believed({ wayInId }: Arrival): Promise<string> {
  if (wayInId === null) return '';
  const [way] = await db().select({ settings: wayIn.settings }).from(wayIn).where(eq(wayIn.id, wayInId));
  return way && 'checkedBy' in way.settings ? (way.settings.checkedBy ?? '') : '';
}

/** So many parts are looked through for what they state. */
const mostStating = 10;

/** Parts with what they state, of those that would be filed. */
async function withStated(
  parts: readonly ProposedPart[],
  { sha256, mediaType }: Arrival,
  attached: Awaited<ReturnType<typeof attachedTo>>,
  subject: string,
  known: Omit<Around, 'names'>,
): Promise<ProposedPart[]> {
  const looked = parts.filter(({ counts }) => counts).slice(0, mostStating);
  const found = new Map<ProposedPart, Partial<ProposedPart>>();
  for (const part of looked) {
    const content = attached.find(({ number }) => number === part.attachment) ?? { sha256, mediaType, name: '' };
    const around = { ...known, names: `${subject} ${content.name}` };
    found.set(part, await statedBy(content.sha256, content.mediaType, around));
  }
  return parts.map((part) => {
    const { stated = [], ...more } = found.get(part) ?? {};
    return { ...part, title: titleWith(part.title, stated), stated, ...more };
  });
}

/** The same for a mail that is sent again, whatever the servers on its way have written into it. */
const sameMail = (
  { messageId = '', from, subject, sentAt, text, markup }: MailForm,
  attached: readonly string[],
): string => sha256Hex(JSON.stringify([messageId, from, subject, sentAt, text, markup, attached]));

/** Has an arrival wait for a person; one that arrived before does not. */
async function settle(next: Arrival, found: Partial<Arrival> & { readonly proposal: Proposal }): Promise<void> {
  const dossierId = found.proposal.candidates[0]?.dossierId ?? null;
  const set = { ...found, dossierId, revision: next.revision + 1 };
  // Who sends the same again knows that it arrived.
  await once(next, { ...set, state: 'waiting' }, { ...set, receipt: 'none' });
}

/** Notes something of an arrival that is not settled yet; of one that is the same as another, that it is. */
async function once(next: Arrival, set: Partial<Arrival>, ifAgain: Partial<Arrival>): Promise<void> {
  const mine = and(eq(arrival.id, next.id), eq(arrival.state, 'unread'));
  try {
    await writableDb().update(arrival).set(set).where(mine);
  } catch (error) {
    if (databaseError(error)?.constraint !== 'arrival_once') throw error;
    await writableDb()
      .update(arrival)
      .set({ ...ifAgain, state: 'again' })
      .where(mine);
  }
}

async function referencesIn(contents: readonly string[]): Promise<string[]> {
  const rows = await db()
    .select({ references: reading.namedReferences })
    .from(reading)
    .where(inArray(reading.sha256, [...contents]));
  return rows.flatMap(({ references }) => references);
}

/** Those of some references that dossiers of the library have, folded. */
async function ours(references: readonly string[]): Promise<ReadonlySet<string>> {
  if (references.length === 0) return new Set();
  const rows = await db()
    .select({ reference: place.reference })
    .from(place)
    .where(inArray(sql`upper(${place.reference})`, [...new Set(references.map((each) => each.toUpperCase()))]));
  return new Set(rows.flatMap(({ reference }) => (reference === null ? [] : [searchKey(reference)])));
}

async function textOf(contents: readonly string[]): Promise<string> {
  const rows = await db()
    .select({
      words: sql<string>`left(string_agg(${readingPage.words}, ' ' order by ${readingPage.page}), ${mostText})`,
    })
    .from(readingPage)
    .where(inArray(readingPage.sha256, [...contents]))
    .groupBy(readingPage.sha256);
  return rows.map(({ words }) => words).join('\n');
}
