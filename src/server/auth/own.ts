import { refuse } from '@/core/errors/refusal';
import { requireOwnSight } from '../acts/act';
import type { Actor } from '../gate/actor';

/** What concerns an account is done by its person at a browser: never by a program with a token, nor in someone else's sight. */
export function requireOwnSession(actor: Actor): void {
  requireOwnSight(actor);
  if (actor.narrowed) refuse('not-allowed', 'A token does not reach accounts. Sign in to do this.');
}
