import { asks } from '../acts/operation';
import { db } from '../db/client';
import { placeFor } from '../gate/held';
import { expectedAmong } from './expected';
import { emptyFieldsAt, fieldsAt } from './offered';
import { foundArrival } from './lists';
import { requireKeeper } from './rules';

/** What would be filled in at a place that takes an arrival: its columns with what is proposed for them. */
export const arrivalFields = asks('arrival.fields', async (actor, { arrivalId, placeId }) => {
  const { proposal, subject } = await foundArrival(actor, arrivalId);
  const { lineage } = await placeFor(db(), actor, placeId, 'add');
  return fieldsAt(placeId, lineage, proposal, await expectedAmong(actor, proposal, subject));
});

/** What a filing rule may fill in at a place. */
export const filingFields = asks('filing.fields', async (actor, { placeId }) => {
  requireKeeper(actor);
  const { lineage } = await placeFor(db(), actor, placeId, 'add');
  return emptyFieldsAt(placeId, lineage);
});
