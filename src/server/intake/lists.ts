import { and, asc, count, desc, eq, gt, inArray, isNotNull, isNull, not, or, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { has } from '@/core/access/capability';
import { refuse } from '@/core/errors/refusal';
import type { ArrivalRow } from '@/core/intake/contract';
import { sureOfFirst } from '@/core/intake/evidence';
import { isMail, listedHours, mostTogether, type Proposal } from '@/core/intake/model';
import { fileAsPart } from '@/core/intake/parts';
import { asks } from '../acts/operation';
import { now } from '../base/clock';
import { db } from '../db/client';
import { arrival, person, place } from '../db/schema';
import { everywhere, type Actor } from '../gate/actor';
import { today } from '../scopes/memberships';
import { mayPutIn } from '../uploads/forIntake';
import { arrivalIsTheirs } from './access';

/** So many arrivals are listed at once. */
const mostListed = 200;

/** An arrival with the names that a list shows. */
export type Row = typeof arrival.$inferSelect & {
  readonly dossier: string | null;
  readonly asked: string | null;
  readonly brought: string | null;
};

const asked = alias(person, 'asked');
const brought = alias(person, 'brought');

/** Arrivals that the caller may check, and that are so. */
const listed = (actor: Actor, also: SQL | undefined) =>
  db()
    .select({
      ...{ arrival, asked: asked.name, brought: brought.name },
      dossier: sql<string | null>`nullif(concat_ws(' ', ${place.reference}, ${place.name}), '')`,
    })
    .from(arrival)
    .leftJoin(place, eq(place.id, arrival.dossierId))
    .leftJoin(asked, eq(asked.id, arrival.askedOf))
    .leftJoin(brought, eq(brought.id, arrival.broughtBy))
    .where(and(arrivalIsTheirs(actor), also))
    .$dynamic();

/** Which arrivals a list shows, and in which order. */
function lists(day: string) {
  const isLater = gt(arrival.putOffUntil, day);
  const since = new Date(now().getTime() - listedHours * 60 * 60 * 1000);
  const waits = eq(arrival.state, 'waiting');
  const oldestFirst = [asc(arrival.arrivedAt), asc(arrival.id)];
  return {
    waiting: { is: and(waits, or(isNull(arrival.putOffUntil), not(isLater))), order: oldestFirst },
    later: { is: and(waits, isLater), order: [asc(arrival.putOffUntil), ...oldestFirst] },
    byRule: {
      is: and(eq(arrival.state, 'filed'), isNotNull(arrival.byRule), gt(arrival.doneAt, since)),
      order: [desc(arrival.doneAt)],
    },
    done: { is: inArray(arrival.state, ['filed', 'notOurs', 'cut', 'joined']), order: [desc(arrival.doneAt)] },
  } as const;
}

/** The arrivals that the caller may check. */
export const arrivalsOf = asks('arrivals.list', async (actor, { which }) => {
  const all = lists(await today(db()));
  const rows = await listed(actor, all[which].is)
    .orderBy(...all[which].order)
    .limit(mostListed + 1);
  return {
    arrivals: rows.slice(0, mostListed).map((each) => rowOf({ ...each.arrival, ...each })),
    hasMore: rows.length > mostListed,
    unread:
      which === 'waiting' && has(everywhere(actor), 'add')
        ? await db().$count(arrival, eq(arrival.state, 'unread'))
        : 0,
    mayPutIn: await mayPutIn(actor),
    elsewhere: { later: await countOf(actor, all.later.is), byRule: await countOf(actor, all.byRule.is) },
  };
});

/** How many arrivals wait for the caller. */
export const arrivalsWaiting = asks('arrivals.waiting', async (actor) => ({
  waiting: await countOf(actor, lists(await today(db())).waiting.is),
}));

async function countOf(actor: Actor, is: SQL | undefined): Promise<number> {
  const [found] = await db()
    .select({ count: count() })
    .from(arrival)
    .leftJoin(place, eq(place.id, arrival.dossierId))
    .where(and(is, arrivalIsTheirs(actor)));
  return found?.count ?? 0;
}

/** An arrival as the lists show it. */
export function rowOf(row: Row): ArrivalRow {
  const { id, way, arrivedAt, state, senderName, senderAddress, subject, proposal, dossier, askedOf, byRule } = row;
  return {
    ...{ id, way, state, dossier, byRule, revision: row.revision, isScan: !isMail(row.mediaType) },
    subject: isMail(row.mediaType) || subject !== '' ? subject : row.fileName,
    arrivedAt: arrivedAt.toISOString(),
    sender: senderName === '' ? senderAddress : senderName,
    broughtBy: row.brought,
    papers: proposal?.parts.filter(({ counts }) => counts).length ?? 0,
    sure: state === 'waiting' && proposal?.candidates.length ? sureOfFirst(proposal.candidates) : null,
    askedOf: state === 'waiting' && askedOf !== null ? { id: askedOf, name: row.asked ?? '' } : null,
    putOffUntil: state === 'waiting' ? row.putOffUntil : null,
  };
}

/** An arrival that has been read, and that the caller may check. @throws Refusal `not-found` */
export async function foundArrival(actor: Actor, arrivalId: string): Promise<Row & { readonly proposal: Proposal }> {
  const [row] = await listed(actor, eq(arrival.id, arrivalId));
  const { state } = row?.arrival ?? {};
  // A stack that separators took apart, and pages that were put in as one paper, were never proposed.
  const proposal =
    row?.arrival.proposal ??
    (state === 'cut' || state === 'joined' ? { parts: fileAsPart(row?.arrival.fileName ?? ''), candidates: [] } : null);
  if (!row || !proposal || state === 'unread' || state === 'again') refuse('not-found');
  return { ...row.arrival, proposal, dossier: row.dossier, asked: row.asked, brought: row.brought };
}

/** The arrivals that wait, come from the same sender and most likely go to the same dossier: that one first. */
export async function alikeTo(actor: Actor, { id, senderAddress, dossierId }: Row) {
  if (senderAddress === '' || dossierId === null) return [];
  const is = lists(await today(db())).waiting.is;
  const rows = await listed(actor, and(is, eq(arrival.senderAddress, senderAddress), eq(arrival.dossierId, dossierId)))
    .orderBy(sql`${arrival.id} <> ${id}`, asc(arrival.arrivedAt), asc(arrival.id))
    .limit(mostTogether);
  return rows.map((each) => ({ ...each.arrival, ...each }));
}
