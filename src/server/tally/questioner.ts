import { mayEver, seesAll, type Actor } from '../gate/actor';
import { now } from '../base/clock';
import type { Questioner } from './followed';

/** The caller in the form the tally takes. */
export const questioner = (actor: Actor): Questioner => ({
  personId: actor.personId,
  keeper: seesAll(actor),
  nowMs: now().getTime(),
  manages: !actor.seenBy && mayEver(actor, 'manage'),
  shown: actor.seenBy ? { scopes: [...actor.seenBy.scopes.keys()], byOpening: [...actor.seenBy.byOpening] } : null,
});
