import { refuse } from '@/core/errors/refusal';
import type { Actor } from './actor';

/** Refuses everyone but keepers. */
export const requireKeeper = (actor: Actor): void => {
  if (!actor.keeper) refuse('not-allowed', 'Only a keeper does this.');
};
