import { and, eq, isNotNull, sql } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import type { ReadInputOf } from '@/core/contract';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { cycleOf } from '@/core/owed/owing';
import type { ReviewRuleRow } from '@/core/reviews/contract';
import { checkCycle } from '@/core/reviews/cycle';
import type { ReviewCycle } from '@/core/reviews/model';
import { rhythmInWords } from '@/core/reviews/standing';
import { acts, asks } from '../acts/operation';
import { db, type Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { person, place, reviewRule } from '../db/schema';
import { capabilitiesIn, placeFor } from '../gate/held';
import { placeIsKnown } from '../gate/visible';
import { checkType, namesOfTypes } from '../rules/ofType';

/** The columns of a stored cycle. */
export const cycleColumns = {
  everyMonths: reviewRule.everyMonths,
  rhythm: reviewRule.rhythm,
  firstOn: reviewRule.firstOn,
  warnDays: reviewRule.warnDays,
  responsibleId: reviewRule.responsibleId,
};

/** A cycle as it is stored. */
export const storedCycle = ({ rhythm, firstOn, warnDays, responsibleId }: ReviewCycle) => ({
  everyMonths: 'everyMonths' in rhythm ? rhythm.everyMonths : null,
  rhythm: 'rule' in rhythm ? rhythm.rule : null,
  firstOn,
  warnDays,
  responsibleId,
});

/** Checks a cycle, and that whoever answers for it has an account. */
export async function checkedCycle(reader: Reader, cycle: ReviewCycle): Promise<ReviewCycle> {
  orRefuse(checkCycle(cycle));
  if (cycle.responsibleId !== null) {
    const [found] = await reader
      .select({ id: person.id })
      .from(person)
      .where(and(eq(person.id, cycle.responsibleId), eq(person.active, true)));
    if (!found) refuse('invalid', 'Whoever reviews needs an account that is turned on.');
  }
  return cycle;
}

/** The rules that speak of papers in a place. */
export const reviewRules = asks('reviews.rules', async (actor, { placeId }): Promise<readonly ReviewRuleRow[]> => {
  const { lineage } = await placeFor(db(), actor, placeId, 'see');
  const rows = await db()
    .select({
      ...cycleColumns,
      id: reviewRule.id,
      placeId: place.id,
      placeName: place.name,
      scopeId: place.scopeId,
      columnId: reviewRule.columnId,
      termId: reviewRule.termId,
      responsible: sql<string>`coalesce(${person.name}, '')`,
      revision: reviewRule.revision,
    })
    .from(reviewRule)
    .innerJoin(place, eq(place.id, reviewRule.placeId))
    .leftJoin(person, eq(person.id, reviewRule.responsibleId))
    .where(and(idIn(place.id, lineage), placeIsKnown(actor)))
    .orderBy(sql`array_length(${place.lineage}, 1)`, reviewRule.id);
  const types = rows.map(({ columnId, termId }) =>
    columnId === null || termId === null ? null : { columnId, termId },
  );
  const nameOf = await namesOfTypes(db(), types);
  const rules: ReviewRuleRow[] = [];
  for (const [at, { scopeId, columnId: _columnId, termId: _termId, ...row }] of rows.entries()) {
    const type = types[at] ?? null;
    rules.push({
      id: row.id,
      placeId: row.placeId,
      placeName: row.placeName,
      ofType: type === null ? null : { ...type, name: nameOf.get(type.termId) ?? '' },
      cycle: cycleOf(row),
      responsible: row.responsible,
      revision: row.revision,
      mayChange: has(await capabilitiesIn(db(), actor, scopeId), 'manage'),
    });
  }
  return rules;
});

/** How often papers of a rule are reviewed, in words of the journal. */
export const howInWords = ({ rhythm, warnDays }: ReviewCycle): string =>
  `${rhythmInWords(rhythm)}, announced ${warnDays} days before`;

/** Says how often papers below a place are reviewed: all, or those of one type. */
export const setReviewRule = acts('reviews.setRule', [], async (tx, actor, input) => {
  const found = await placeFor(tx, actor, input.placeId, 'manage');
  const cycle = await checkedCycle(tx, input.cycle);
  const typeName = await checkType(tx, input.ofType, found.lineage);
  const fields = {
    ...storedCycle(cycle),
    columnId: input.ofType?.columnId ?? null,
    termId: input.ofType?.termId ?? null,
  };
  if (input.ruleId === null) await tx.insert(reviewRule).values({ ...fields, placeId: found.id });
  else {
    const changed = await tx
      .update(reviewRule)
      .set({ ...fields, revision: input.revision + 1 })
      .where(
        and(eq(reviewRule.id, input.ruleId), eq(reviewRule.placeId, found.id), eq(reviewRule.revision, input.revision)),
      )
      .returning({ id: reviewRule.id });
    if (changed.length === 0) refuse('conflict');
  }
  const detail = { name: found.name, of: typeName ?? 'all papers', how: howInWords(cycle) };
  return { entry: { act: 'review.ruleSet', subjects: [found.id], detail }, result: null };
});

/** Removes a rule: what places above say of its papers counts again. */
export const removeReviewRule = acts(
  'reviews.removeRule',
  [],
  async (tx, actor, { ruleId, revision }: ReadInputOf<'reviews.removeRule'>) => {
    const [rule] = await tx
      .select({ placeId: reviewRule.placeId, columnId: reviewRule.columnId, termId: reviewRule.termId })
      .from(reviewRule)
      .where(and(eq(reviewRule.id, ruleId), isNotNull(reviewRule.placeId)));
    if (!rule?.placeId) refuse('not-found');
    const found = await placeFor(tx, actor, rule.placeId, 'manage');
    const gone = await tx
      .delete(reviewRule)
      .where(and(eq(reviewRule.id, ruleId), eq(reviewRule.revision, revision)))
      .returning({ id: reviewRule.id });
    if (gone.length === 0) refuse('conflict');
    const { columnId, termId } = rule;
    const type = columnId === null || termId === null ? null : { columnId, termId };
    const of = type === null ? 'all papers' : ((await namesOfTypes(tx, [type])).get(type.termId) ?? '');
    return {
      entry: { act: 'review.ruleRemoved', subjects: [found.id], detail: { name: found.name, of } },
      result: null,
    };
  },
);
