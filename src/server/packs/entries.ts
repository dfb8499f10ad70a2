import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Standing } from '@/core/outline/outline';
import { branchOf, withBranch } from '@/core/outline/move';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { deepestEntry, mostEntries } from '@/core/packs/model';
import { readPageChoice } from '@/core/packs/pageChoice';
import { acts } from '../acts/operation';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { agendaPaper, pack, packEntry, packReader, reading, readingForm, version } from '../db/schema';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { keepOrder, putBack, requireReaders } from '../outline/outline';
import { entriesOf, packToChange } from './read';

/** Sets what stands on a pack's cover, where its pages are stamped, and whether sections have sheets. */
export const setPack = acts('pack.set', [], async (tx, actor, { packId, revision, ...fields }) => {
  const { pack: found, place } = await packToChange(tx, actor, packId);
  if (found.revision !== revision) refuse('conflict');
  await tx
    .update(pack)
    .set({ ...fields, revision: revision + 1 })
    .where(eq(pack.id, packId));
  return { entry: { act: 'pack.changed', subjects: [place.id], detail: { name: fields.name } }, result: null };
});

/** Adds a section, last in another or at the top. */
export const addSection = acts('pack.addSection', [], async (tx, actor, { packId, parentId, title }) => {
  const { pack: found, place } = await packToChange(tx, actor, packId);
  const entries = await entriesOf(tx, packId);
  requireSection(entries, parentId);
  if (entries.length >= mostEntries) refuse('invalid', `A pack has ${mostEntries} entries at most.`);
  const id = crypto.randomUUID();
  const placed = orRefuse(withBranch<Standing>(entries, [{ id, parentId: null }], parentId, null, deepestEntry));
  await tx.insert(packEntry).values({ id, packId, parentId, position: mostEntries, kind: 'section', title });
  await keepOrder(tx, packEntry, placed);
  return {
    entry: { act: 'pack.changed', subjects: [place.id], detail: { name: found.name } },
    result: { entryId: id },
  };
});

function requireSection(entries: Awaited<ReturnType<typeof entriesOf>>, parentId: string | null): void {
  if (parentId !== null && entries.find(({ id }) => id === parentId)?.kind !== 'section')
    refuse('conflict', 'The section is not there any more. Nothing was changed.');
}

/** Adds papers that the caller may see. Those in the pack already are not added again; what the agenda has goes to its section. */
export const addPapers = acts('pack.addPapers', [], async (tx, actor, { packId, parentId, documentIds }) => {
  const { pack: found, place } = await packToChange(tx, actor, packId);
  const papers = await papersFor(tx, actor, documentIds, 'see');
  const entries = await entriesOf(tx, packId);
  requireSection(entries, parentId);
  const there = new Set(entries.map(({ documentId }) => documentId));
  const ids = [...new Set(documentIds)].filter((id) => !there.has(id));
  const already = papers.length - ids.length;
  if (ids.length === 0) return { entry: null, result: { added: 0, already } };
  if (entries.length + ids.length > mostEntries)
    refuse('invalid', `A pack has ${mostEntries} entries at most. Nothing was added.`);
  const sections = parentId === null ? await expectedSections(tx, entries, ids) : new Map<string, string>();
  const byId = new Map(papers.map((paper) => [paper.id, paper]));
  const made = ids.map((documentId) => ({
    id: crypto.randomUUID(),
    packId,
    parentId: parentId ?? sections.get(documentId) ?? null,
    position: mostEntries,
    kind: 'paper' as const,
    title: byId.get(documentId)?.title ?? '',
    documentId,
  }));
  let placed: Standing[] = entries;
  for (const each of made)
    placed = orRefuse(withBranch(placed, [{ id: each.id, parentId: null }], each.parentId, null, deepestEntry));
  await tx.insert(packEntry).values(made);
  await keepOrder(tx, packEntry, placed);
  return {
    entry: {
      act: 'pack.papersAdded',
      subjects: [place.id, ...ids],
      detail: { count: papers.filter(({ id }) => ids.includes(id)), name: found.name },
    },
    result: { added: ids.length, already },
  };
});

/** The sections of agenda items under which papers stand there. */
async function expectedSections(
  tx: Tx,
  entries: Awaited<ReturnType<typeof entriesOf>>,
  documentIds: readonly string[],
): Promise<Map<string, string>> {
  const sections = new Map(entries.flatMap(({ id, itemId }) => (itemId === null ? [] : [[itemId, id] as const])));
  if (sections.size === 0) return new Map();
  const rows = await tx
    .select({ itemId: agendaPaper.itemId, documentId: agendaPaper.documentId })
    .from(agendaPaper)
    .where(and(inArray(agendaPaper.itemId, [...sections.keys()]), idIn(agendaPaper.documentId, documentIds)));
  return new Map(rows.map(({ itemId, documentId }) => [documentId, sections.get(itemId) ?? '']));
}

/** An entry of a pack for a change, under the pack's lock; of a paper one that the caller may see. */
async function entryToChange(tx: Tx, actor: Actor, entryId: string) {
  const [found] = await tx.select({ packId: packEntry.packId }).from(packEntry).where(eq(packEntry.id, entryId));
  if (!found) refuse('not-found');
  const subject = await packToChange(tx, actor, found.packId);
  const [entry] = await tx.select().from(packEntry).where(eq(packEntry.id, entryId));
  if (!entry) refuse('not-found');
  return { ...subject, entry, detail: { name: subject.pack.name } };
}

/** Renames an entry for the pack, chooses its pages and its version, and says who may know of it. */
export const changeEntry = acts('pack.changeEntry', [], async (tx, actor, input) => {
  const { entryId, title, pages, heldVersion, readers } = input;
  const { entry, place, detail } = await entryToChange(tx, actor, entryId);
  if (entry.removedAt !== null) refuse('not-found');
  const { documentId } = entry;
  let versionId: string | null = null;
  if (documentId !== null) {
    await papersFor(tx, actor, [documentId], 'see');
    const known = await versionOf(tx, documentId, heldVersion);
    orRefuse(readPageChoice(pages, known.pageCount));
    versionId = heldVersion === null ? null : known.id;
  }
  await tx
    .update(packEntry)
    .set({ title, pages: documentId === null ? '' : pages, versionId, confidential: readers !== null })
    .where(eq(packEntry.id, entryId));
  await tx.delete(packReader).where(eq(packReader.entryId, entryId));
  const known = await requireReaders(tx, readers ?? []);
  if (known.length > 0) await tx.insert(packReader).values(known.map((personId) => ({ entryId, personId })));
  return { entry: { act: 'pack.changed', subjects: [place.id], detail }, result: null };
});

async function versionOf(tx: Tx, documentId: string, number: number | null) {
  const [found] = await tx
    .select({ id: version.id, pageCount: sql<number | null>`coalesce(${reading.pageCount}, ${readingForm.pages})` })
    .from(version)
    .leftJoin(reading, eq(reading.sha256, version.sha256))
    .leftJoin(readingForm, and(eq(readingForm.sha256, version.sha256), eq(readingForm.form, 'pages')))
    .where(and(eq(version.documentId, documentId), number === null ? sql`true` : eq(version.number, number)))
    .orderBy(sql`${version.number} desc`)
    .limit(1);
  return found ?? refuse('invalid', 'The paper has no such version.');
}

/** Moves an entry, with all that lie in it, before another or last. Papers hold nothing. */
export const moveEntry = acts('pack.moveEntry', [], async (tx, actor, { entryId, parentId, beforeId }) => {
  const { pack: found, place, detail } = await entryToChange(tx, actor, entryId);
  const entries = await entriesOf(tx, found.id);
  const branch = branchOf(entries, entryId);
  if (branch.length === 0) refuse('not-found');
  requireSection(entries, parentId);
  await keepOrder(tx, packEntry, orRefuse(withBranch<Standing>(entries, branch, parentId, beforeId, deepestEntry)));
  return { entry: { act: 'pack.changed', subjects: [place.id], detail }, result: null };
});

/** Takes an entry out of a pack with all that lie in it, or puts it back with what went with it. */
export const removeEntry = acts('pack.removeEntry', [], async (tx, actor, { entryId, removed }) => {
  const { pack: found, entry, place, detail } = await entryToChange(tx, actor, entryId);
  if (removed === (entry.removedAt !== null)) refuse('conflict');
  const entries = await entriesOf(tx, found.id);
  const journal = { act: 'pack.changed', subjects: [place.id], detail } as const;
  if (removed) {
    const branch = branchOf(entries, entryId);
    await setRemoved(tx, branch, now());
    return { entry: journal, result: { entries: branch.length } };
  }
  // What was taken out in one act has one moment.
  const gone = await tx
    .select()
    .from(packEntry)
    .where(
      and(
        eq(packEntry.packId, found.id),
        sql`${packEntry.removedAt} = (select removed_at from pack_entry where id = ${entryId})`,
      ),
    )
    .orderBy(packEntry.position);
  const there = new Set(entries.map(({ documentId }) => documentId));
  // One that was added again meanwhile is not there twice.
  const branch = branchOf(gone, entryId).filter(({ documentId }) => documentId === null || !there.has(documentId));
  if (branch.length === 0) refuse('conflict', 'It was put in again meanwhile.');
  if (entries.length + branch.length > mostEntries) refuse('invalid', `A pack has ${mostEntries} entries at most.`);
  const placed = putBack(entries, branch, deepestEntry);
  await setRemoved(tx, branch, null);
  await keepOrder(tx, packEntry, placed);
  return { entry: journal, result: { entries: branch.length } };
});

const setRemoved = (tx: Tx, branch: readonly { readonly id: string }[], removedAt: Date | null) =>
  tx
    .update(packEntry)
    .set({ removedAt })
    .where(
      idIn(
        packEntry.id,
        branch.map(({ id }) => id),
      ),
    );
