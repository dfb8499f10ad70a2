import { eq } from 'drizzle-orm';
import { ranked } from '@/core/intake/evidence';
import { holds, titleByRule, type RuleFacts } from '@/core/intake/filingRule';
import type { Candidate, ProposedPart } from '@/core/intake/model';
import { dossierIn } from '@/core/tree/lineage';
import { db } from '../db/client';
import { place } from '../db/schema';
import { rulesInOrder } from './rules';

/** That a rule says so, in words. */
export const saysRule = (name: string): string => `The filing rule “${name}” says so.`;

/**
 * What the first filing rule that holds makes of an arrival: its place comes before all others, and its pattern names the parts that
 * would be filed. Without one all stays as it is.
 */
export async function byRule(facts: RuleFacts, candidates: readonly Candidate[]) {
  const plain = {
    candidates,
    fileBy: null,
    labels: [],
    tell: [],
    ruled: {},
    titled: (parts: readonly ProposedPart[]) => parts,
  };
  const rule = (await rulesInOrder(db())).find(
    (each) => each.on && each.placeId !== null && holds(each.conditions, facts),
  );
  if (!rule?.placeId) return plain;
  const [target] = await db()
    .select({ id: place.id, lineage: place.lineage, closed: place.closed })
    .from(place)
    .where(eq(place.id, rule.placeId));
  const dossierId = dossierIn(target?.lineage ?? []);
  if (!target || target.closed || dossierId === null) return plain;
  const before = candidates.find((each) => each.dossierId === dossierId);
  const evidence = [{ kind: 'rule' as const, about: rule.name }, ...(before?.evidence ?? [])];
  // A rule that says the dossier leaves open where in it.
  const within = target.id === dossierId ? {} : { placeId: target.id };
  return {
    /** The rule, where it files by itself. */
    fileBy: rule.filesFrom === null ? null : rule.id,
    labels: rule.labelIds.map((id) => ({ id, why: saysRule(rule.name) })),
    tell: rule.tell.map((id) => ({ id, why: saysRule(rule.name) })),
    ruled: Object.keys(rule.values).length === 0 ? {} : { ruled: { rule: rule.name, dossierId, values: rule.values } },
    candidates: ranked([{ dossierId, evidence, ...within }, ...candidates.filter((each) => each !== before)]),
    titled: (parts: readonly ProposedPart[]) =>
      parts.map((part) =>
        part.counts
          ? { ...part, title: titleByRule(rule.title, part.title, { ...facts, stated: part.stated ?? [] }) }
          : part,
      ),
  };
}
