import { and, eq, isNotNull, sql } from 'drizzle-orm';
import { sameValue } from '@/core/columns/model';
import { refuse } from '@/core/errors/refusal';
import { mayHoldPapers } from '@/core/tree/placeKind';
import { nameKey, searchKey } from '@/core/text/fold';
import { acts, asks } from '../acts/operation';
import type { Actor } from '../gate/actor';
import { papersFor, placeFor } from '../gate/held';
import { impactOf } from '../access/forecast';
import { recomputePapers } from '../scopes/scopes';
import { partOfPapers } from '../scopes/parts';
import { forecastValues } from '../columns/given';
import { changesOf, keepChanges, writeOwn, type OwnChange } from '../columns/write';
import type { Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, filing, place, version } from '../db/schema';
import { snapshot } from '../db/transaction';
import { addVersion, lastNumber } from './file';
import { now } from '../base/clock';

type Change = Partial<typeof document.$inferInsert>;

/** Changes a paper if it still has the revision the caller saw; otherwise a conflict. */
async function change(tx: Tx, actor: Actor, documentId: string, revision: number, values: Change): Promise<void> {
  const changed = await tx
    .update(document)
    .set({ ...values, revision: revision + 1, changedBy: actor.personId, changedAt: now() })
    .where(and(eq(document.id, documentId), eq(document.revision, revision)))
    .returning({ id: document.id });
  if (changed.length === 0) refuse('conflict');
}

/** Renames a paper. */
export const renamePaper = acts('paper.rename', [], async (tx, actor, input) => {
  const [paper] = await papersFor(tx, actor, [input.documentId], 'amend');
  if (!paper) refuse('not-found');
  const { title } = input;
  await change(tx, actor, paper.id, input.revision, { title, titleKey: nameKey(title), searchKey: searchKey(title) });
  return {
    entry: { act: 'paper.renamed', subjects: [paper.id, paper.homeId], detail: { from: paper.title, to: title } },
    result: { revision: input.revision + 1 },
  };
});

/** Changes the remark on a paper. */
export const setRemark = acts('paper.setRemark', [], async (tx, actor, input) => {
  const [paper] = await papersFor(tx, actor, [input.documentId], 'amend');
  if (!paper) refuse('not-found');
  await change(tx, actor, paper.id, input.revision, { remark: input.remark.trim() });
  return {
    entry: { act: 'paper.noted', subjects: [paper.id, paper.homeId], detail: { title: paper.title } },
    result: { revision: input.revision + 1 },
  };
});

/** Moves papers into a place. Needs `manage` where they are and `add` where they go. */
export const movePapers = acts('papers.move', [], async (tx, actor, input) => {
  const target = await placeFor(tx, actor, input.toId, 'add');
  if (!mayHoldPapers(target.kind)) refuse('invalid', 'Papers are filed in a series or below it.');
  const papers = await papersFor(tx, actor, input.documentIds, 'manage');
  const moving = papers.filter((paper) => paper.homeId !== target.id);
  const backTo = Object.fromEntries(moving.map((paper) => [paper.id, paper.homeId]));
  if (moving.length === 0) return { entry: null, result: { moved: 0, backTo, entryId: null } };
  const [offers] = await tx.select({ values: place.offeredValues }).from(place).where(eq(place.id, target.id));
  const taken = moving.flatMap((paper) =>
    Object.entries(offers?.values ?? {})
      .filter(([columnId]) => !(columnId in paper.ownValues))
      .map(([columnId, after]): OwnChange => ({ documentId: paper.id, columnId, before: null, after })),
  );
  await rehome(
    tx,
    actor,
    moving.map((paper) => paper.id),
    target.id,
  );
  const recordUnder = await keepChanges(tx, taken);
  const subjects = [...moving.map((paper) => paper.id), target.id, ...new Set(Object.values(backTo))];
  const detail = { count: moving, to: target };
  return {
    entry: { act: 'papers.moved', subjects, detail },
    recorded: async (entryId) => {
      await recordUnder(entryId);
      return { moved: moving.length, backTo, entryId };
    },
  };
});

/** Sets papers' home: they take the offered values that they lack, and show the fixed ones. */
export async function rehome(
  tx: Tx,
  actor: Actor,
  ids: readonly string[],
  homeId: string,
  offering = true,
): Promise<void> {
  const offers = offering ? sql`${place.offeredValues}` : sql`'{}'::jsonb`;
  // One statement: each that changes a paper goes through all its indexes.
  await tx.execute(sql`
    update ${document}
    set home_id = ${place.id}, changed_by = ${actor.personId}, changed_at = ${now()}, revision = ${document.revision} + 1,
        own_values = ${offers} || ${document.ownValues},
        shown_values = ${offers} || ${document.ownValues} || ${place.fixedValues}
    from ${place} where ${place.id} = ${homeId} and ${idIn(document.id, ids)}`);
  // A cross-filing in the new home is no longer needed.
  await tx.delete(filing).where(and(eq(filing.placeId, homeId), idIn(filing.documentId, ids)));
  const own = await tx
    .select({ id: document.id })
    .from(document)
    .where(and(idIn(document.id, ids), isNotNull(document.scopeId)));
  await recomputePapers(
    tx,
    own.map((row) => row.id),
  );
}

/** Moves each paper into its own given place, for undoing a move. */
export const putInPlaces = acts('papers.putInPlaces', [], async (tx, actor, input) => {
  const ids = Object.keys(input.homes);
  if (ids.length === 0 || ids.length > 5000) refuse('invalid', 'Between one and 5,000 papers can be moved in one act.');

  const papers = await papersFor(tx, actor, ids, 'manage');
  const names = new Set<string>();
  const targets = new Set(Object.values(input.homes));
  for (const toId of targets) {
    const target = await placeFor(tx, actor, toId, 'add');
    names.add(target.name);
    await rehome(
      tx,
      actor,
      ids.filter((id) => input.homes[id] === toId),
      toId,
      false,
    );
  }
  await giveUpTaken(tx, actor, papers, input.undoing ?? null);
  const subjects = [...ids, ...targets, ...new Set(papers.map((paper) => paper.homeId))];
  // Does not name several places: a reader may know only some of them.
  const [toId, another] = [...targets];
  const to =
    another === undefined && toId !== undefined
      ? { id: toId, name: [...names].join() }
      : { id: null, name: 'their former places' };
  const detail = { count: papers, to };
  return { entry: { act: 'papers.moved', subjects, detail }, result: { moved: papers.length } };
});

/** Removes the values that papers took from a place by a move that is being undone, if they still have them. */
async function giveUpTaken(
  tx: Tx,
  actor: Actor,
  papers: Awaited<ReturnType<typeof papersFor>>,
  entryId: number | null,
): Promise<void> {
  if (entryId === null) return;
  const taken = await changesOf(tx, entryId);
  const own = new Map(papers.map((paper) => [paper.id, paper.ownValues]));
  const back = taken.filter(
    (row) => own.has(row.documentId) && sameValue(own.get(row.documentId)?.[row.columnId], row.after),
  );
  await writeOwn(
    tx,
    actor,
    back.map((row) => ({ documentId: row.documentId, columnId: row.columnId, before: row.after, after: row.before })),
  );
}

/** Who would lose and gain access by a move of papers. */
export const forecastPaperMove = asks('papers.moveForecast', async (actor, input) => {
  return snapshot(async (tx) => {
    const target = await placeFor(tx, actor, input.toId, 'add');
    const papers = await papersFor(tx, actor, input.documentIds, 'manage');
    const moving = papers.filter((paper) => paper.homeId !== target.id);
    const ids = moving.map((paper) => paper.id);
    return {
      paperCount: moving.length,
      impact: await impactOf(tx, actor, await partOfPapers(tx, ids), {
        kind: 'paperMove',
        paperIds: new Set(ids),
        toId: target.id,
      }),
      values: await forecastValues(tx, target, moving),
    };
  });
});

/** Restores an older version by adding it as the newest; the versions between stay. */
export const restoreVersion = acts('paper.restoreVersion', [], async (tx, actor, input) => {
  const [paper] = await papersFor(tx, actor, [input.documentId], 'amend');
  if (!paper) refuse('not-found');
  if (paper.revision !== input.revision) refuse('conflict');
  const [old] = await tx
    .select()
    .from(version)
    .where(and(eq(version.documentId, paper.id), eq(version.number, input.number)));
  if (!old) refuse('not-found');
  if (old.id === paper.versionId) refuse('invalid', 'That version is the current one already.');
  const number = (await lastNumber(tx, paper.id)) + 1;
  await addVersion(tx, actor, paper.id, number, old, now(), { restoredFrom: old.number });
  const detail = { title: paper.title, from: old.number, number };
  return {
    entry: { act: 'paper.versionRestored', subjects: [paper.id, paper.homeId], detail },
    result: { number },
  };
});
