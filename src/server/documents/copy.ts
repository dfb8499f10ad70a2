import { and, eq, sql } from 'drizzle-orm';
import { refuse } from '@/core/errors/refusal';
import { nameKey } from '@/core/text/fold';
import { acts, asks } from '../acts/operation';
import { now } from '../base/clock';
import type { Reader, Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, note, paperOrigin, place, version } from '../db/schema';
import { snapshot } from '../db/transaction';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { paperAllows } from '../gate/visible';
import { receivingPlaces, requirePairs, severalPlaces } from './crossFile';
import { filePapers, fileVersion, lastNumber, takenTitles, type Filed, type Filing } from './file';

/** So many are filed in one statement: each has some fifteen values, and a statement has 65,535 at most. */
const atATime = 1000;

interface Original {
  readonly id: string;
  readonly title: string;
}
interface Pair {
  readonly original: Original;
  readonly placeId: string;
}

/**
 * Copies papers into places: each a paper of its own with the current version and the values of the original, which knows where
 * it came from. Needs `take` of each, and `add` in each place. Content is not stored again.
 */
export const copyPapers = acts('papers.copy', [], async (tx, actor, { documentIds, toIds, onSameName }) => {
  const { papers, targets, pairs } = await pairsFor(tx, actor, documentIds, toIds);
  const isTaken = onSameName === 'leaveOut' ? await takenAmong(tx, actor, pairs) : () => false;
  const wanted = pairs.filter((pair) => !isTaken(pair));
  if (wanted.length === 0) return { entry: null, result: { copies: [] } };
  const contents = await currentContents(
    tx,
    papers.map(({ id }) => id),
  );
  const filings = wanted.map(({ original, placeId }): Filing => {
    const content = contents.get(original.id);
    if (!content) throw new Error(`The paper ${original.id} has no version`);
    return { placeId, title: original.title, remark: '', content: { ...content, arrived: null } };
  });
  const filed: Filed[] = [];
  for (let at = 0; at < filings.length; at += atATime)
    filed.push(...(await filePapers(tx, actor, filings.slice(at, at + atATime))));
  const copies = filed.map(({ documentId }) => documentId);
  await takeOver(
    tx,
    copies,
    wanted.map(({ original }) => original.id),
  );
  // Of the copies alone: a reader of a place is told how many there are in it, and nothing of originals.
  const subjects = [...copies, ...targets.map(({ id }) => id)];
  return {
    entry: { act: 'papers.copied', subjects, detail: { count: filed, to: severalPlaces(targets) } },
    result: { copies },
  };
});

/** How many copies that would be, and how many of them have a name that is there already. */
export const forecastCopy = asks('papers.copyForecast', (actor, { documentIds, toIds }) =>
  snapshot(async (tx) => {
    const { pairs } = await pairsFor(tx, actor, documentIds, toIds);
    const isTaken = await takenAmong(tx, actor, pairs);
    return { copies: pairs.length, sameName: pairs.filter(isTaken).length };
  }),
);

async function pairsFor(tx: Tx, actor: Actor, documentIds: readonly string[], toIds: readonly string[]) {
  requirePairs(documentIds, toIds);
  const targets = await receivingPlaces(tx, actor, toIds);
  const papers = await papersFor(tx, actor, documentIds, 'take');
  const pairs = targets.flatMap(({ id }) => papers.map((original): Pair => ({ original, placeId: id })));
  return { papers, targets, pairs };
}

/** Whether a copy would have a name that is there already, or that another of the copies has. */
async function takenAmong(reader: Reader, actor: Actor, pairs: readonly Pair[]): Promise<(pair: Pair) => boolean> {
  const taken = await takenTitles(
    reader,
    actor,
    pairs.map(({ original, placeId }) => ({ title: original.title, placeId })),
  );
  const first = new Map<string, Pair>();
  for (const pair of pairs) {
    const key = `${pair.placeId} ${nameKey(pair.original.title)}`;
    if (!first.has(key)) first.set(key, pair);
  }
  return (pair) =>
    taken(pair.placeId, pair.original.title) || first.get(`${pair.placeId} ${nameKey(pair.original.title)}`) !== pair;
}

async function currentContents(tx: Tx, ids: readonly string[]) {
  const rows = await tx
    .select({
      id: document.id,
      sha256: version.sha256,
      fileName: version.fileName,
      mediaType: version.mediaType,
      stamp: version.stamp,
      sizeBytes: version.sizeBytes,
    })
    .from(document)
    .innerJoin(version, eq(version.id, document.versionId))
    .where(idIn(document.id, ids));
  return new Map(rows.map(({ id, ...content }) => [id, content]));
}

const pairsOf = (copies: readonly string[], originals: readonly string[]) =>
  sql`unnest(${sql.param(copies)}::uuid[], ${sql.param(originals)}::uuid[]) as pair (copy_id, original_id)`;

/** Papers take the values of others, one of one, under what their places fix. */
export async function takeValues(tx: Tx, copies: readonly string[], originals: readonly string[]): Promise<void> {
  await tx.execute(sql`
    update ${document}
    set own_values = ${document.ownValues} || original.own_values,
        shown_values = ${document.ownValues} || original.own_values || ${place.fixedValues}
    from ${pairsOf(copies, originals)} join ${document} as original on original.id = pair.original_id, ${place}
    where ${document.id} = pair.copy_id and ${place.id} = ${document.homeId}`);
}

/** Copies take the originals' values, stay notes, and know where they came from. */
async function takeOver(tx: Tx, copies: readonly string[], originals: readonly string[]): Promise<void> {
  await takeValues(tx, copies, originals);
  const pairs = pairsOf(copies, originals);
  await tx.execute(sql`
    insert into ${paperOrigin} (document_id, original_id, version_id, at)
    select pair.copy_id, original.id, original.version_id, ${now()}
    from ${pairs} join ${document} as original on original.id = pair.original_id`);
  // Taken from another version than the current one, a note's text is begun anew from the current one.
  await tx.execute(sql`
    insert into ${note} (document_id, version_id, round, kept_number)
    select pair.copy_id, original.version_id, 0, 0
    from ${pairs} join ${document} as original on original.id = pair.original_id
    join ${note} as written on written.document_id = original.id`);
}

/** Takes the current version of the paper that this one is a copy of. Needs `amend` of the copy and `take` of the original. */
export const takeNewer = acts('paper.takeNewer', [], async (tx, actor, { documentId, revision }) => {
  const [copy] = await papersFor(tx, actor, [documentId], 'amend');
  if (!copy) refuse('not-found');
  if (copy.revision !== revision) refuse('conflict');
  const [origin] = await tx.select().from(paperOrigin).where(eq(paperOrigin.documentId, documentId));
  if (!origin?.originalId) refuse('not-found');
  const [original] = await papersFor(tx, actor, [origin.originalId], 'take');
  if (!original) refuse('not-found');
  if (original.versionId === origin.versionId) refuse('invalid', 'This copy has the newest version already.');
  const content = (await currentContents(tx, [original.id])).get(original.id);
  if (!content) throw new Error(`The paper ${original.id} has no version`);
  const before = await lastNumber(tx, documentId);
  const { result } = await fileVersion(tx, actor, documentId, { ...content, arrived: null });
  await tx
    .update(paperOrigin)
    .set({ versionId: original.versionId, at: now() })
    .where(eq(paperOrigin.documentId, documentId));
  const number = result.versionNumber;
  return {
    entry: {
      act: 'paper.newerTaken',
      subjects: [copy.id, copy.homeId],
      detail: { title: copy.title, number, sha256: content.sha256 },
    },
    result: { number, before },
  };
});

/** Where a copy came from, as the caller may know; null for a paper that is no copy. */
export async function originOf(reader: Reader, actor: Actor, documentId: string) {
  const [origin] = await reader.select().from(paperOrigin).where(eq(paperOrigin.documentId, documentId));
  if (!origin) return null;
  const [original] = await reader
    .select({
      id: document.id,
      title: document.title,
      versionId: document.versionId,
      mayTake: sql<boolean>`${paperAllows(actor, 'take')}`,
    })
    .from(document)
    .where(and(sql`${document.id} = ${origin.originalId}::uuid`, paperAllows(actor, 'see')));
  return {
    original: original ? { id: original.id, title: original.title } : null,
    hasNewer: original !== undefined && original.mayTake && original.versionId !== origin.versionId,
    at: origin.at.toISOString(),
  };
}
