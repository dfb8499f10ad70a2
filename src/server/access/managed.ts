import { eq } from 'drizzle-orm';
import type { AccessOn } from '@/core/access/contract';
import type { Step } from '@/core/access/resolve';
import { refuse } from '@/core/errors/refusal';
import type { Reader } from '../db/client';
import { idIn } from '../db/idIn';
import { accessGrant, place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { papersFor, placeFor } from '../gate/held';
import { asGrant } from '../scopes/parts';

/** A place or paper whose access the caller may see and change. Needs `manage`; a closed place is no obstacle. */
export interface Managed {
  readonly on: AccessOn;
  readonly name: string;
  /** The place above, or the paper's home; null for the library. */
  readonly parentId: string | null;
  /** From the library down to the place itself, or to the paper's home. */
  readonly lineage: readonly string[];
  readonly revision: number;
  readonly step: Step;
}

/** What the caller manages; refused if they may not. */
export async function managed(reader: Reader, actor: Actor, on: AccessOn): Promise<Managed> {
  if (on.kind === 'place') {
    const found = await placeFor(reader, actor, on.id, 'manage', 'evenClosed');
    return {
      on,
      name: found.name,
      parentId: found.parentId,
      lineage: found.lineage,
      revision: found.accessRevision,
      step: { follows: found.follows, grants: await ownGrants(reader, on) },
    };
  }
  const [paper] = await papersFor(reader, actor, [on.id], 'manage', 'evenClosed');
  if (!paper) refuse('not-found');
  return {
    on,
    name: paper.title,
    parentId: paper.homeId,
    lineage: paper.lineage,
    revision: paper.accessRevision,
    step: { follows: paper.follows, grants: await ownGrants(reader, on) },
  };
}

/** Which rows of `access_grant` belong to a place or paper. */
export const grantsOn = (on: AccessOn) =>
  on.kind === 'place' ? eq(accessGrant.placeId, on.id) : eq(accessGrant.documentId, on.id);

async function ownGrants(reader: Reader, on: AccessOn) {
  const rows = await reader.select().from(accessGrant).where(grantsOn(on)).orderBy(accessGrant.id);
  return rows.map(asGrant);
}

/** The places of a lineage, in order, each with its own access sheet. */
export async function stepsOn(reader: Reader, lineage: readonly string[]) {
  const places = await reader
    .select({ id: place.id, name: place.name, kind: place.kind, follows: place.follows })
    .from(place)
    .where(idIn(place.id, lineage));
  const grants = await reader
    .select()
    .from(accessGrant)
    .where(idIn(accessGrant.placeId, lineage))
    .orderBy(accessGrant.id);
  const byId = new Map(places.map((each) => [each.id, each]));
  return lineage.flatMap((id) => {
    const found = byId.get(id);
    if (!found) return [];
    const step: Step = {
      follows: found.follows,
      grants: grants.filter((grant) => grant.placeId === id).map(asGrant),
    };
    return [{ ...found, step }];
  });
}
