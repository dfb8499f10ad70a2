import { and, eq } from 'drizzle-orm';
import { invalidField } from '@/core/errors/issue';
import { Refusal, refuse } from '@/core/errors/refusal';
import { mostSaid } from '@/core/intake/model';
import { acts, actsInSteps } from '../acts/operation';
import { perform } from '../acts/act';
import { now } from '../base/clock';
import { config } from '../base/config';
import { person } from '../db/schema';
import { trySendMail } from '../mail/outbox';
import { today } from '../scopes/memberships';
import { arrivalFor } from './access';
import { requireWaiting, settle } from './settle';

/** Has an arrival wait again later, on a day, or now. */
export const putArrivalOff = acts('arrival.putOff', [], async (tx, actor, { arrivalId, revision, until }) => {
  const found = await arrivalFor(tx, actor, arrivalId);
  requireWaiting(found, revision);
  if (until === found.putOffUntil)
    refuse('conflict', until === null ? 'It waits already.' : 'It is put off until then already.');
  if (until !== null && until <= (await today(tx)))
    throw new Refusal(invalidField('until', 'Choose a day that is still to come.'));
  await settle(tx, found, { putOffUntil: until, isPersons: true, fileBy: null });
  return {
    entry:
      until === null
        ? { act: 'arrival.wanted', subjects: [], detail: { from: found.senderAddress } }
        : { act: 'arrival.putOff', subjects: [], detail: { from: found.senderAddress, until } },
    result: null,
  };
});

/** Asks somebody about an arrival, or answers: they see it among what waits for them, and are told by mail. */
export const askAboutArrival = actsInSteps('arrival.ask', async (actor, { arrivalId, revision, personId, says }) => {
  const { name, email, from } = await perform(actor, async (tx) => {
    const found = await arrivalFor(tx, actor, arrivalId);
    requireWaiting(found, revision);
    if (found.said.length >= mostSaid) refuse('invalid', `At most ${mostSaid} things are said about one arrival.`);
    if (personId === actor.personId) throw new Refusal(invalidField('personId', 'That is you: ask somebody else.'));
    const [whom] = await tx
      .select({ name: person.name, email: person.email })
      .from(person)
      .where(and(eq(person.id, personId), eq(person.active, true)));
    if (!whom) throw new Refusal(invalidField('personId', 'That person is not known here.'));
    const said = [...found.said, { by: actor.personId, to: personId, at: now().toISOString(), says }];
    await settle(tx, found, { said, askedOf: personId, putOffUntil: null, isPersons: true, fileBy: null });
    const detail = { person: whom.name, from: found.senderAddress };
    return {
      entry: { act: 'arrival.asked', subjects: [], detail },
      result: { ...whom, from: found.senderName === '' ? found.senderAddress : found.senderName },
    };
  });
  const sent = await trySendMail({
    to: { name, address: email },
    subject: `${actor.name} asks you about something that arrived`,
    text: [
      `${actor.name} says of what came from ${from === '' ? 'somebody who is not named' : from}:`,
      says,
      `It is here: ${config().EMBRIN_URL}/intake?arrival=${arrivalId}`,
    ].join('\n\n'),
  });
  return { sent };
});
