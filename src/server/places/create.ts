import { eq } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import { readPattern } from '@/core/dossiers/reference';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { acts } from '../acts/operation';
import { filingPlan, place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { placeRow } from '../known/places';
import { makeCommon } from './common';
import { makePlace } from './make';
import type { Tx } from '../db/client';

/** Checks a reference pattern and returns it as stored; null for none. */
export function checkedPattern(raw: string | null): string | null {
  const pattern = raw?.trim() ?? '';
  if (pattern === '') return null;
  orRefuse(readPattern(pattern, 2000));
  return pattern;
}

/** Makes a series. */
export const createSeries = acts('series.create', ['tree'], async (tx, actor, input) => {
  if (!actor.keeper) refuse('not-allowed', 'Only a keeper makes series.');
  const [root] = await tx.select().from(place).where(eq(place.kind, 'library'));
  if (!root) throw new Error('The library has not been founded');
  const referencePattern = checkedPattern(input.referencePattern);
  const id = await makePlace(tx, actor, { parentId: root.id, kind: 'series', name: input.name, referencePattern });
  if (input.byYear === false) await tx.insert(filingPlan).values({ seriesId: id, byYear: false, folders: [] });
  return {
    entry: { act: 'series.created', subjects: [id], detail: { name: input.name } },
    result: await placeRow(tx, actor, id),
  };
});

async function makeFolder(tx: Tx, actor: Actor, input: ReadInputOf<'folder.create'>) {
  const parent = await placeFor(tx, actor, input.parentId, 'amend');
  const { name, meetingDay = null } = input;
  const id = await makePlace(tx, actor, { parentId: parent.id, kind: 'folder', name, meetingDay });
  return { id, holderId: parent.id };
}

/** Makes a folder in a place, or one that is common to all dossiers of the series. */
export const createFolder = acts('folder.create', [], async (tx, actor, input) => {
  const { id, holderId } = await (input.common ? makeCommon : makeFolder)(tx, actor, input);
  return {
    entry: { act: 'folder.created', subjects: [id, holderId], detail: { name: input.name } },
    result: await placeRow(tx, actor, id),
  };
});
