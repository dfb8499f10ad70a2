import { refuse } from '@/core/errors/refusal';
import { requireOwnSight } from '../acts/act';
import type { Actor } from '../gate/actor';

/** Refuses changes to an account unless its owner is signed in at a browser: not with a token, and not while impersonating. */
export function requireOwnSession(actor: Actor): void {
  requireOwnSight(actor);
  if (actor.narrowed) refuse('not-allowed', 'A token does not reach accounts. Sign in to do this.');
}
