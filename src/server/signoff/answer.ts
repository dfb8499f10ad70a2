import { eq } from 'drizzle-orm';
import { invalidField } from '@/core/errors/issue';
import { refuse, Refusal } from '@/core/errors/refusal';
import type { OutsideAnswer } from '@/core/signoff/contract';
import { actsInSteps } from '../acts/operation';
import { appendToJournal } from '../acts/append';
import { perform } from '../acts/act';
import { requirePasswordAgain } from '../auth/again';
import type { Caller } from '../auth/door';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { signer } from '../db/schema';
import { transaction } from '../db/transaction';
import { papersFor } from '../gate/held';
import { paperOutside } from '../outside/papers';
import type { Visitor } from '../outside/visit';
import { goOn, sendAll } from './ask';
import { signersOf, signOffFor, standingFrom } from './turns';

/** The sign-off that somebody is to answer, and whether it is their turn. Its row is locked. @param personId null: outside */
async function answerable(tx: Tx, signerId: string, personId: string | null) {
  const [one] = await tx.select({ signOffId: signer.signOffId }).from(signer).where(eq(signer.id, signerId));
  const found = one ? await signOffFor(tx, one.signOffId) : null;
  if (!found) refuse('not-found');
  const signers = await signersOf(tx, found.id);
  const at = signers.findIndex(({ id }) => id === signerId);
  const who = signers[at];
  if (who?.personId !== personId) refuse('not-found');
  if (found.state === 'withdrawn') refuse('gone', 'This was withdrawn meanwhile. Nobody needs to sign it any more.');
  if (who.answer !== null) refuse('conflict', 'This was answered already.');
  if (found.state !== 'open') refuse('conflict', 'This has come to an end already: enough have answered.');
  const isTurn = standingFrom(found, signers).turns.includes(at);
  return { found, who, isTurn };
}

const notYet = (): never => refuse('conflict', 'It is not your turn yet: those before you have not answered.');

const reasonNeeded = () => new Refusal(invalidField('reason', 'Say why: whoever asked is told.'));

/** Agrees or declines, with one's password entered again. */
export const answerSignOff = actsInSteps('signoff.answer', async (actor, input) => {
  if (input.answer === 'declined' && input.reason === '') throw reasonNeeded();
  await requirePasswordAgain(actor, input.password);
  const mails = await perform(actor, async (tx) => {
    const { found, who, isTurn } = await answerable(tx, input.signerId, actor.personId);
    await papersFor(tx, actor, [found.documentId], 'see');
    if (!isTurn) notYet();
    await tx
      .update(signer)
      .set({
        answer: input.answer,
        reason: input.answer === 'declined' ? input.reason : '',
        answeredAt: now(),
        proof: 'password',
        // As it was when they signed.
        name: actor.name,
      })
      .where(eq(signer.id, who.id));
    const { title, number, documentId } = found;
    const subjects = [documentId];
    return {
      entry:
        input.answer === 'agreed'
          ? { act: 'signoff.agreed', subjects, detail: { title, number } }
          : { act: 'signoff.declined', subjects, detail: { title, number, reason: input.reason } },
      result: await goOn(tx, found),
    };
  });
  await sendAll(mails);
  return null;
});

/** The answer of somebody outside, who came by the link that was made for them and proved their address by a code. */
export async function answerFromOutside(visitor: Visitor, answer: OutsideAnswer, caller: Caller): Promise<null> {
  const { signs } = visitor;
  if (signs === null) refuse('not-found');
  if (answer.answer === 'agreed' && answer.typedName === '' && answer.drawn.length === 0)
    throw new Refusal(invalidField('typedName', 'Type your name, or draw it.'));
  // They may still be shown the paper: it is not disposed of, and whoever asked manages it.
  if (visitor.shows.kind !== 'paper') refuse('not-found');
  await paperOutside(visitor, visitor.shows.documentId);
  const mails = await transaction([], async (tx) => {
    const { found, who, isTurn } = await answerable(tx, signs.signerId, null);
    if (!isTurn) notYet();
    const agreed = answer.answer === 'agreed';
    await tx
      .update(signer)
      .set({
        answer: answer.answer,
        reason: agreed ? '' : answer.reason,
        answeredAt: now(),
        proof: 'code',
        address: caller.address,
        agent: caller.agent,
        typedName: agreed ? answer.typedName : '',
        drawn: agreed && answer.drawn.length > 0 ? answer.drawn : null,
      })
      .where(eq(signer.id, who.id));
    const mailsToSend = await goOn(tx, found);
    const { title, number, documentId } = found;
    const { name } = who;
    const subjects = [documentId];
    // The library notes it: nobody with an account has acted.
    await appendToJournal(
      tx,
      null,
      agreed
        ? { act: 'signoff.agreedOutside', subjects, detail: { title, number, name } }
        : { act: 'signoff.declinedOutside', subjects, detail: { title, number, name, reason: answer.reason } },
    );
    return mailsToSend;
  });
  await sendAll(mails);
  return null;
}
