import { and, eq, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { perform } from '../acts/act';
import { actsInSteps } from '../acts/operation';
import { config } from '../base/config';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, person, upload } from '../db/schema';
import { placedPapers } from '../documents/ledger';
import type { Actor } from '../gate/actor';
import { paperAllows } from '../gate/visible';
import { trySendMail, type Mail } from '../mail/outbox';
import { isOwnUpload } from './receive';

/** Papers named in a message; of more it says how many. */
const mostNamed = 20;

/**
 * Tells colleagues by mail of what came of some of the caller's uploads: one message each, about the papers that are open to
 * them. Who sees none of them gets none, and the caller is told so.
 */
export const tellOfFiled = actsInSteps('uploads.tell', async (actor, { uploadIds, personIds }) => {
  const { mails, notTold } = await perform(actor, [], async (tx) => {
    const papers = await filedBy(tx, actor, uploadIds);
    if (papers.length === 0) refuse('not-found', 'Nothing has come of these files, so nobody was told.');
    const [from] = await tx.select({ name: person.name }).from(person).where(eq(person.id, actor.personId));
    const people = await tx
      .select({ personId: person.id, name: person.name, email: person.email, keeper: person.keeper })
      .from(person)
      .where(and(idIn(person.id, personIds), eq(person.active, true)))
      .orderBy(person.name);
    const messages = await Promise.all(people.map((they) => messageTo(tx, they, from?.name ?? 'A colleague', papers)));
    const mails = messages.filter((mail) => mail !== null);
    const told = mails.map((mail) => mail.to.name);
    const notTold = people.map((each) => each.name).filter((name) => !told.includes(name));
    if (told.length === 0) return { entry: null, result: { mails, notTold } };
    const detail = { count: papers, people: told.join(', ') };
    // All of them, as in the entry of their filing: each reader is told of those that are open to them.
    const subjects = [...new Set(papers.flatMap((paper) => [paper.id, paper.homeId]))];
    return { entry: { act: 'papers.told', subjects, detail }, result: { mails, notTold } };
  });
  const sent = await Promise.all(mails.map(trySendMail));
  return { told: sent.filter(Boolean).length, notTold };
});

/** The papers that came of uploads of the caller, and that they may see. */
async function filedBy(tx: Tx, actor: Actor, uploadIds: readonly string[]) {
  return tx
    .selectDistinct({ id: document.id, title: document.title, homeId: document.homeId })
    .from(upload)
    .innerJoin(document, sql`${document.id}::text = ${upload.outcome} ->> 'documentId'`)
    .where(and(idIn(upload.id, uploadIds), isOwnUpload(actor), paperAllows(actor, 'see')));
}

/** What one colleague is told; null where none of the papers is open to them. */
async function messageTo(
  tx: Tx,
  { personId, name, email, keeper }: Pick<Actor, 'personId' | 'name' | 'email' | 'keeper'>,
  from: string,
  papers: readonly { readonly id: string }[],
): Promise<Mail | null> {
  const they: Actor = { personId, name, email, keeper };
  const these = idIn(
    document.id,
    papers.map((paper) => paper.id),
  );
  const [open] = await tx
    .select({ papers: sql<number>`count(*)::int` })
    .from(document)
    .where(and(these, paperAllows(they, 'see')));
  const count = open?.papers ?? 0;
  const shown = await placedPapers(they, these, mostNamed);
  const [first] = shown;
  if (!first) return null;
  const lines = shown.map((paper) => `- ${paper.title}, in ${paper.homeName}`);
  if (count > shown.length) lines.push(`- and ${(count - shown.length).toLocaleString('en-GB')} more`);
  const link = count === 1 ? `/place/${first.homeId}?paper=${first.id}` : `/place/${first.homeId}`;
  return {
    to: { name, address: email },
    subject: count === 1 ? `Filed: ${first.title}` : `Filed: ${counted(count, 'paper')}, among them ${first.title}`,
    text: [
      `${from} filed ${counted(count, 'paper')} that you may read:`,
      lines.join('\n'),
      `${config().EMBRIN_URL}${link}`,
    ].join('\n\n'),
  };
}
