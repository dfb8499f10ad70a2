import { randomBytes, randomInt, timingSafeEqual } from 'node:crypto';
import { and, count, eq, gt, sql } from 'drizzle-orm';
import type { z } from 'zod';
import { bitOf, type CapabilitySet } from '@/core/access/capability';
import { openingLets } from '@/core/access/resolve';
import { refuse } from '@/core/errors/refusal';
import type { openLinkSchema } from '@/core/outside/contract';
import { visitMs, type SharedView } from '@/core/outside/model';
import type { Actor } from '../gate/actor';
import { sightOfManaged } from '../access/seeAs';
import type { Caller } from '../auth/door';
import { isPassword } from '../passwords/password';
import { now } from '../base/clock';
import { db, type Reader, type Tx } from '../db/client';
import { outsideLink, outsideOpening, signer, signOff, version } from '../db/schema';
import { apart } from '../db/transaction';
import { sendMail } from '../mail/outbox';
import { sha256Hex } from '../base/sha256';
import { endOf } from './links';

type Link = typeof outsideLink.$inferSelect;

const codeMs = 10 * 60_000;
const codeEveryMs = 60_000;

/** What a link shows before it is opened: what the visitor has to enter. */
export interface Gate {
  readonly linkId: string;
  readonly needsCode: boolean;
  readonly needsPassword: boolean;
}

/** The usable link of a token. Refuses as gone, whether the link has ended or never existed. */
export async function gateOf(token: string): Promise<Gate> {
  const link = await openableLink(db(), token);
  return { linkId: link.id, needsCode: link.email !== null, needsPassword: link.passwordHash !== null };
}

async function linkOf(reader: Reader, token: string): Promise<Link> {
  const [link] = await reader
    .select()
    .from(outsideLink)
    .where(eq(outsideLink.tokenHash, sha256Hex(token)));
  return link ?? refuse('gone');
}

async function openableLink(reader: Reader, token: string): Promise<Link> {
  const link = await linkOf(reader, token);
  const [used] = await reader
    .select({ openings: count() })
    .from(outsideOpening)
    .where(eq(outsideOpening.linkId, link.id));
  if (endOf(link, used?.openings ?? 0) !== null) refuse('gone');
  return link;
}

/** Sends a code to the address a link is for, at most once a minute. It is never sent anywhere else. */
export async function sendCode(token: string): Promise<null> {
  const code = String(randomInt(0, 1_000_000)).padStart(6, '0');
  const until = new Date(now().getTime() + codeMs);
  const email = await apart(async (tx) => {
    await lockLink(tx, token);
    const link = await openableLink(tx, token);
    if (link.email === null) refuse('gone');
    if (link.codeUntil !== null && link.codeUntil.getTime() > until.getTime() - codeEveryMs)
      refuse('too-many', 'A code was sent less than a minute ago. Look for it, or wait a little.');
    await tx
      .update(outsideLink)
      .set({ codeHash: codeHash(link, code), codeUntil: until })
      .where(eq(outsideLink.id, link.id));
    return link.email;
  });
  await sendMail({
    to: { name: '', address: email },
    subject: `${code} is your code`,
    text: `Your code to open what was sent to you: ${code}\n\nIt is good for ten minutes, once.\n`,
  });
  return null;
}

/** The hash of a code together with its link, so that equal codes of two links differ. */
const codeHash = (link: Link, code: string): string => sha256Hex(`${link.id} ${code}`);

async function lockLink(tx: Tx, token: string): Promise<void> {
  await tx
    .select({ id: outsideLink.id })
    .from(outsideLink)
    .where(eq(outsideLink.tokenHash, sha256Hex(token)))
    .for('update');
}

/**
 * Opens a link: counts the opening and returns a visit token, valid for the rest of the day. Wrong passwords and codes
 * are counted too, and in the end block the link.
 */
export async function openLink(
  token: string,
  given: z.output<typeof openLinkSchema>,
  caller: Caller,
): Promise<{ linkId: string; visit: string; until: Date }> {
  const opened = await apart(async (tx) => {
    await lockLink(tx, token);
    const link = await openableLink(tx, token);
    if (!(await proves(link, given))) {
      await tx
        .update(outsideLink)
        .set({ wrongTries: sql`${outsideLink.wrongTries} + 1` })
        .where(eq(outsideLink.id, link.id));
      return null;
    }
    const at = now();
    const until = new Date(Math.min(at.getTime() + visitMs, link.expiresAt.getTime()));
    const visit = randomBytes(32).toString('base64url');
    await tx
      .update(outsideLink)
      .set({ wrongTries: 0, codeHash: null, codeUntil: null })
      .where(eq(outsideLink.id, link.id));
    await tx.insert(outsideOpening).values({ linkId: link.id, visitHash: sha256Hex(visit), at, until, ...caller });
    return { linkId: link.id, visit, until };
  });
  // Refuses after the transaction, so that the wrong attempt stays counted.
  return (
    opened ?? refuse('wrong-password', 'That does not open it. Check what you typed, or ask who sent you the link.')
  );
}

async function proves(link: Link, { password, code }: z.output<typeof openLinkSchema>): Promise<boolean> {
  const rightPassword =
    link.passwordHash === null || (await isPassword({ hash: link.passwordHash, password: password ?? '' }));
  const rightCode =
    link.email === null ||
    (link.codeHash !== null &&
      link.codeUntil !== null &&
      link.codeUntil > now() &&
      same(link.codeHash, codeHash(link, code ?? '')));
  return rightPassword && rightCode;
}

const same = (a: string, b: string): boolean => timingSafeEqual(Buffer.from(a), Buffer.from(b));

/** Someone outside who has opened a link: what they are shown, and with whose access. */
export interface Visitor {
  readonly actor: Actor;
  readonly copies: boolean;
  /** A paper, or the part of a place that a view shows. */
  readonly shows:
    | { readonly kind: 'paper'; readonly documentId: string; readonly version: number | null }
    | { readonly kind: 'view'; readonly placeId: string; readonly view: SharedView };
  /** Who they are among those asked to sign; null: they only read. */
  readonly signs: { readonly signerId: string } | null;
}

/**
 * The visitor who holds a visit token, if the link is still valid. They see what the link shows, as far as its maker
 * manages it now: if its maker loses access, so do they.
 */
export async function visitorOf(token: string, visit: string): Promise<Visitor | null> {
  const at = now();
  const [found] = await db()
    .select({ link: outsideLink })
    .from(outsideLink)
    .innerJoin(
      outsideOpening,
      and(
        eq(outsideOpening.linkId, outsideLink.id),
        eq(outsideOpening.visitHash, sha256Hex(visit)),
        gt(outsideOpening.until, at),
      ),
    )
    .where(eq(outsideLink.tokenHash, sha256Hex(token)));
  if (!found) return null;
  const { link } = found;
  // A link with no openings left stays usable for those who have opened it.
  if (link.withdrawnAt !== null || link.expiresAt <= at) return null;
  // A link to sign shows the version that is to be signed, and no other.
  const [asked] = await db()
    .select({ signerId: signer.id, version: version.number })
    .from(signer)
    .innerJoin(signOff, eq(signOff.id, signer.signOffId))
    .innerJoin(version, eq(version.id, signOff.versionId))
    .where(eq(signer.linkId, link.id));
  const lets: CapabilitySet = link.copies ? openingLets : bitOf('see');
  const scopes = await sightOfManaged(link.madeBy, lets);
  if (scopes === null) return null;
  return {
    actor: {
      personId: link.madeBy,
      name: 'Someone outside',
      email: '',
      keeper: false,
      seenBy: { personId: link.madeBy, name: 'Someone outside', scopes, byOpening: new Set() },
    },
    copies: link.copies,
    shows:
      link.documentId === null
        ? { kind: 'view', placeId: link.placeId ?? '', view: link.view ?? refuse('gone') }
        : { kind: 'paper', documentId: link.documentId, version: asked?.version ?? null },
    signs: asked === undefined ? null : { signerId: asked.signerId },
  };
}
