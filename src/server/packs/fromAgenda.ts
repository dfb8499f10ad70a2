import { eq } from 'drizzle-orm';
import type { Standing } from '@/core/outline/outline';
import { numbersOf } from '@/core/agenda/numbering';
import { withBranch } from '@/core/outline/move';
import { orRefuse, refuse } from '@/core/errors/refusal';
import { deepestEntry, mostEntries } from '@/core/packs/model';
import { writeDay } from '@/core/calendar/typedDay';
import { acts } from '../acts/operation';
import { agendaSubject, itemsOf, papersOfItems, readersOfItems } from '../agenda/read';
import { now } from '../base/clock';
import type { Tx } from '../db/client';
import { agenda, pack, packEntry, packReader } from '../db/schema';
import type { Actor } from '../gate/actor';
import { placeFor } from '../gate/held';
import { keepOrder } from '../outline/outline';
import { entriesOf, packToChange } from './read';

/** Begins a pack: of a meeting with a section for each item of its agenda and the papers in it; of a place from nothing. */
export const beginPack = acts('pack.begin', [], async (tx, actor, { of }) => {
  const subject =
    'meetingId' in of
      ? await agendaSubject(tx, actor, of, 'amend')
      : { meeting: null, dossier: await placeFor(tx, actor, of.placeId, 'amend') };
  const { meeting: held, dossier } = subject;
  const name = 'name' in of ? of.name : `${dossier.name}, ${writeDay(held?.day ?? '')}`;
  const [made] = await tx
    .insert(pack)
    .values({
      placeId: dossier.id,
      meetingId: held?.id ?? null,
      name,
      preparedBy: actor.name,
      day: held?.day ?? null,
      madeBy: actor.personId,
      madeAt: now(),
    })
    .returning({ id: pack.id });
  if (!made) throw new Error('The pack was not made');
  if (held !== null) await takeFromAgenda(tx, actor, made.id, held.id);
  return {
    entry: { act: 'pack.begun', subjects: [dossier.id], detail: { name } },
    result: { packId: made.id },
  };
});

/** Adds to a pack what the agenda of its meeting has and the pack has not. What was taken out of it by hand stays out. */
export const takeAgenda = acts('pack.takeAgenda', [], async (tx, actor, { packId }) => {
  const { pack: found, place } = await packToChange(tx, actor, packId);
  if (found.meetingId === null) refuse('invalid', 'This pack is of no meeting.');
  const taken = await takeFromAgenda(tx, actor, packId, found.meetingId);
  if (taken.sections + taken.papers === 0) return { entry: null, result: taken };
  return { entry: { act: 'pack.changed', subjects: [place.id], detail: { name: found.name } }, result: taken };
});

type New = typeof packEntry.$inferInsert;

async function takeFromAgenda(
  tx: Tx,
  actor: Actor,
  packId: string,
  meetingId: string,
): Promise<{ sections: number; papers: number }> {
  const [found] = await tx.select().from(agenda).where(eq(agenda.meetingId, meetingId));
  if (!found) refuse('invalid', 'This meeting has no agenda yet. Begin it first.');
  const items = await itemsOf(tx, found.id);
  const numbers = numbersOf(items, found.numbering);
  const ids = items.map(({ id }) => id);
  const papers = await papersOfItems(tx, actor, ids);
  const readers = await readersOfItems(tx, ids);
  const before = await tx.select().from(packEntry).where(eq(packEntry.packId, packId));
  const sectionOf = new Map(
    before.flatMap(({ id, itemId, kind }) => (itemId && kind === 'section' ? [[itemId, id]] : [])),
  );
  const there = new Set(before.flatMap(({ documentId }) => documentId ?? []));
  let entries: Standing[] = await entriesOf(tx, packId);
  const made: New[] = [];
  const put = (entry: Omit<New, 'packId' | 'position'>) => {
    made.push({ ...entry, packId, position: mostEntries });
    entries = orRefuse(
      withBranch(entries, [{ id: entry.id, parentId: null }], entry.parentId ?? null, null, deepestEntry),
    );
  };
  const isIn = (sectionId: string | null): boolean => sectionId === null || entries.some(({ id }) => id === sectionId);
  for (const [at, item] of items.entries()) {
    const above = item.parentId === null ? null : (sectionOf.get(item.parentId) ?? null);
    let sectionId = sectionOf.get(item.id);
    // What lies in a section that was taken out by hand stays out with it: elsewhere others would be told of it.
    if (!isIn(sectionId ?? above)) continue;
    if (sectionId === undefined) {
      sectionId = crypto.randomUUID();
      sectionOf.set(item.id, sectionId);
      put({
        id: sectionId,
        parentId: above,
        kind: 'section',
        title: `${numbers[at] ?? ''} ${item.title}`,
        itemId: item.id,
        confidential: item.confidential,
      });
    }
    for (const { documentId, title, heldVersionId, disposedAt } of papers.get(item.id) ?? []) {
      if (there.has(documentId) || disposedAt !== null) continue;
      there.add(documentId);
      put({ id: crypto.randomUUID(), parentId: sectionId, kind: 'paper', title, documentId, versionId: heldVersionId });
    }
  }
  if (made.length === 0) return { sections: 0, papers: 0 };
  if (entries.length > mostEntries) refuse('invalid', `A pack has ${mostEntries} entries at most. Nothing was added.`);
  await tx.insert(packEntry).values(made);
  await keepOrder(tx, packEntry, entries);
  const told = made.flatMap(({ id, itemId }) =>
    itemId ? (readers.get(itemId) ?? []).map(({ personId }) => ({ entryId: id, personId })) : [],
  );
  if (told.length > 0) await tx.insert(packReader).values(told);
  return {
    sections: made.filter(({ kind }) => kind === 'section').length,
    papers: made.filter(({ kind }) => kind === 'paper').length,
  };
}
