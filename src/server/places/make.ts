import type { Actor } from '../gate/actor';
import { giveNew } from '../columns/given';
import type { Tx } from '../db/client';
import { insertPlaces, type NewPlace } from '../tree/insert';

/** Makes places with everything derived for them: lineages, scopes, positions, given values. The only way to make places. */
export async function makePlaces(tx: Tx, actor: Actor, places: readonly NewPlace[]): Promise<void> {
  await insertPlaces(tx, actor, places);
  await giveNew(
    tx,
    places.map((each) => each.id),
  );
}

/** Makes one place and returns its id. */
export async function makePlace(tx: Tx, actor: Actor, made: Omit<NewPlace, 'id'>): Promise<string> {
  const id = crypto.randomUUID();
  await makePlaces(tx, actor, [{ ...made, id }]);
  return id;
}
