import { createHmac, timingSafeEqual } from 'node:crypto';
import { and, eq, sql } from 'drizzle-orm';
import { dueDay, lineInWords, reviewInWords } from '@/core/follow/summary';
import { refuse } from '@/core/errors/refusal';
import { actsInSteps, asks } from '../acts/operation';
import { now } from '../base/clock';
import { config } from '../base/config';
import { db, writableDb } from '../db/client';
import { followMail, person } from '../db/schema';
import type { Actor } from '../gate/actor';
import { ownOf } from '../gate/visible';
import { librarySettings } from '../library/settings';
import { logFault } from '../log/fault';
import { sendMail } from '../mail/outbox';
import { announcedReviews, reviewsFor, type AnnouncedReview } from '../reviews/mine';
import { newsSince } from './follow';

/** When the caller is told by mail of what they follow; null: not at all. */
export const summaryTimesOf = asks('follow.times', async (actor) => {
  const personId = ownOf(actor);
  if (personId === null) return null;
  const [found] = await db()
    .select({ every: followMail.every, hour: followMail.hour, weekday: followMail.weekday })
    .from(followMail)
    .where(eq(followMail.personId, personId));
  return found ?? null;
});

/** Says when the caller is told by mail, or that they are not. Has no journal entry: it is theirs alone. */
export const setSummaryTimes = actsInSteps('follow.setTimes', async ({ personId }, { times }) => {
  if (times === null) await stop(personId);
  else
    await writableDb()
      .insert(followMail)
      .values({ personId, ...times, since: now() })
      .onConflictDoUpdate({ target: followMail.personId, set: times });
  return null;
});

const stop = (personId: string) => writableDb().delete(followMail).where(eq(followMail.personId, personId));

/** The mark of a person's link by which summaries are stopped without signing in: nobody else can make it. */
export const stopMark = (personId: string): string =>
  createHmac('sha256', config().EMBRIN_SECRET).update(`stop summaries ${personId}`).digest('hex');

/** Stops the summaries of whom a link of theirs names. Refuses one that was not sent to them as if nothing were there. */
export async function stopByLink(personId: string, mark: string): Promise<void> {
  const [given, right] = [Buffer.from(mark), Buffer.from(stopMark(personId))];
  if (given.length !== right.length || !timingSafeEqual(given, right)) refuse('not-found');
  await stop(personId);
}

/**
 * Sends the summaries that are due, each to one person about what is open to them then; nothing where there is no news. A day
 * is claimed before its mail is sent, so that of two workers one sends it; where that one dies, the next mail has the news.
 */
export async function sendSummaries(): Promise<number> {
  const rows = await db()
    .select({
      personId: person.id,
      name: person.name,
      email: person.email,
      keeper: person.keeper,
      every: followMail.every,
      hour: followMail.hour,
      weekday: followMail.weekday,
      sentDay: followMail.sentDay,
      since: followMail.since,
    })
    .from(followMail)
    .innerJoin(person, and(eq(person.id, followMail.personId), eq(person.active, true)));
  if (rows.length === 0) return 0;
  const { timeZone, name: libraryName } = await librarySettings();
  // Looked for once for all, and only where somebody is told.
  let announced: ReturnType<typeof announcedReviews> | null = null;
  let sent = 0;
  for (const { every, hour, weekday, sentDay, since, ...actor } of rows) {
    const day = dueDay({ every, hour, weekday }, sentDay, now(), timeZone);
    if (day === null || !(await claim(actor.personId, day))) continue;
    // One whose mail fails keeps nobody else from theirs.
    announced ??= announcedReviews();
    const isSent = await tell(actor, since, libraryName, await announced).catch((error: unknown) => {
      logFault(error, { where: 'summary' });
      return false;
    });
    if (isSent) sent += 1;
  }
  return sent;
}

/** Tells one person what is new since a moment and which reviews wait for them, if anything is new of either. */
async function tell(
  actor: Actor,
  since: Date,
  libraryName: string,
  announced: readonly AnnouncedReview[],
): Promise<boolean> {
  const until = now();
  const news = await newsSince(actor, since);
  const reviews = await reviewsFor(actor, announced);
  const before = since.toISOString().slice(0, 10);
  // A review is new on the day on which it is announced, and again on the day on which it is due.
  const isNew = reviews.some(({ announcedOn, due, today }) => announcedOn > before || (due > before && due <= today));
  const { EMBRIN_URL } = config();
  if (news.length > 0 || isNew)
    await sendMail({
      to: { name: actor.name, address: actor.email },
      subject: `${news.length > 0 ? 'New in what you follow' : 'Reviews that wait for you'}: ${libraryName}`,
      text: [
        ...(news.length === 0
          ? []
          : [news.map((line) => `- ${lineInWords(line)}\n  ${EMBRIN_URL}/place/${line.placeId}`).join('\n')]),
        ...(reviews.length === 0
          ? []
          : [
              [
                'Reviews that wait for you:',
                ...reviews
                  .slice(0, mostReviews)
                  .map((each) => `- ${reviewInWords(each)}\n  ${EMBRIN_URL}/paper/${each.documentId}`),
              ].join('\n'),
            ]),
        `All of it: ${EMBRIN_URL}/desk`,
        `Stop these mails: ${EMBRIN_URL}/stop/${actor.personId}/${stopMark(actor.personId)}`,
      ].join('\n\n'),
    });
  await writableDb().update(followMail).set({ since: until }).where(eq(followMail.personId, actor.personId));
  return news.length > 0 || isNew;
}

/** So many reviews are named in a mail. */
const mostReviews = 20;

async function claim(personId: string, day: string): Promise<boolean> {
  const claimed = await writableDb()
    .update(followMail)
    .set({ sentDay: day })
    .where(and(eq(followMail.personId, personId), sql`${followMail.sentDay} is distinct from ${day}::date`))
    .returning({ personId: followMail.personId });
  return claimed.length > 0;
}
