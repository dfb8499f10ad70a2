import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import { proposedParts } from '@/core/intake/parts';
import { titleWith } from '@/core/intake/title';
import type { ProposedPart, Proposal } from '@/core/intake/model';
import type { MailForm } from '@/core/reading/form';
import { identifiersIn } from '@/core/stated/identifiers';
import { storable } from '@/core/text/storable';
import { sha256Hex } from '../base/sha256';
import { db, writableDb } from '../db/client';
import { arrival, attachment, reading, readingPage, readingStage } from '../db/schema';
import { databaseError } from '../db/sqlState';
import { viewOf } from '../extraction/openContent';
import { logFault } from '../log/fault';
import { attachedTo } from './attached';
import { byRule } from './byRule';
import { candidatesFor } from './known';
import { statedBy } from './state';

/** So much of the text of each part is looked through. In characters. */
const mostText = 200_000;

/** A longer subject is cut. In characters. */
const longestSubject = 1000;

type Arrival = typeof arrival.$inferSelect;

/** Makes the proposal for the arrival that has waited longest and is read by now. Returns whether there was one. */
export async function proposeNext(): Promise<boolean> {
  // Read: the last stage has run on the mail, and on all that is attached to it. Only OCR may still be to come.
  const isRead = (sha256: unknown) =>
    sql`exists (select from ${readingStage} where ${readingStage.sha256} = ${sha256} and ${readingStage.stage} = 'facts')`;
  const [next] = await db()
    .select()
    .from(arrival)
    .where(
      and(
        eq(arrival.state, 'unread'),
        isRead(arrival.sha256),
        sql`not exists (select from ${attachment} where ${attachment.mailSha256} = ${arrival.sha256} and not ${isRead(attachment.sha256)})`,
      ),
    )
    .orderBy(asc(arrival.arrivedAt), asc(arrival.id))
    .limit(1);
  if (!next) return false;
  await propose(next).catch(async (error: unknown) => {
    // Nobody waits in vain: a person sees to it without a proposal.
    logFault(error, { where: 'intake' });
    await settle(next, { sameKey: null, proposal: { parts: proposedParts('', []), candidates: [] } });
  });
  return true;
}

async function propose(next: Arrival): Promise<void> {
  const view = await viewOf(next.sha256);
  const mail = view?.form === 'mail' ? view : null;
  const attached = await attachedTo(next.sha256);
  const contents = [next.sha256, ...attached.map(({ sha256 }) => sha256)];
  const sender = mail?.from[0];
  const subject = storable(mail?.subject ?? '').slice(0, longestSubject);
  const senderAddress = storable(sender?.address ?? '')
    .toLowerCase()
    .slice(0, 320);
  const parts = await withStated(proposedParts(subject, attached), next, attached, subject);
  const bills = parts.flatMap(({ bill }) => (bill ? Object.values(bill.seller) : []));
  const text = [subject, ...bills, await textOf(contents)].join('\n');
  const identifiers = identifiersIn(text).map(({ value }) => value);
  const candidates = await candidatesFor({
    id: next.id,
    sender: senderAddress,
    sentTo: next.sentTo,
    references: await referencesIn(contents),
    identifiers,
    text,
  });
  const stated = parts.flatMap(({ stated: each = [] }) => each);
  const ruled = await byRule({ sender: senderAddress, sentTo: next.sentTo, subject, text, stated }, candidates);
  const proposal: Proposal = { parts: ruled.titled(parts), candidates: ruled.candidates };
  const sameKey = mail === null ? next.sha256 : sameMail(mail, contents.slice(1));
  await settle(next, {
    sameKey,
    senderAddress,
    senderName: storable(sender?.name ?? '').slice(0, 320),
    subject,
    identifiers,
    proposal,
  });
}

/** So many parts are looked through for what they state. */
const mostStating = 10;

/** Parts with what they state, of those that would be filed. */
async function withStated(
  parts: readonly ProposedPart[],
  { sha256, mediaType, arrivedAt }: Arrival,
  attached: Awaited<ReturnType<typeof attachedTo>>,
  subject: string,
): Promise<ProposedPart[]> {
  const arrivedOn = arrivedAt.toISOString().slice(0, 10);
  const looked = parts.filter(({ counts }) => counts).slice(0, mostStating);
  const found = new Map<ProposedPart, Partial<ProposedPart>>();
  for (const part of looked) {
    const content = attached.find(({ number }) => number === part.attachment) ?? { sha256, mediaType, name: '' };
    const around = { names: `${subject} ${content.name}`, arrivedOn };
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
  const mine = and(eq(arrival.id, next.id), eq(arrival.state, 'unread'));
  const dossierId = found.proposal.candidates[0]?.dossierId ?? null;
  const set = { ...found, dossierId, revision: next.revision + 1 };
  try {
    await writableDb()
      .update(arrival)
      .set({ ...set, state: 'waiting' })
      .where(mine);
  } catch (error) {
    if (databaseError(error)?.constraint !== 'arrival_once') throw error;
    await writableDb()
      .update(arrival)
      .set({ ...set, state: 'again' })
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
