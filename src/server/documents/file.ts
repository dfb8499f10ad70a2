import { and, eq, inArray, isNotNull, max, sql, type SQL } from 'drizzle-orm';
import { arrivedValues, shownValues } from '@/core/columns/given';
import type { Values } from '@/core/columns/model';
import type { Fingerprint, StoreName } from '@/core/content/model';
import type { Stamp } from '@/core/files/fileKind';
import { freeTitle } from '@/core/files/title';
import { refuse } from '@/core/errors/refusal';
import { nameKey, searchKey } from '@/core/text/fold';
import type { JournalEvent } from '@/core/journal/events';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { paperAllows } from '../gate/visible';
import type { Tx } from '../db/client';
import { blob, columnDef, document, place, preview, version } from '../db/schema';
import { storeOf } from '../blobs/content';
import { enqueue } from '../jobs/queue';
import { now } from '../base/clock';

/** Complete, checked content of an upload. */
export interface StoredContent extends Fingerprint {
  readonly contentId: string;
  readonly store: StoreName;
  readonly sizeBytes: number;
  readonly fileName: string;
  readonly mediaType: string;
  readonly stamp: Stamp;
}

/** A file to be filed. */
export interface Filing {
  readonly placeId: string;
  readonly title: string;
  readonly note: string;
  readonly content: StoredContent;
  /** The paper to which this is added as a version; null for a new paper, whose title is numbered if it is taken. */
  readonly asVersionOf: string | null;
}

interface FiledDone {
  readonly entry: JournalEvent;
  readonly result: Filed;
}

/** What filing came to. */
export interface Filed {
  readonly documentId: string;
  readonly title: string;
  readonly versionNumber: number;
}

/** Files content as a paper, or as a paper's next version. The caller has checked `add` at the place. */
export async function fileContent(tx: Tx, actor: Actor, filing: Filing): Promise<FiledDone> {
  const { content } = filing;
  const { sha256, pieceSums, contentId, store, sizeBytes } = content;
  const kept = await tx
    .insert(blob)
    .values({ sha256, pieceSums, contentId, store, sizeBytes })
    .onConflictDoNothing()
    .returning({ sha256: blob.sha256 });
  // Content is stored once, however often it is filed.
  if (kept.length > 0) await storeOf(store).keep(tx, contentId, sha256);
  else await storeOf(store).forget(tx, contentId);
  const filed = filing.asVersionOf
    ? await nextVersion(tx, actor, filing, filing.asVersionOf)
    : await newPaper(tx, actor, filing);
  await enqueue(tx, 'preview', { sha256: content.sha256 });
  return filed;
}

/** Pages and words of content that was read before. */
async function measured(tx: Tx, sha256: string): Promise<{ pageCount: number | null; wordCount: number | null }> {
  const [known] = await tx
    .select({ pageCount: preview.pageCount, wordCount: preview.wordCount })
    .from(preview)
    .where(eq(preview.sha256, sha256));
  return known ?? { pageCount: null, wordCount: null };
}

async function newPaper(tx: Tx, actor: Actor, { placeId, title: asked, note, content }: Filing): Promise<FiledDone> {
  const title = freeTitle(asked, await keysLike(tx, actor, placeId, nameKey(asked)), nameKey);
  const at = now();
  const own = await arrivingValues(tx, placeId);
  const [made] = await tx
    .insert(document)
    .values({
      homeId: placeId,
      title,
      titleKey: nameKey(title),
      searchKey: searchKey(title),
      note,
      ownValues: own.own,
      shownValues: own.shown,
      stamp: content.stamp,
      sizeBytes: content.sizeBytes,
      ...(await measured(tx, content.sha256)),
      filedBy: actor.personId,
      filedAt: at,
      changedBy: actor.personId,
      changedAt: at,
    })
    .returning({ id: document.id });
  if (!made) throw new Error('The paper was not made');
  await addVersion(tx, actor, made.id, 1, content, at, null);
  return {
    entry: { act: 'paper.filed', subjects: [made.id, placeId], detail: { title, sha256: content.sha256 } },
    result: { documentId: made.id, title, versionNumber: 1 },
  };
}

/** The values of a new paper: defaults of the columns in force, and what its home offers and fixes. */
async function arrivingValues(tx: Tx, placeId: string): Promise<{ own: Values; shown: Values }> {
  const [home] = await tx
    .select({ lineage: place.lineage, fixed: place.fixedValues, offered: place.offeredValues })
    .from(place)
    .where(eq(place.id, placeId));
  if (!home) throw new Error('The place is not there');
  const withDefaults = await tx
    .select({ id: columnDef.id, value: columnDef.defaultValue })
    .from(columnDef)
    .where(
      and(isNotNull(columnDef.defaultValue), eq(columnDef.retired, false), inArray(columnDef.placeId, home.lineage)),
    );
  const defaults: Values = Object.fromEntries(
    withDefaults.flatMap(({ id, value }) => (value === null ? [] : [[id, value]])),
  );
  const own = arrivedValues({}, home.offered, defaults);
  return { own, shown: shownValues(own, home.fixed) };
}

/**
 * Title keys in a place that a title or its numbered forms could collide with, among papers the caller may see; empty if
 * the title is free. Papers may share a title if nobody sees both.
 */
async function keysLike(tx: Tx, actor: Actor, placeId: string, key: string): Promise<ReadonlySet<string>> {
  const here = (condition: SQL) =>
    tx
      .select({ key: document.titleKey })
      .from(document)
      .where(and(eq(document.homeId, placeId), condition, paperAllows(actor, 'see')));
  const [same] = await here(eq(document.titleKey, key)).limit(1);
  if (!same) return new Set();
  const numbered = await here(sql`starts_with(${document.titleKey}, ${[...key].slice(0, 190).join('')})`);
  return new Set(numbered.map((row) => row.key));
}

async function nextVersion(tx: Tx, actor: Actor, filing: Filing, documentId: string): Promise<FiledDone> {
  const [paper] = await papersFor(tx, actor, [documentId], 'amend');
  if (!paper) refuse('not-found');
  const number = (await lastNumber(tx, documentId)) + 1;
  await addVersion(tx, actor, documentId, number, filing.content, now(), null);
  const detail = { title: paper.title, number, sha256: filing.content.sha256 };
  return {
    entry: { act: 'paper.versionFiled', subjects: [documentId, paper.homeId], detail },
    result: { documentId, title: paper.title, versionNumber: number },
  };
}

/** The number of a paper's latest version. */
export async function lastNumber(tx: Tx, documentId: string): Promise<number> {
  const [last] = await tx
    .select({ number: max(version.number) })
    .from(version)
    .where(eq(version.documentId, documentId));
  return last?.number ?? 0;
}

/** Adds a version and makes it current, with everything lists show of it. */
export async function addVersion(
  tx: Tx,
  actor: Actor,
  documentId: string,
  number: number,
  content: Pick<StoredContent, 'sha256' | 'fileName' | 'mediaType' | 'stamp' | 'sizeBytes'>,
  at: Date,
  restoredFrom: number | null,
): Promise<void> {
  const { sha256, fileName, mediaType, stamp, sizeBytes } = content;
  const [made] = await tx
    .insert(version)
    .values({
      documentId,
      number,
      sha256,
      fileName,
      mediaType,
      stamp,
      sizeBytes,
      madeBy: actor.personId,
      madeAt: at,
      restoredFrom,
    })
    .returning({ id: version.id });
  if (!made) throw new Error('The version was not made');
  const [paper] = await tx.select({ revision: document.revision }).from(document).where(eq(document.id, documentId));
  await tx
    .update(document)
    .set({
      versionId: made.id,
      stamp,
      sizeBytes,
      ...(await measured(tx, sha256)),
      changedBy: actor.personId,
      changedAt: at,
      revision: number === 1 ? 0 : (paper?.revision ?? 0) + 1,
    })
    .where(eq(document.id, documentId));
}
