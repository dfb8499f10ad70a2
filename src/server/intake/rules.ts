import { and, asc, count, desc, eq, gte, isNull, max, sql } from 'drizzle-orm';
import type { FilingRuleRow, FilingRuleTry } from '@/core/intake/contract';
import {
  faultOf,
  holds,
  mostRules,
  type FilingRule,
  type RuleCondition,
  type RuleFacts,
} from '@/core/intake/filingRule';
import { refuse } from '@/core/errors/refusal';
import { dossierIn } from '@/core/tree/lineage';
import { acts, asks } from '../acts/operation';
import { typedValues } from '../columns/typed';
import { db, type Reader, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { arrival, attachment, filingRule, label, person, place, readingPage } from '../db/schema';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { namesOn, pathOf } from '../known/names';

/** A rule is tried on so many of the arrivals that were filed last. */
const mostTried = 500;
/** So many that it would have got wrong are shown. */
const mostShown = 10;
/** So much of the text of each is looked through. In characters. */
const mostText = 20_000;

/** Refuses who is no keeper. */
export function requireKeeper({ keeper }: Actor): void {
  if (!keeper) refuse('not-allowed', 'Filing rules are made by keepers.');
}

/** The rules in their order. */
export const rulesInOrder = (reader: Reader): Promise<FilingRule[]> =>
  reader
    .select({
      id: filingRule.id,
      name: filingRule.name,
      on: filingRule.on,
      conditions: filingRule.conditions,
      placeId: filingRule.placeId,
      title: filingRule.title,
      values: filingRule.values,
      labelIds: filingRule.labelIds,
      tell: filingRule.tell,
      filesFrom: filingRule.filesFrom,
      revision: filingRule.revision,
    })
    .from(filingRule)
    .orderBy(asc(filingRule.position), asc(filingRule.id));

/** All filing rules, with where each files. */
export const filingRules = asks('filing.rules', async (actor) => {
  requireKeeper(actor);
  const rules = await rulesInOrder(db());
  const ids = rules.flatMap(({ placeId }) => placeId ?? []);
  const places =
    ids.length === 0
      ? []
      : await db().select({ id: place.id, lineage: place.lineage }).from(place).where(idIn(place.id, ids));
  const told = [...new Set(rules.flatMap(({ tell }) => tell))];
  const there =
    told.length === 0
      ? []
      : await db()
          .select({ id: person.id, name: person.name })
          .from(person)
          .where(and(idIn(person.id, told), eq(person.active, true)));
  const rows: FilingRuleRow[] = [];
  for (const rule of rules) {
    const lineage = places.find(({ id }) => id === rule.placeId)?.lineage;
    const people = there.filter((each) => rule.tell.includes(each.id));
    rows.push({
      ...rule,
      tell: people.map((each) => each.id),
      people,
      path: lineage ? namesOn(await pathOf(db(), actor, lineage)) : null,
    });
  }
  return rows;
});

/** What a rule would have come to for what was filed last, and for what waits now. */
export const tryFilingRule = asks('filing.tryRule', async (actor, { conditions, placeId }): Promise<FilingRuleTry> => {
  requireKeeper(actor);
  const { lineage } = await placeFor(db(), actor, placeId, 'add');
  const dossierId = requireDossier(lineage);
  const filed = await lastOf('filed');
  const waiting = await lastOf('waiting');
  const done = await meantBy(conditions, filed);
  const others = done.filter((each) => each.dossierId !== dossierId);
  return {
    tried: filed.length,
    meant: done.length,
    right: done.length - others.length,
    others: others.slice(0, mostShown).map(({ id, subject, senderName, senderAddress, dossier }) => ({
      ...{ id, subject, dossier },
      sender: senderName === '' ? senderAddress : senderName,
    })),
    waiting: (await meantBy(conditions, waiting)).length,
  };
});

/** The last arrivals of a state. */
const lastOf = (state: 'filed' | 'waiting') =>
  db()
    .select({
      ...{ id: arrival.id, sha256: arrival.sha256, sentTo: arrival.sentTo, subject: arrival.subject },
      ...{ senderAddress: arrival.senderAddress, senderName: arrival.senderName, proposal: arrival.proposal },
      dossierId: arrival.dossierId,
      dossier: sql<string | null>`nullif(concat_ws(' ', ${place.reference}, ${place.name}), '')`,
    })
    .from(arrival)
    .leftJoin(place, eq(place.id, arrival.dossierId))
    .where(eq(arrival.state, state))
    .orderBy(desc(arrival.arrivedAt))
    .limit(mostTried);
type Last = Awaited<ReturnType<typeof lastOf>>[number];

/** Those of some arrivals for which all conditions hold; what is not complete yet holds for none. */
async function meantBy(conditions: readonly RuleCondition[], arrivals: readonly Last[]): Promise<Last[]> {
  if (conditions.some((each) => faultOf(each) !== null)) return [];
  const needsText = conditions.some(({ field }) => field === 'words');
  const texts = needsText ? await textsOf(arrivals.map(({ sha256 }) => sha256)) : new Map<string, string>();
  return arrivals.filter((each) => holds(conditions, factsOf(each, texts.get(each.sha256) ?? '')));
}

/** What rules look at of an arrival that has been read. */
const factsOf = ({ senderAddress, sentTo, subject, proposal }: Last, text: string): RuleFacts => ({
  ...{ sender: senderAddress, sentTo, subject, text },
  stated: proposal?.parts.flatMap(({ stated = [] }) => stated) ?? [],
});

/** Has the proposals made anew for what waits and looks like a rule. */
const proposeAnew = (tx: Tx, ids: readonly string[]) =>
  tx
    .update(arrival)
    .set({ state: 'unread' })
    .where(and(idIn(arrival.id, ids), eq(arrival.state, 'waiting')));

/** The same for what waits where a rule of that name said: it does so no more, or may not. */
const proposeAnewBy = (tx: Tx, name: string) =>
  tx
    .update(arrival)
    .set({ state: 'unread' })
    .where(
      and(
        eq(arrival.state, 'waiting'),
        sql`${arrival.proposal} @> ${JSON.stringify({ candidates: [{ evidence: [{ kind: 'rule', about: name }] }] })}::jsonb`,
      ),
    );

/** The words of some mails and of what is attached to them, by the content of the mail. */
async function textsOf(mails: readonly string[]): Promise<ReadonlyMap<string, string>> {
  const { rows } = await db().execute<{ mail: string; words: string }>(sql`
    select part.mail, left(string_agg(${readingPage.words}, ' ' order by ${readingPage.page}), ${mostText}) as words
    from (
      select unnest(${sql.param([...mails])}::text[]) as mail, unnest(${sql.param([...mails])}::text[]) as sha256
      union all
      select ${attachment.mailSha256}, ${attachment.sha256} from ${attachment}
      where ${attachment.mailSha256} = any(${sql.param([...mails])}::text[])
    ) as part join ${readingPage} on ${readingPage.sha256} = part.sha256
    group by part.mail`);
  return new Map(rows.map(({ mail, words }) => [mail, words]));
}

function requireDossier(lineage: readonly string[]): string {
  return dossierIn(lineage) ?? refuse('invalid', 'A filing rule files into a dossier, or into a place in one.');
}

/** Makes a rule, or changes one. */
export const keepFilingRule = acts(
  'filing.keepRule',
  [],
  async (tx, actor, { id, revision, placeId, conditions, beforeId, ...fields }) => {
    requireKeeper(actor);
    const { lineage } = await placeFor(tx, actor, placeId, 'add');
    requireDossier(lineage);
    requireSound(conditions);
    await typedValues(tx, actor, lineage, fields.values ?? {}, (column) => `values.${column}`);
    await requireKnown(tx, fields);
    // It files with what whoever kept it last may do.
    const set = { ...fields, conditions, placeId, setBy: actor.personId };
    const meant = fields.on ? await meantBy(conditions, await lastOf('waiting')) : [];
    await proposeAnew(
      tx,
      meant.map((each) => each.id),
    );
    const entry = { act: 'filingRule.kept' as const, subjects: [placeId], detail: { name: fields.name } };
    if (id !== null) {
      const [before] = await tx.select({ name: filingRule.name }).from(filingRule).where(eq(filingRule.id, id));
      if (before) await proposeAnewBy(tx, before.name);
      const [changed] = await tx
        .update(filingRule)
        .set({ ...set, revision: revision + 1 })
        .where(sql`${filingRule.id} = ${id} and ${filingRule.revision} = ${revision}`)
        .returning({ id: filingRule.id });
      if (!changed) refuse((await tx.$count(filingRule, eq(filingRule.id, id))) === 0 ? 'not-found' : 'conflict');
      return { entry, result: { id } };
    }
    await lockRules(tx);
    const [last] = await tx.select({ position: max(filingRule.position), rules: count() }).from(filingRule);
    if ((last?.rules ?? 0) >= mostRules) refuse('invalid', `A library has at most ${mostRules} filing rules.`);
    const [made] = await tx
      .insert(filingRule)
      .values({ ...set, position: await madeRoomBefore(tx, beforeId ?? null, (last?.position ?? 0) + 1) })
      .returning({ id: filingRule.id });
    if (!made) throw new Error('The rule was not made');
    return { entry, result: { id: made.id } };
  },
);

/** The position of a new rule before another, which is moved with all that follow it; `atEnd` where that is gone, or none is named. */
async function madeRoomBefore(tx: Tx, beforeId: string | null, atEnd: number): Promise<number> {
  if (beforeId === null) return atEnd;
  const [next] = await tx.select({ position: filingRule.position }).from(filingRule).where(eq(filingRule.id, beforeId));
  if (!next) return atEnd;
  await tx
    .update(filingRule)
    .set({ position: sql`${filingRule.position} + 1` })
    .where(gte(filingRule.position, next.position));
  return next.position;
}

/** Labels of everybody's, and people who are there. */
async function requireKnown(
  tx: Tx,
  {
    labelIds = [],
    tell = [],
  }: { readonly labelIds?: readonly string[] | undefined; readonly tell?: readonly string[] | undefined },
): Promise<void> {
  const labels =
    labelIds.length === 0 ? 0 : await tx.$count(label, and(idIn(label.id, labelIds), isNull(label.ownerId)));
  if (labels !== new Set(labelIds).size)
    refuse('invalid', 'One of the labels is gone, or is somebody’s own: a rule gives labels that everybody sees.');
  const people = tell.length === 0 ? 0 : await tx.$count(person, and(idIn(person.id, tell), eq(person.active, true)));
  if (people !== new Set(tell).size) refuse('invalid', 'One of those who are to be told has left.');
}

function requireSound(conditions: readonly RuleCondition[]): void {
  const faults = conditions.flatMap((each, at) => {
    const says = faultOf(each);
    return says === null ? [] : [{ path: `conditions.${at}`, says }];
  });
  const [first] = faults;
  if (first) refuse('invalid', first.says, faults);
}

/** Whoever changes the order, or adds to it, does so one after the other. */
const lockRules = (tx: Tx) => tx.execute(sql`select pg_advisory_xact_lock(hashtext('filing rules'))`);

/** Has a rule looked at before or after the one beside it. */
export const moveFilingRule = acts('filing.moveRule', [], async (tx, actor, { id, by }) => {
  requireKeeper(actor);
  await lockRules(tx);
  const rules = await rulesInOrder(tx);
  const at = rules.findIndex((each) => each.id === id);
  const rule = rules[at] ?? refuse('not-found');
  const beside = rules[at + (by === 'up' ? -1 : 1)];
  if (!beside) refuse('conflict', by === 'up' ? 'It is the first already.' : 'It is the last already.');
  await proposeAnewBy(tx, rule.name);
  await proposeAnewBy(tx, beside.name);
  const order = rules.map((each) => (each.id === rule.id ? beside : each.id === beside.id ? rule : each));
  for (const [position, each] of order.entries())
    await tx.update(filingRule).set({ position }).where(eq(filingRule.id, each.id));
  return { entry: { act: 'filingRule.moved', subjects: [], detail: { name: rule.name } }, result: null };
});

/** Takes a rule away; what was filed as it proposed stays where it is. */
export const removeFilingRule = acts('filing.removeRule', [], async (tx, actor, { id }) => {
  requireKeeper(actor);
  const [gone] = await tx.delete(filingRule).where(eq(filingRule.id, id)).returning({ name: filingRule.name });
  if (!gone) refuse('not-found');
  await proposeAnewBy(tx, gone.name);
  return { entry: { act: 'filingRule.removed', subjects: [], detail: { name: gone.name } }, result: null };
});
