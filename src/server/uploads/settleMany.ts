import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { Cells } from '@/core/archives/lists';
import { Refusal, refuse } from '@/core/errors/refusal';
import { grouped } from '@/core/collections/grouped';
import { nameKey } from '@/core/text/fold';
import type { UploadOutcome } from '@/core/uploads/model';
import { actsInSteps } from '../acts/operation';
import { perform, type Done } from '../acts/act';
import { storeOf } from '../blobs/content';
import { ContentMissing } from '../blobs/contentStore';
import { db, type Tx } from '../db/client';
import { idIn } from '../db/idIn';
import { document, upload, version } from '../db/schema';
import { filePapers, takenTitles } from '../documents/file';
import type { Actor } from '../gate/actor';
import { paperAllows } from '../gate/visible';
import { takeOver } from '../interchange/takeOver';
import { ensureFolders } from '../places/ensureFolders';
import { isOwnUpload } from './receive';
import {
  acceptedFamilies,
  examined,
  remarkOf,
  outcomeOf,
  receivingPlace,
  storedContent,
  titleOf,
  type Arrived,
  type UploadRow,
} from './settle';

/**
 * Files many complete uploads. Those of which nothing has to be asked are filed together: a transaction and a journal entry
 * for each place they were sent to. All others are settled one by one, as if each had come alone. Can be called again at any
 * time: an upload is filed once.
 */
export const settleUploads = actsInSteps('uploads.settle', async (actor, { uploadIds, cells = {} }) => {
  const ready = await arrivedAmong(actor, uploadIds);
  const outcomes = new Map<string, UploadOutcome>();
  for (const [placeId, group] of grouped(ready, ({ row }) => row.placeId)) {
    if (group.length === 1 || placeId === null) continue;
    for (const [id, outcome] of await filedTogether(actor, placeId, group, cells)) outcomes.set(id, outcome);
  }
  for (const { row } of ready) if (outcomes.has(row.id)) await storeOf(row.store).tidy(row.contentId);
  for (const id of uploadIds) if (!outcomes.has(id)) outcomes.set(id, await outcomeOrRefusal(actor, id, cells[id]));
  return uploadIds.flatMap((uploadId) => {
    const outcome = outcomes.get(uploadId);
    return outcome ? [{ uploadId, outcome }] : [];
  });
});

/** One that is not there, or was cancelled meanwhile, is refused by itself and takes no other along. */
async function outcomeOrRefusal(actor: Actor, uploadId: string, cells: Cells | undefined): Promise<UploadOutcome> {
  try {
    return await outcomeOf(actor, uploadId, { cells });
  } catch (error) {
    if (error instanceof Refusal) return { state: 'refused', issue: error.issue };
    throw error;
  }
}

/** Values that papers get with their filing, by the ids of uploads. */
type CellsOf = Readonly<Record<string, Cells>>;

interface Ready {
  readonly row: UploadRow;
  readonly arrived: Arrived;
}

/** The complete uploads among these that have not ended and are not refused. Refuses if none of them is the caller's. */
async function arrivedAmong(actor: Actor, uploadIds: readonly string[]): Promise<readonly Ready[]> {
  const families = await acceptedFamilies();
  const rows = await db()
    .select()
    .from(upload)
    .where(and(idIn(upload.id, uploadIds), isOwnUpload(actor)));
  if (rows.length === 0) refuse('not-found');
  const ready: Ready[] = [];
  // In the order in which they were named: so they are filed.
  const byId = new Map(rows.map((row) => [row.id, row]));
  for (const row of new Set(uploadIds.flatMap((id) => byId.get(id) ?? []))) {
    if (row.outcome || row.receivedBytes < row.sizeBytes) continue;
    try {
      const arrived = await examined(row, families);
      if (!('refused' in arrived)) ready.push({ row, arrived });
    } catch (error) {
      // Another call is filing it in this moment.
      if (!(error instanceof ContentMissing)) throw error;
    }
  }
  return ready;
}

type Outcomes = ReadonlyMap<string, UploadOutcome>;
const none: Outcomes = new Map();

/** Files in one transaction what can be filed without asking; nothing if the place cannot be filed in. */
async function filedTogether(
  actor: Actor,
  placeId: string,
  group: readonly Ready[],
  cells: CellsOf,
): Promise<Outcomes> {
  try {
    return await perform(actor, (tx) => fileTogether(tx, actor, placeId, group, cells));
  } catch (error) {
    // Each will be told by itself what is in its way.
    if (error instanceof Refusal) return none;
    throw error;
  }
}

async function fileTogether(
  tx: Tx,
  actor: Actor,
  placeId: string,
  group: readonly Ready[],
  cells: CellsOf,
): Promise<Done<Outcomes>> {
  const locked = await tx
    .select({ id: upload.id, placeId: upload.placeId, outcome: upload.outcome })
    .from(upload)
    .where(
      idIn(
        upload.id,
        group.map(({ row }) => row.id),
      ),
    )
    .orderBy(asc(upload.id))
    .for('update');
  const open = new Set(locked.filter((row) => row.outcome === null && row.placeId === placeId).map((row) => row.id));
  const target = await receivingPlace(tx, actor, placeId);
  const homes = await homesOf(tx, actor, target, group);
  const wanted = group.flatMap(({ row, arrived }) => {
    const home = homes.get(row.metadata.relativePath ?? '');
    return open.has(row.id) && home !== undefined ? [{ row, arrived, placeId: home, title: titleOf(row) }] : [];
  });
  const plain = await withoutQuestion(tx, actor, wanted);
  if (plain.length === 0) return { entry: null, result: none };
  const filed = await filePapers(
    tx,
    actor,
    plain.map(({ row, arrived, placeId: home, title }) => ({
      placeId: home,
      title,
      remark: remarkOf(row),
      content: storedContent(row, arrived),
    })),
  );
  const notSet = await takeOver(
    tx,
    actor,
    filed.map(({ documentId }, index) => ({ documentId, cells: cells[plain[index]?.row.id ?? ''] ?? {} })),
  );
  const outcomes = new Map(
    filed.map((paper, index): [string, UploadOutcome] => {
      const { row, placeId: home } = plain[index] as Wanted;
      return [row.id, { state: 'filed', placeId: home, ...paper, ...notSet(paper.documentId) }];
    }),
  );
  await concludeAll(tx, outcomes);
  const entry = {
    act: 'papers.filed',
    subjects: [...new Set([...filed.map((paper) => paper.documentId), ...plain.map((each) => each.placeId), placeId])],
    detail: {
      count: filed,
      to: { id: placeId, name: target.name },
      sha256: plain.map(({ arrived }) => arrived.fingerprint.sha256).join(' '),
    },
  } as const;
  return { entry, result: outcomes };
}

/** The places of the folders that the uploads come with, by path; a folder that may not be made is left out. */
async function homesOf(
  tx: Tx,
  actor: Actor,
  target: Awaited<ReturnType<typeof receivingPlace>>,
  group: readonly Ready[],
): Promise<ReadonlyMap<string, string>> {
  const homes = new Map<string, string>();
  for (const path of [...new Set(group.map(({ row }) => row.metadata.relativePath ?? ''))].sort()) {
    try {
      homes.set(path, await ensureFolders(tx, actor, target, path));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
    }
  }
  return homes;
}

interface Wanted extends Ready {
  readonly placeId: string;
  readonly title: string;
}

/** Those whose title and content nobody has to be asked about: not there yet, nor among the others. */
async function withoutQuestion(tx: Tx, actor: Actor, wanted: readonly Wanted[]): Promise<readonly Wanted[]> {
  if (wanted.length === 0) return [];
  const isTaken = await takenTitles(tx, actor, wanted);
  const contents = new Set(await knownContents(tx, actor, wanted));
  const titles = new Set<string>();
  return wanted.filter(({ row, arrived, placeId, title }) => {
    // A paper's next version is an act of its own.
    if (row.metadata.versionOf !== undefined) return false;
    const name = `${placeId} ${nameKey(title)}`;
    const { sha256 } = arrived.fingerprint;
    if (row.metadata.onSameName !== 'both' && (isTaken(placeId, title) || titles.has(name))) return false;
    if (row.metadata.onSameContent !== 'file' && contents.has(sha256)) return false;
    titles.add(name);
    contents.add(sha256);
    return true;
  });
}

/** The contents among these that are current in a paper which the caller may see. */
async function knownContents(tx: Tx, actor: Actor, wanted: readonly Wanted[]): Promise<readonly string[]> {
  const hashes = wanted.map(({ arrived }) => arrived.fingerprint.sha256);
  const rows = await tx
    .selectDistinct({ sha256: version.sha256 })
    .from(version)
    .innerJoin(document, eq(document.versionId, version.id))
    .where(and(inArray(version.sha256, hashes), paperAllows(actor, 'see')));
  return rows.map((row) => row.sha256);
}

async function concludeAll(tx: Tx, outcomes: Outcomes): Promise<void> {
  await tx.execute(sql`
    update upload set outcome = ended.outcome
    from unnest(${sql.param([...outcomes.keys()])}::uuid[], ${sql.param([...outcomes.values()].map((each) => JSON.stringify(each)))}::jsonb[])
      as ended (id, outcome)
    where upload.id = ended.id`);
}
