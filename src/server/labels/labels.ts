import { and, asc, eq, sql, type SQL } from 'drizzle-orm';
import type { Label } from '@/core/labels/model';
import { refuse } from '@/core/errors/refusal';
import { nameKey } from '@/core/text/fold';
import { acts, asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { labelIsKnown, paperAllows, paperMayBeAmended } from '../gate/visible';
import { db, type Reader, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, documentLabel, label } from '../db/schema';
import { placedPapers } from '../documents/ledger';

async function labels(reader: Reader, actor: Actor, which: SQL): Promise<Label[]> {
  const rows = await reader
    .select({
      id: label.id,
      name: label.name,
      hue: label.hue,
      ownerId: label.ownerId,
      revision: label.revision,
      papers: sql<number>`(select count(*)::int from ${documentLabel} join ${document} on ${document.id} = ${documentLabel.documentId}
        where ${documentLabel.labelId} = "label"."id" and ${paperAllows(actor, 'see')})`,
    })
    .from(label)
    .where(and(labelIsKnown(actor), which))
    .orderBy(asc(label.name), asc(label.id));
  return rows.map(({ ownerId, ...row }) => ({ ...row, shared: ownerId === null }));
}

/** All labels that the caller sees. */
export const allLabels = asks('labels.all', (actor) => labels(db(), actor, sql`true`));

/** How many of some papers have each label. */
export const labelsOn = asks('labels.on', async (actor, { documentIds }) => {
  const seen = await db()
    .select({ id: document.id, amends: sql<boolean>`${paperMayBeAmended(actor)}` })
    .from(document)
    .where(and(idIn(document.id, documentIds), paperAllows(actor, 'see')));
  const rows =
    seen.length === 0
      ? []
      : await db()
          .select({ labelId: documentLabel.labelId, papers: sql<number>`count(*)::int` })
          .from(documentLabel)
          .innerJoin(label, eq(label.id, documentLabel.labelId))
          .where(
            and(
              idIn(
                documentLabel.documentId,
                seen.map((row) => row.id),
              ),
              labelIsKnown(actor),
            ),
          )
          .groupBy(documentLabel.labelId);
  return {
    papers: seen.length,
    bearing: Object.fromEntries(rows.map((row) => [row.labelId, row.papers])),
    mayAmend: seen.length > 0 && seen.every((row) => row.amends),
  };
});

/** All papers with a label that the caller may see, in all places. */
export const labelledPapers = asks('label.papers', async (actor, { labelId }) => {
  const [found] = await labels(db(), actor, eq(label.id, labelId));
  if (!found) refuse('not-found');
  const papers = await placedPapers(
    actor,
    sql`exists (select from ${documentLabel} where ${documentLabel.documentId} = "document"."id" and ${documentLabel.labelId} = ${labelId})`,
    2000,
  );
  return { label: found, papers };
});

/** Makes a label, shared or one's own. */
export const createLabel = acts('label.create', [], async (tx, actor, input) => {
  if (input.shared && !actor.keeper)
    refuse('not-allowed', 'Shared labels are made by keepers. Make it a private one, or ask a keeper.');
  const [made] = await tx
    .insert(label)
    .values({
      name: input.name,
      nameKey: nameKey(input.name),
      hue: input.hue,
      ownerId: input.shared ? null : actor.personId,
    })
    .returning({ id: label.id });
  if (!made) throw new Error('The label was not made');
  return { entry: { act: 'label.created', subjects: [made.id], detail: { name: nameFor(input) } }, result: made };
});

/** The label's name for the journal, which does not get the names of private labels. */
const nameFor = (each: { name: string; shared?: boolean; ownerId?: string | null }): string =>
  (each.shared ?? each.ownerId === null) ? each.name : 'private';

/** A label that the caller may change: their own or, for keepers, the library's. */
async function ownLabel(tx: Tx, actor: Actor, labelId: string) {
  const [found] = await tx
    .select()
    .from(label)
    .where(and(eq(label.id, labelId), labelIsKnown(actor)))
    .for('update');
  if (!found) refuse('not-found');
  if (found.ownerId === null && !actor.keeper) refuse('not-allowed', 'Shared labels are kept by the keepers.');
  return found;
}

/** Changes a label's name, colour or place. */
export const changeLabel = acts('label.change', [], async (tx, actor, input) => {
  const found = await ownLabel(tx, actor, input.labelId);
  if (found.revision !== input.revision) refuse('conflict');
  await tx
    .update(label)
    .set({ name: input.name, nameKey: nameKey(input.name), hue: input.hue, revision: input.revision + 1 })
    .where(eq(label.id, found.id));
  const detail = { from: nameFor(found), name: nameFor({ ...found, name: input.name }) };
  return { entry: { act: 'label.changed', subjects: [found.id], detail }, result: null };
});

const bearersOf = async (tx: Tx, labelId: string): Promise<number> => {
  const [row] = await tx
    .select({ papers: sql<number>`count(*)::int` })
    .from(documentLabel)
    .where(eq(documentLabel.labelId, labelId));
  return row?.papers ?? 0;
};

/** Removes a label. Papers that had it are not otherwise changed. */
export const removeLabel = acts('label.remove', [], async (tx, actor, input) => {
  const found = await ownLabel(tx, actor, input.labelId);
  const papers = await bearersOf(tx, found.id);
  await tx.delete(label).where(eq(label.id, found.id));
  return {
    entry: { act: 'label.removed', subjects: [found.id], detail: { name: nameFor(found), papers } },
    result: { papers },
  };
});

/** Merges a label into another: its papers bear the other. */
export const mergeLabel = acts('label.merge', [], async (tx, actor, input) => {
  if (input.labelId === input.intoId)
    refuse('into-itself', 'A label cannot be merged into itself. Nothing was changed.');
  const found = await ownLabel(tx, actor, input.labelId);
  const into = await ownLabel(tx, actor, input.intoId);
  if (found.ownerId !== into.ownerId)
    refuse('invalid', 'A private label cannot be merged with a shared one. Nothing was changed.');
  const papers = await bearersOf(tx, found.id);
  await tx.execute(sql`
      insert into ${documentLabel} (document_id, label_id)
      select document_id, ${into.id} from ${documentLabel} where label_id = ${found.id}
      on conflict do nothing`);
  await tx.delete(label).where(eq(label.id, found.id));
  const detail = { name: nameFor(found), into: nameFor(into), papers };
  return { entry: { act: 'label.merged', subjects: [found.id, into.id], detail }, result: { papers } };
});

/** Puts a label on papers or takes it off. A shared label needs `amend`, a private one `see`. */
export const putLabel = acts('label.put', [], async (tx, actor, input) => {
  const [found] = await tx
    .select()
    .from(label)
    .where(and(eq(label.id, input.labelId), labelIsKnown(actor)))
    .for('share');
  if (!found) refuse('not-found');
  const papers = await papersFor(tx, actor, input.documentIds, found.ownerId === null ? 'amend' : 'see');
  const ids = papers.map((paper) => paper.id);
  const rows = input.on
    ? await tx
        .insert(documentLabel)
        .values(ids.map((documentId) => ({ documentId, labelId: found.id })))
        .onConflictDoNothing()
        .returning({ id: documentLabel.documentId })
    : await tx
        .delete(documentLabel)
        .where(and(eq(documentLabel.labelId, found.id), idIn(documentLabel.documentId, ids)))
        .returning({ id: documentLabel.documentId });
  const changed = rows.map((row) => row.id);
  if (changed.length === 0) return { entry: null, result: { changed } };
  const touched = papers.filter((paper) => changed.includes(paper.id));
  const act = input.on ? ('label.put' as const) : ('label.takenOff' as const);
  // For a private label the entry is filed under the label only, not under the papers, where others could read it.
  const subjects =
    found.ownerId === null ? [found.id, ...changed, ...new Set(touched.map((paper) => paper.homeId))] : [found.id];
  return { entry: { act, subjects, detail: { name: nameFor(found), count: touched } }, result: { changed } };
});
