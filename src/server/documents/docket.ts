import { and, desc, eq, or, sql } from 'drizzle-orm';
import { has, listOf } from '@/core/access/capability';
import { stoppedBy } from '@/core/standstill/standstill';
import { refuse } from '@/core/errors/refusal';
import type { PaperFacts } from '@/core/documents/model';
import { readingOf } from '@/core/reading/stages';
import { pathOf } from '../known/names';
import { asks } from '../acts/operation';
import { capabilitiesOn, standstillOf } from '../gate/held';
import { namesIn, waysInto } from '../scopes/scopes';
import { labelIsKnown, paperAllows, paperIsDisposed } from '../gate/visible';
import { db } from '../db/client';
import {
  document,
  documentLabel,
  label,
  note,
  paperCover,
  person,
  place,
  reading,
  readingAttempt,
  version,
} from '../db/schema';
import { toldValues } from '../columns/read';
import { resultsOf } from '../extraction/read';
import { originOf } from './copy';
import { filingsOf } from './crossFile';
import { standId } from '../known/standing';

/** Everything the docket shows of a paper. A paper in the disposal tray is shown to those who may restore it. */
export const docketOf = asks('paper.docket', async (actor, { documentId }) => {
  const [paper] = await db()
    .select({
      id: document.id,
      title: document.title,
      remark: document.remark,
      stamp: document.stamp,
      sizeBytes: document.sizeBytes,
      pageCount: document.pageCount,
      wordCount: document.wordCount,
      signature: document.signature,
      filedBy: person.name,
      changedBy: sql<string>`(select changer.name from person as changer where changer.id = ${document.changedBy})`,
      filedAt: document.filedAt,
      changedAt: document.changedAt,
      disposedAt: document.disposedAt,
      revision: document.revision,
      values: document.shownValues,
      fixedValues: place.fixedValues,
      labels: sql<
        string[]
      >`array(select ${documentLabel.labelId}::text from ${documentLabel} join ${label} on ${label.id} = ${documentLabel.labelId}
        where ${documentLabel.documentId} = ${document.id} and ${labelIsKnown(actor)})`,
      homeId: standId(actor),
      isHome: sql<boolean>`${standId(actor)} = ${document.homeId}`,
      lineage: place.lineage,
      locked: document.locked,
      hasPicture: sql<boolean>`coalesce(${paperCover.picture}, ${reading.picture}) is not null`,
      hasOwnCover: sql<boolean>`${paperCover.picture} is not null`,
      isNote: sql<boolean>`${note.documentId} is not null`,
      isStart: sql<boolean>`coalesce(${note.isStart}, false)`,
      begun: sql<boolean>`exists (select from ${readingAttempt} where ${readingAttempt.sha256} = ${version.sha256})`,
      facts: {
        language: reading.language,
        title: reading.title,
        author: reading.author,
        summary: sql<string[]>`coalesce(${reading.summary}, '{}')`,
        keyWords: sql<string[]>`coalesce(${reading.keyWords}, '{}')`,
        days: sql<string[]>`coalesce(${reading.namedDays}, '{}')::text[]`,
        references: sql<string[]>`coalesce(${reading.namedReferences}, '{}')`,
      },
    })
    .from(document)
    .innerJoin(person, eq(person.id, document.filedBy))
    .innerJoin(place, eq(place.id, document.homeId))
    .innerJoin(version, eq(version.id, document.versionId))
    .leftJoin(reading, eq(reading.sha256, version.sha256))
    .leftJoin(paperCover, eq(paperCover.documentId, document.id))
    .leftJoin(note, eq(note.documentId, document.id))
    .where(and(eq(document.id, documentId), or(paperAllows(actor, 'see'), paperIsDisposed(actor))));
  if (!paper) refuse('not-found');
  const versions = await versionsOf(documentId);
  const current = versions[0];
  if (!current) throw new Error(`The paper ${documentId} has no version`);
  const { lineage, filedAt, changedAt, disposedAt, fixedValues, locked, begun, facts, ...shown } = paper;
  const [held, still, names, homePath, filings, origin, results] = await Promise.all([
    capabilitiesOn(db(), actor, documentId),
    standstillOf(db(), lineage),
    waysInto(db(), documentId).then(({ home, openings }) => namesIn(db(), [home, ...openings])),
    paper.isHome ? pathOf(db(), actor, lineage) : [],
    filingsOf(db(), actor, documentId),
    originOf(db(), actor, documentId),
    resultsOf(current.sha256),
  ]);
  const {
    rows: [row = shown],
  } = await toldValues(db(), actor, [shown]);
  return {
    ...row,
    fixed: Object.keys(fixedValues),
    filedAt: filedAt.toISOString(),
    changedAt: changedAt.toISOString(),
    disposedAt: disposedAt?.toISOString() ?? null,
    mediaType: current.mediaType,
    fileName: current.fileName,
    sha256: current.sha256,
    filings,
    origin,
    homePath: homePath.map(({ id, name }) => ({ id, name })),
    capabilities: listOf(held & ~stoppedBy({ ...still, locked: locked || still.locked })),
    still: locked ? 'locked' : still.closed ? 'closedPlace' : still.locked ? 'lockedPlace' : null,
    openTo: has(held, 'manage') ? names.length : null,
    reading: readingOf(results, begun),
    facts: facts ?? noFacts,
    versions,
  };
});

/** What is known of content that is not read yet. */
const noFacts: PaperFacts = {
  language: null,
  title: null,
  author: null,
  summary: [],
  keyWords: [],
  days: [],
  references: [],
};

/** The versions of a paper, newest first. The caller has passed the gate. */
async function versionsOf(documentId: string) {
  const rows = await db()
    .select({
      number: version.number,
      fileName: version.fileName,
      mediaType: version.mediaType,
      sizeBytes: version.sizeBytes,
      sha256: version.sha256,
      madeBy: person.name,
      madeAt: version.madeAt,
      restoredFrom: version.restoredFrom,
      remark: version.remark,
    })
    .from(version)
    .innerJoin(person, eq(person.id, version.madeBy))
    .where(eq(version.documentId, documentId))
    .orderBy(desc(version.number));
  return rows.map((row) => ({ ...row, madeAt: row.madeAt.toISOString() }));
}
