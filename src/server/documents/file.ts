import { and, eq, inArray, isNotNull, max, sql } from 'drizzle-orm';
import { arrivedValues, shownValues } from '@/core/columns/given';
import type { Values } from '@/core/columns/model';
import type { Fingerprint, StoreName } from '@/core/content/model';
import type { Stamp } from '@/core/files/fileKind';
import { freeTitle } from '@/core/files/title';
import { refuse } from '@/core/errors/refusal';
import { readingPriority } from '@/core/reading/stages';
import { nameKey, searchKey } from '@/core/text/fold';
import type { JournalEvent } from '@/core/journal/events';
import type { Actor } from '../gate/actor';
import { papersFor } from '../gate/held';
import { paperAllows } from '../gate/visible';
import type { Reader, Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { blob, columnDef, document, place, reading, version } from '../db/schema';
import { storeOf } from '../blobs/content';
import { enqueue } from '../jobs/queue';
import { now } from '../base/clock';

/** Complete, checked content that is to be filed. */
export interface StoredContent {
  readonly sha256: string;
  /** What arrived of it, to be kept; null for content that is kept already. */
  readonly arrived: (Pick<Fingerprint, 'pieceSums'> & { readonly contentId: string; readonly store: StoreName }) | null;
  readonly sizeBytes: number;
  readonly fileName: string;
  readonly mediaType: string;
  readonly stamp: Stamp;
}

/** Content to be filed as a new paper. */
export interface Filing {
  readonly placeId: string;
  readonly title: string;
  readonly remark: string;
  readonly content: StoredContent;
  /** Values of its own, checked; what its place fixes stays as it is. */
  readonly values?: Values;
}

/** What filing came to. */
export interface Filed {
  readonly documentId: string;
  readonly title: string;
  readonly versionNumber: number;
}

/**
 * Files contents as new papers, in this order; a title that is taken is numbered. What it costs the database hardly depends
 * on how many they are. The caller has checked `add` at each place, and journals it.
 */
export async function filePapers(tx: Tx, actor: Actor, filings: readonly Filing[]): Promise<readonly Filed[]> {
  const contents = filings.map((each) => each.content);
  await keepContents(tx, contents);
  const titles = await freeTitles(tx, actor, filings);
  const arriving = await arrivingValues(tx, [...new Set(filings.map((each) => each.placeId))]);
  const measures = await measured(tx, contents);
  const at = now();
  const made = filings.map(({ placeId, remark, content, values: given = {} }, index) => {
    const title = titles[index] ?? '';
    const valuesOf = arriving.get(placeId);
    if (!valuesOf) throw new Error('The place is not there');
    const { own, shown } = valuesOf(given);
    return {
      id: crypto.randomUUID(),
      homeId: placeId,
      title,
      titleKey: nameKey(title),
      searchKey: searchKey(title),
      remark,
      versionId: crypto.randomUUID(),
      ownValues: own,
      shownValues: shown,
      stamp: content.stamp,
      sizeBytes: content.sizeBytes,
      ...measures(content.sha256),
      filedBy: actor.personId,
      filedAt: at,
      changedBy: actor.personId,
      changedAt: at,
    };
  });
  await tx.insert(document).values(made);
  await tx.insert(version).values(
    made.map(({ id, versionId }, index) => ({
      id: versionId,
      documentId: id,
      number: 1,
      ...versionColumns(contents[index] as StoredContent),
      madeBy: actor.personId,
      madeAt: at,
    })),
  );
  await enqueueReading(tx, contents);
  return made.map(({ id, title }) => ({ documentId: id, title, versionNumber: 1 }));
}

/** Files content as a paper's next version. */
export async function fileVersion(
  tx: Tx,
  actor: Actor,
  documentId: string,
  content: StoredContent,
  remark = '',
): Promise<{ readonly entry: JournalEvent; readonly result: Filed }> {
  const [paper] = await papersFor(tx, actor, [documentId], 'amend');
  if (!paper) refuse('not-found');
  await keepContents(tx, [content]);
  const number = (await lastNumber(tx, documentId)) + 1;
  await addVersion(tx, actor, documentId, number, content, now(), { remark });
  await enqueueReading(tx, [content]);
  const detail = { title: paper.title, number, sha256: content.sha256 };
  return {
    entry: { act: 'paper.versionFiled', subjects: [documentId, paper.homeId], detail },
    result: { documentId, title: paper.title, versionNumber: number },
  };
}

/** Makes contents lasting. Content is stored once, however often it is filed: what is there already is given up. */
export async function keepContents(tx: Tx, contents: readonly StoredContent[]): Promise<void> {
  const arrived = contents.flatMap(({ sha256, sizeBytes, arrived: each }) =>
    each ? [{ sha256, sizeBytes, ...each }] : [],
  );
  if (arrived.length === 0) return;
  // In one order, so that two who file the same at once do not wait for each other.
  const inOrder = [...arrived].sort((one, other) => (one.sha256 < other.sha256 ? -1 : 1));
  const kept = await tx.insert(blob).values(inOrder).onConflictDoNothing().returning({ contentId: blob.contentId });
  const lasting = new Set(kept.map((each) => each.contentId));
  for (const { store, contentId, sha256 } of arrived) {
    if (lasting.has(contentId)) await storeOf(store).keep(tx, contentId, sha256);
    else await storeOf(store).forget(tx, contentId);
  }
}

/** Has contents read. */
export function enqueueReading(tx: Tx, contents: readonly StoredContent[]): Promise<void> {
  const sizes = new Map(contents.map(({ sha256, sizeBytes }) => [sha256, sizeBytes]));
  const each = [...sizes.keys()];
  return enqueue(
    tx,
    'read',
    each.map((sha256) => ({ sha256 })),
    (index) => readingPriority(sizes.get(each[index] ?? '') ?? 0),
  );
}

/** Pages and words of contents that were read before, by hash; of others null. */
async function measured(tx: Tx, contents: readonly Pick<StoredContent, 'sha256'>[]) {
  const known = await tx
    .select({ sha256: reading.sha256, pageCount: reading.pageCount, wordCount: reading.wordCount })
    .from(reading)
    .where(
      inArray(
        reading.sha256,
        contents.map((each) => each.sha256),
      ),
    );
  const bySha = new Map(known.map(({ sha256, ...counts }) => [sha256, counts]));
  return (sha256: string) => bySha.get(sha256) ?? { pageCount: null, wordCount: null };
}

/** The values of new papers in some places: defaults of the columns in force, and what each home offers and fixes. */
async function arrivingValues(
  tx: Tx,
  placeIds: readonly string[],
): Promise<ReadonlyMap<string, (given: Values) => { own: Values; shown: Values }>> {
  const homes = await tx
    .select({ id: place.id, lineage: place.lineage, fixed: place.fixedValues, offered: place.offeredValues })
    .from(place)
    .where(idIn(place.id, placeIds));
  const withDefaults = await tx
    .select({ id: columnDef.id, placeId: columnDef.placeId, value: columnDef.defaultValue })
    .from(columnDef)
    .where(
      and(
        isNotNull(columnDef.defaultValue),
        eq(columnDef.retired, false),
        idIn(columnDef.placeId, [...new Set(homes.flatMap((home) => home.lineage))]),
      ),
    );
  return new Map(
    homes.map(({ id, lineage, fixed, offered }) => {
      const inForce = withDefaults.filter(({ placeId }) => lineage.includes(placeId));
      const defaults: Values = Object.fromEntries(
        inForce.flatMap(({ id: column, value }) => (value === null ? [] : [[column, value]])),
      );
      const valuesOf = (given: Values) => {
        const kept = Object.fromEntries(Object.entries(given).filter(([column]) => !(column in fixed)));
        const own = arrivedValues(kept, offered, defaults);
        return { own, shown: shownValues(own, fixed) };
      };
      return [id, valuesOf];
    }),
  );
}

/**
 * Titles as they are filed: numbered where the place has a paper of that title which the caller may see, or where another
 * of these has it. Papers may share a title if nobody sees both.
 */
async function freeTitles(tx: Tx, actor: Actor, filings: readonly Filing[]): Promise<readonly string[]> {
  const taken = await takenTitles(tx, actor, filings);
  const given = new Map<string, Set<string>>();
  const titles: string[] = [];
  for (const { placeId, title } of filings) {
    const here = given.get(placeId) ?? new Set<string>();
    given.set(placeId, here);
    const key = nameKey(title);
    if (here.has(key) || taken(placeId, title))
      for (const each of await keysLike(tx, actor, placeId, key)) here.add(each);
    const free = freeTitle(title, here, nameKey);
    here.add(nameKey(free));
    titles.push(free);
  }
  return titles;
}

/** Which of some titles are taken in their places, by papers that the caller may see. */
export async function takenTitles(
  reader: Reader,
  actor: Actor,
  wanted: readonly { readonly placeId: string; readonly title: string }[],
): Promise<(placeId: string, title: string) => boolean> {
  const rows = await reader
    .selectDistinct({ homeId: document.homeId, titleKey: document.titleKey })
    .from(document)
    .where(
      and(
        sql`(${document.homeId}, ${document.titleKey}) in (select * from unnest(${sql.param(wanted.map((each) => each.placeId))}::uuid[], ${sql.param(wanted.map((each) => nameKey(each.title)))}::text[]))`,
        paperAllows(actor, 'see'),
      ),
    );
  const taken = new Set(rows.map(({ homeId, titleKey }) => `${homeId} ${titleKey}`));
  return (placeId, title) => taken.has(`${placeId} ${nameKey(title)}`);
}

/** Title keys in a place that a title or its numbered forms could collide with, among papers the caller may see. */
async function keysLike(tx: Tx, actor: Actor, placeId: string, key: string): Promise<readonly string[]> {
  const numbered = await tx
    .select({ key: document.titleKey })
    .from(document)
    .where(
      and(
        eq(document.homeId, placeId),
        sql`starts_with(${document.titleKey}, ${[...key].slice(0, 190).join('')})`,
        paperAllows(actor, 'see'),
      ),
    );
  return numbered.map((row) => row.key);
}

/** The number of a paper's latest version. */
export async function lastNumber(tx: Tx, documentId: string): Promise<number> {
  const [last] = await tx
    .select({ number: max(version.number) })
    .from(version)
    .where(eq(version.documentId, documentId));
  return last?.number ?? 0;
}

type VersionContent = Pick<StoredContent, 'sha256' | 'fileName' | 'mediaType' | 'stamp' | 'sizeBytes'>;

const versionColumns = ({ sha256, fileName, mediaType, stamp, sizeBytes }: VersionContent): VersionContent => ({
  sha256,
  fileName,
  mediaType,
  stamp,
  sizeBytes,
});

/** How a version came about, beside its content. */
interface VersionOrigin {
  /** The number of the version that it restores. */
  readonly restoredFrom?: number;
  readonly remark?: string;
}

/** Adds a version and makes it current, with everything lists show of it. */
export async function addVersion(
  tx: Tx,
  actor: Actor,
  documentId: string,
  number: number,
  content: VersionContent,
  at: Date,
  { restoredFrom, remark = '' }: VersionOrigin = {},
): Promise<void> {
  const { sha256, stamp, sizeBytes } = content;
  const [made] = await tx
    .insert(version)
    .values({
      documentId,
      number,
      ...versionColumns(content),
      madeBy: actor.personId,
      madeAt: at,
      restoredFrom: restoredFrom ?? null,
      remark,
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
      ...(await measured(tx, [content]))(sha256),
      changedBy: actor.personId,
      changedAt: at,
      revision: (paper?.revision ?? 0) + 1,
      // Signatures are of the version that was signed.
      signature: null,
    })
    .where(eq(document.id, documentId));
}
