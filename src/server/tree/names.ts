import { and, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { nameKey } from '@/core/text/fold';
import type { Actor } from '../gate/actor';
import { placeIsKnown } from '../gate/visible';
import type { Tx } from '../db/client';
import { place } from '../db/schema';

interface Named {
  readonly parentId: string;
  readonly name: string;
}

/**
 * Refuses names that sibling places have, as far as the caller may know of them: refusing the name of a hidden place
 * would reveal it. The caller of this function has locked the parents' rows.
 * @param but a place that may keep its own name
 */
export async function requireFreeNames(
  tx: Tx,
  actor: Actor,
  wanted: readonly Named[],
  but: string | null = null,
): Promise<void> {
  if (wanted.length === 0) return;
  const keys = wanted.map((each) => `${each.parentId} ${nameKey(each.name)}`);
  if (new Set(keys).size < keys.length) refuse('name-taken');
  const [taken] = await tx
    .select({ id: place.id })
    .from(place)
    .where(
      and(
        sql`(${place.parentId}, ${place.nameKey}) in (
          select * from unnest(${sql.param(wanted.map((each) => each.parentId))}::uuid[],
            ${sql.param(wanted.map((each) => nameKey(each.name)))}::text[]))`,
        sql`${place.id} is distinct from ${but}::uuid`,
        placeIsKnown(actor),
      ),
    )
    .limit(1);
  if (taken) refuse('name-taken');
}
