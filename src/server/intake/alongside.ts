import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import type { NamedSuggestion } from '@/core/intake/contract';
import type { Proposal, Suggested } from '@/core/intake/model';
import { usual } from '@/core/intake/usual';
import { counted } from '@/core/text/measure';
import { db, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { arrival, document, documentLabel, label, person, place } from '../db/schema';
import type { Actor } from '../gate/actor';
import { labelIsKnown } from '../gate/visible';

/** So many of the arrivals that were filed last are looked at. */
const mostLooked = 20;

/** Nothing is usual. */
export const nothingUsual = { labels: [], tell: [] };

/** Those of some papers that are open just as their dossier is: of others nothing is told, since who sees the dossier would learn of it. */
export async function openAsDossier(ids: readonly string[], dossierId: string): Promise<ReadonlySet<string>> {
  if (ids.length === 0) return new Set();
  const [dossier] = await db().select({ scopeId: place.scopeId }).from(place).where(eq(place.id, dossierId));
  if (!dossier?.scopeId) return new Set();
  const rows = await db()
    .select({ id: document.id })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        idIn(document.id, ids),
        isNull(document.scopeId),
        isNull(document.disposedAt),
        eq(place.scopeId, dossier.scopeId),
        sql`${place.lineage} @> array[${dossierId}::uuid]`,
      ),
    );
  return new Set(rows.map(({ id }) => id));
}

/** Labels that what came from a sender usually got in a dossier, and who was usually told. */
export async function usualFor(
  sender: string,
  dossierId: string,
): Promise<{ readonly labels: readonly Suggested[]; readonly tell: readonly Suggested[] }> {
  if (sender === '') return nothingUsual;
  const last = await db()
    .select({ documentIds: arrival.documentIds, told: arrival.told })
    .from(arrival)
    .where(and(eq(arrival.senderAddress, sender), eq(arrival.dossierId, dossierId), eq(arrival.state, 'filed')))
    .orderBy(desc(arrival.doneAt))
    .limit(mostLooked);
  const open = await openAsDossier(
    last.flatMap(({ documentIds }) => documentIds),
    dossierId,
  );
  const filed = last.filter(({ documentIds }) => documentIds.length > 0 && documentIds.every((id) => open.has(id)));
  const ids = filed.flatMap(({ documentIds }) => documentIds);
  const borne =
    ids.length === 0
      ? []
      : await db()
          .select({ documentId: documentLabel.documentId, labelId: documentLabel.labelId })
          .from(documentLabel)
          .innerJoin(label, eq(label.id, documentLabel.labelId))
          // What is somebody’s own is told to nobody else.
          .where(and(idIn(documentLabel.documentId, ids), isNull(label.ownerId)));
  const labelled = filed.map(({ documentIds }) =>
    borne.flatMap(({ documentId, labelId }) => (documentIds.includes(documentId) ? [labelId] : [])),
  );
  const said = (times: number, what: string) =>
    `${what} ${times} of the last ${counted(filed.length, 'arrival', 'arrivals')} from ${sender}.`;
  return {
    labels: usual(labelled).map(({ id, times }) => ({ id, why: said(times, 'On the papers of') })),
    tell: usual(filed.map(({ told }) => told)).map(({ id, times }) => ({ id, why: said(times, 'Told of') })),
  };
}

/** Suggestions without those that came before. */
export const withoutTwice = (all: readonly Suggested[]): Suggested[] =>
  all.filter(({ id }, at) => all.findIndex((each) => each.id === id) === at);

/** The labels and people that are proposed, by name; those that are gone are left out. */
export async function alongsideOf(
  actor: Actor,
  { labels = [], tell = [] }: Proposal,
): Promise<{ readonly labels: readonly NamedSuggestion[]; readonly tell: readonly NamedSuggestion[] }> {
  const [labelIds, people] = [labels.map(({ id }) => id), tell.map(({ id }) => id)];
  const known =
    labelIds.length === 0
      ? []
      : await db()
          .select({ id: label.id, name: label.name })
          .from(label)
          .where(and(idIn(label.id, labelIds), labelIsKnown(actor)));
  const there =
    people.length === 0
      ? []
      : await db()
          .select({ id: person.id, name: person.name })
          .from(person)
          .where(and(idIn(person.id, people), eq(person.active, true)));
  const named = (all: readonly Suggested[], names: readonly { readonly id: string; readonly name: string }[]) =>
    all.flatMap(({ id, why }) => {
      const found = names.find((each) => each.id === id);
      return found ? [{ ...found, why }] : [];
    });
  return {
    labels: named(labels, known),
    // Nobody has to be told what they do themselves.
    tell: named(tell, there).filter(({ id }) => id !== actor.personId),
  };
}

/** Gives papers that were filed a moment ago labels. */
export async function labelFiled(
  tx: Tx,
  actor: Actor,
  documentIds: readonly string[],
  labelIds: readonly string[],
): Promise<void> {
  const ids = [...new Set(labelIds)];
  if (ids.length === 0 || documentIds.length === 0) return;
  const known = await tx
    .select({ id: label.id })
    .from(label)
    .where(and(idIn(label.id, ids), labelIsKnown(actor)));
  if (known.length < ids.length) refuse('gone', 'One of the labels is gone. Nothing was filed.');
  await tx
    .insert(documentLabel)
    .values(documentIds.flatMap((documentId) => ids.map((labelId) => ({ documentId, labelId }))))
    .onConflictDoNothing();
}
