import { and, eq, sql } from 'drizzle-orm';
import { counted } from '@/core/text/measure';
import { config } from '../base/config';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, person } from '../db/schema';
import type { Actor } from '../gate/actor';
import { paperAllows } from '../gate/visible';
import type { Mail } from '../mail/outbox';
import { placedPapers } from './ledger';

/** Papers named in a message; of more it says how many. */
const mostNamed = 20;

/**
 * What colleagues are told by mail of papers that the caller has filed: one message each, about those that are open to them. It is sent
 * once all is committed. `notTold`: the names of those to whom none of it is open.
 */
export async function messagesAbout(
  tx: Tx,
  actor: Actor,
  papers: readonly { readonly id: string }[],
  personIds: readonly string[],
) {
  if (personIds.length === 0) return { mails: [], told: [], notTold: [] };
  const [from] = await tx.select({ name: person.name }).from(person).where(eq(person.id, actor.personId));
  const people = await tx
    .select({ personId: person.id, name: person.name, email: person.email, keeper: person.keeper })
    .from(person)
    .where(and(idIn(person.id, personIds), eq(person.active, true)))
    .orderBy(person.name);
  const mails: Mail[] = [];
  const [told, notTold]: [{ id: string; name: string }[], string[]] = [[], []];
  for (const they of people) {
    const mail = await messageTo(tx, they, from?.name ?? 'A colleague', papers);
    if (mail === null) notTold.push(they.name);
    else {
      mails.push(mail);
      told.push({ id: they.personId, name: they.name });
    }
  }
  return { mails, told, notTold };
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
