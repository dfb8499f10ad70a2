import { randomBytes } from 'node:crypto';
import { and, desc, eq, isNull, or, sql, type SQL } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { linkEnd, type LinkEnd } from '@/core/outside/model';
import type { ReadInputOf } from '@/core/contract';
import { dayInWords } from '@/core/calendar/moment';
import { acts, actsInSteps, asks } from '../acts/operation';
import { perform } from '../acts/act';
import type { Actor } from '../gate/actor';
import { papersFor, placeFor } from '../gate/held';
import { ownOf, paperAllows, placeAllows } from '../gate/visible';
import { hashPassword } from '../passwords/password';
import { now } from '../base/clock';
import { config } from '../base/config';
import { db, type Tx } from '../db/client';
import { document, outsideLink, outsideOpening, person, place } from '../db/schema';
import { librarySettings } from '../library/settings';
import { trySendMail } from '../mail/outbox';
import { lastDay } from '../calendar/lastDay';
import { sha256Hex } from '../base/sha256';

type MakeInput = ReadInputOf<'link.make'>;

/** Makes a link for someone outside the organisation, to a paper or to what a view of a place shows. Needs `manage` there. */
export const makeLink = actsInSteps('link.make', async (actor, input) => {
  const settings = await librarySettings();
  const expiresAt = await lastDay(input.until);
  const token = randomBytes(32).toString('base64url');
  const passwordHash = input.password === null ? null : await hashPassword(input.password);
  const link = `${config().EMBRIN_URL}/outside/${token}`;
  const { id, name } = await perform(actor, async (tx) => {
    const opened = await openedBy(tx, actor, input.on);
    const [row] = await tx
      .insert(outsideLink)
      .values({
        ...opened.columns,
        tokenHash: sha256Hex(token),
        email: input.email,
        passwordHash,
        copies: input.copies,
        expiresAt,
        mostOpenings: input.mostOpenings,
        madeBy: actor.personId,
        madeAt: now(),
      })
      .returning({ id: outsideLink.id });
    if (!row) throw new Error('The link was not made');
    const detail = { name: opened.name, terms: termsInWords(input), linkId: row.id };
    return {
      entry: { act: 'link.made', subjects: [input.on.id], detail },
      result: { id: row.id, name: opened.name },
    };
  });
  // The link already exists: if the message cannot be sent, its maker is told and has the link.
  const sent =
    input.email !== null &&
    (await trySendMail({
      to: { name: '', address: input.email },
      subject: `${actor.name} has opened “${name}” to you`,
      text: [
        ...(input.message === '' ? [] : [input.message, '']),
        `${actor.name}, ${settings.name}, has opened “${name}” to you until ${dayInWords(`${input.until}T12:00:00Z`, settings.timeZone)}:`,
        link,
        '',
      ].join('\n'),
    }));
  return { id, link, sent };
});

async function openedBy(tx: Tx, actor: Actor, on: MakeInput['on']) {
  if (on.kind === 'place') {
    await placeFor(tx, actor, on.id, 'manage', 'evenClosed');
    return { name: on.view.name, columns: { placeId: on.id, documentId: null, view: on.view } };
  }
  const [paper] = await papersFor(tx, actor, [on.id], 'manage', 'evenClosed');
  if (!paper) refuse('not-found');
  return { name: paper.title, columns: { documentId: on.id, placeId: null, view: null } };
}

/** "for ann@example.org, until 2026-12-24, at most 3 openings, with a password, without copies" */
function termsInWords({ email, until, mostOpenings, password, copies }: MakeInput): string {
  return [
    email === null ? 'for anyone with it' : `for ${email}`,
    `until ${until}`,
    ...(mostOpenings === null ? [] : [`at most ${mostOpenings} openings`]),
    ...(password === null ? [] : ['with a password']),
    copies ? 'with copies' : 'without copies',
  ].join(', ');
}

/** Links the caller may know of: their own, and those to what they manage. */
const linkIsKnown = (actor: Actor): SQL =>
  sql`(${outsideLink.madeBy} = ${ownOf(actor)}::uuid
    or ${outsideLink.documentId} in (select ${document.id} from ${document} where ${paperAllows(actor, 'manage')})
    or ${outsideLink.placeId} in (select ${place.id} from ${place} where ${placeAllows(actor, 'manage')}))`;

/** Why a link no longer works; null if it does. */
export const endOf = (link: typeof outsideLink.$inferSelect, openings: number): LinkEnd =>
  linkEnd(
    {
      withdrawn: link.withdrawnAt !== null,
      expiresMs: link.expiresAt.getTime(),
      mostOpenings: link.mostOpenings,
      openings,
      wrongTries: link.wrongTries,
    },
    now().getTime(),
  );

/** Withdraws a link with immediate effect, also for people who have it open. */
export const withdrawLink = acts('link.withdraw', [], async (tx, actor, { linkId }) => {
  const [gone] = await tx
    .update(outsideLink)
    .set({ withdrawnAt: now(), withdrawnBy: actor.personId })
    .where(and(eq(outsideLink.id, linkId), isNull(outsideLink.withdrawnAt), linkIsKnown(actor)))
    .returning();
  if (!gone) refuse('not-found');
  const [paper] =
    gone.documentId === null
      ? []
      : await tx.select({ title: document.title }).from(document).where(eq(document.id, gone.documentId));
  const detail = { name: paper?.title ?? gone.view?.name ?? '', linkId };
  return {
    entry: { act: 'link.withdrawn', subjects: [gone.documentId ?? gone.placeId ?? ''], detail },
    result: null,
  };
});

/** The five hundred newest outside links, newest first, with their use. */
export const listLinks = asks('links.list', async (actor, { onId }) => {
  const rows = await db()
    .select({
      link: outsideLink,
      title: document.title,
      madeByName: person.name,
      openings: sql<number>`(select count(*) from ${outsideOpening} where ${outsideOpening.linkId} = ${outsideLink.id})::int`,
      lastOpenedAt: sql<
        string | null
      >`(select to_char(max(${outsideOpening.at}) at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"')
        from ${outsideOpening} where ${outsideOpening.linkId} = ${outsideLink.id})`,
    })
    .from(outsideLink)
    .innerJoin(person, eq(person.id, outsideLink.madeBy))
    .leftJoin(document, eq(document.id, outsideLink.documentId))
    .where(
      and(
        linkIsKnown(actor),
        onId === null ? sql`true` : or(eq(outsideLink.documentId, onId), eq(outsideLink.placeId, onId)),
      ),
    )
    .orderBy(desc(outsideLink.madeAt))
    .limit(500);
  return rows.map(({ link, title, madeByName, openings, lastOpenedAt }) => ({
    id: link.id,
    name: title ?? link.view?.name ?? '',
    on:
      link.documentId === null
        ? { kind: 'place' as const, id: link.placeId ?? '' }
        : { kind: 'paper' as const, id: link.documentId },
    email: link.email,
    hasPassword: link.passwordHash !== null,
    copies: link.copies,
    expiresAt: link.expiresAt.toISOString(),
    mostOpenings: link.mostOpenings,
    openings,
    lastOpenedAt,
    madeBy: madeByName,
    madeAt: link.madeAt.toISOString(),
    ended: endOf(link, openings),
  }));
});
