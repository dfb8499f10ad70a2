import { eq } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import { readPattern } from '@/core/dossiers/reference';
import { orRefuse, refuse } from '@/core/errors/refusal';
import type { PlaceRow } from '@/core/places/model';
import { perform } from '../acts/act';
import { place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { placeRow } from '../known/places';
import { makePlace } from './make';

/** Checks a reference pattern and returns it as stored; null for none. */
export function checkedPattern(raw: string | null): string | null {
  const pattern = raw?.trim() ?? '';
  if (pattern === '') return null;
  orRefuse(readPattern(pattern, 2000));
  return pattern;
}

/** Makes a series. */
export async function createSeries(actor: Actor, input: ReadInputOf<'series.create'>): Promise<PlaceRow> {
  return perform(actor, ['tree'], async (tx) => {
    if (!actor.keeper) refuse('not-allowed', 'Only a keeper makes series.');
    const [root] = await tx.select().from(place).where(eq(place.kind, 'library'));
    if (!root) throw new Error('The library has not been founded');
    const referencePattern = checkedPattern(input.referencePattern);
    const id = await makePlace(tx, actor, { parentId: root.id, kind: 'series', name: input.name, referencePattern });
    return {
      entry: { act: 'series.created', subjects: [id], detail: { name: input.name } },
      result: await placeRow(tx, actor, id),
    };
  });
}

/** Makes a folder in a place. */
export async function createFolder(actor: Actor, input: ReadInputOf<'folder.create'>): Promise<PlaceRow> {
  return perform(actor, async (tx) => {
    const parent = await placeFor(tx, actor, input.parentId, 'amend');
    const id = await makePlace(tx, actor, {
      parentId: parent.id,
      kind: 'folder',
      name: input.name,
      meetingDay: input.meetingDay ?? null,
    });
    return {
      entry: { act: 'folder.created', subjects: [id, parent.id], detail: { name: input.name } },
      result: await placeRow(tx, actor, id),
    };
  });
}
