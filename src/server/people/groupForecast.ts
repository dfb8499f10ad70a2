import { eq, sql } from 'drizzle-orm';
import { difference } from '@/core/access/impact';
import { has } from '@/core/access/capability';
import { resolveLibrary, type Resolved } from '@/core/access/library';
import { refuse } from '@/core/errors/refusal';
import { groupsOn, wouldLoop, type Term } from '@/core/people/belonging';
import { asks } from '../acts/operation';
import { linesOf } from '../access/forecast';
import { partBelow, grantees } from '../scopes/parts';
import { personGroup, place } from '../db/schema';
import { snapshot } from '../db/transaction';
import { termsOf, today } from '../scopes/memberships';
import { requireKeeper } from '../gate/keeper';

/** Who would gain and lose what if a group had these members, by all access sheets that name it. */
export const forecastGroup = asks('group.forecast', async (actor, { groupId, terms }) => {
  requireKeeper(actor);
  return snapshot(async (tx) => {
    const [group] = await tx.select({ id: personGroup.id }).from(personGroup).where(eq(personGroup.id, groupId));
    const [root] = await tx
      .select({ id: place.id })
      .from(place)
      .where(sql`${place.kind} = 'library'`);
    if (!group || !root) refuse('not-found');
    const others = (await termsOf(tx)).filter((term) => term.groupId !== groupId);
    if (terms.some(({ member }) => member.kind === 'group' && wouldLoop(others, groupId, member.id)))
      refuse('into-itself', 'A group cannot be in itself, nor in a group that is in it.');
    const wanted = terms.map(({ member, from, until }): Term => ({ groupId, member, from, until }));
    const groups = groupsOn([...others, ...wanted], await today(tx));
    const part = await partBelow(tx, root.id);
    const now = await grantees(tx);
    const then = now.map(({ personId }) => ({ personId, groupIds: groups.get(personId) ?? new Set<string>() }));
    const after = resolveLibrary(part.library, then);
    const impacts = difference(resolveLibrary(part.library, now), after);
    return linesOf(tx, actor, part, impacts, seersIn(after));
  });
});

/** Everyone who sees anything. */
function seersIn({ places, papers }: Resolved): ReadonlySet<string> {
  const seers = new Set<string>();
  for (const sight of new Set([...places.values(), ...papers.values()]))
    for (const [personId, set] of sight) if (has(set, 'see')) seers.add(personId);
  return seers;
}
