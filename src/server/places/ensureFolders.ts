import { and, eq } from 'drizzle-orm';
import { has } from '@/core/access/capability';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { readName } from '@/core/text/name';
import { stepsOf } from '@/core/uploads/path';
import { nameKey } from '@/core/text/fold';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { placeAllows } from '../gate/visible';
import type { Tx } from '../db/client';
import { place } from '../db/schema';
import { makePlace } from './make';

/**
 * Finds the folders of a dropped folder's path (`Agendas/2026`) below a place, makes those that are missing, and returns
 * the id of the last. Ignores steps such as `..` and empty ones, so that a path cannot lead upwards.
 */
export async function ensureFolders(
  tx: Tx,
  actor: Actor,
  from: Awaited<ReturnType<typeof placeFor>>,
  relativePath: string,
): Promise<string> {
  const steps = stepsOf(relativePath);
  let parent = from;
  // Locked, so that several files of one dropped folder do not each make it.
  if (steps.length > 0) await tx.select({ id: place.id }).from(place).where(eq(place.id, from.id)).for('no key update');
  for (const step of steps) {
    const name = orRefuse(readName(step));
    const [found] = await tx
      .select({ id: place.id })
      .from(place)
      .where(and(eq(place.parentId, parent.id), eq(place.nameKey, nameKey(name)), placeAllows(actor, 'see')))
      .orderBy(place.position, place.id)
      .limit(1);
    if (!found && !has(parent.held, 'amend')) {
      refuse(
        'not-allowed',
        `You may file in “${parent.name}”, but not make the folder “${name}” there. Nothing was filed.`,
      );
    }
    const id = found?.id ?? (await makePlace(tx, actor, { parentId: parent.id, kind: 'folder', name }));
    parent = await placeFor(tx, actor, id, 'add');
  }
  return parent.id;
}
