import { sql } from 'drizzle-orm';
import {
  type AnyPgColumn,
  bigint,
  boolean,
  check,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  smallint,
  text,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import { storeNames } from '@/core/content/model';
import type { Step } from '@/core/access/resolve';
import type { Values } from '@/core/columns/model';
import { filingKinds } from '@/core/documents/model';
import { readingFaults } from '@/core/reading/fault';
import { stageOutcomes, stages } from '@/core/reading/stages';
import { stamps, type FileKind } from '@/core/files/fileKind';
import type { JournalDetail } from '@/core/journal/model';
import type { UploadMetadata } from '@/core/uploads/contract';
import type { UploadOutcome } from '@/core/uploads/model';
import { person } from './people';
import { place, scope } from './places';
import { bytea, instant, naturalText } from './types';

/** A paper. What lists show of its current version (kind, size, pages) is stored here too. */
export const document = pgTable(
  'document',
  {
    id: uuid().primaryKey().defaultRandom(),
    homeId: uuid()
      .notNull()
      .references(() => place.id),
    title: naturalText().notNull(),
    titleKey: text().notNull(),
    searchKey: text().notNull(),
    remark: text().notNull().default(''),
    versionId: uuid().references((): AnyPgColumn => version.id),
    stamp: text({ enum: stamps }).notNull(),
    sizeBytes: bigint({ mode: 'number' }).notNull(),
    pageCount: integer(),
    /** Words in the current version (Unicode word boundaries); null while unknown, or if it has no text. */
    wordCount: integer(),
    filedBy: uuid()
      .notNull()
      .references(() => person.id),
    filedAt: instant().notNull(),
    changedBy: uuid()
      .notNull()
      .references(() => person.id),
    changedAt: instant().notNull(),
    /** Values set on the paper itself, by people or by a place's offer, by column. */
    ownValues: jsonb().$type<Values>().notNull().default({}),
    /** What the paper shows: its own values under what its home fixes. */
    shownValues: jsonb().$type<Values>().notNull().default({}),
    /** Its position in the order set by hand in its home; null if nobody set one. */
    position: doublePrecision(),
    /** False: the paper does not inherit access from its home. */
    follows: boolean().notNull().default(true),
    /** Its own scope; null if it has exactly its home's access. */
    scopeId: uuid().references(() => scope.id),
    accessRevision: integer().notNull().default(0),
    /** While locked it cannot be changed, renamed, moved or disposed of. */
    locked: boolean().notNull().default(false),
    disposedAt: instant(),
    disposedBy: uuid().references(() => person.id),
    revision: integer().notNull().default(0),
  },
  (table) => [
    index('document_home').on(table.homeId, table.title, table.id),
    index('document_title_key').on(table.homeId, table.titleKey),
    index('document_search').using('gin', sql`${table.searchKey} gin_trgm_ops`),
    index('document_title').on(table.title, table.id),
    index('document_changed').on(table.changedAt),
    index('document_filer').on(table.filedBy, table.filedAt),
    index('document_scope')
      .on(table.scopeId)
      .where(sql`${table.scopeId} is not null`),
    index('document_disposed')
      .on(table.disposedAt)
      .where(sql`${table.disposedAt} is not null`),
  ],
);

/**
 * Another place that lists a paper. A pointer shows it only to people who may see it anyway; an opening also gives
 * access to the place's readers.
 */
export const filing = pgTable(
  'filing',
  {
    id: uuid().primaryKey().defaultRandom(),
    documentId: uuid()
      .notNull()
      .references(() => document.id, { onDelete: 'cascade' }),
    placeId: uuid()
      .notNull()
      .references(() => place.id),
    kind: text({ enum: filingKinds }).notNull(),
    madeBy: uuid()
      .notNull()
      .references(() => person.id),
    madeAt: instant().notNull(),
  },
  (table) => [unique('filing_once').on(table.documentId, table.placeId), index('filing_place').on(table.placeId)],
);

/** An access sheet before and after a change, by journal entry, for undoing it in one step. */
export const accessChange = pgTable('access_change', {
  entryId: bigint({ mode: 'number' })
    .primaryKey()
    .references((): AnyPgColumn => journal.id),
  placeId: uuid().references(() => place.id, { onDelete: 'cascade' }),
  documentId: uuid().references(() => document.id, { onDelete: 'cascade' }),
  before: jsonb().$type<Step>().notNull(),
  after: jsonb().$type<Step>().notNull(),
});

/** What is left of papers that were destroyed: that they were there, and nothing of what they said. */
export const destroyedPaper = pgTable('destroyed_paper', {
  /** The id that the paper had, which the journal still names. */
  id: uuid().primaryKey(),
  title: naturalText().notNull(),
  /** Where it lay, in words. */
  homeName: text().notNull(),
  destroyedAt: instant().notNull(),
  /** Null where its time in the disposal tray was over. */
  destroyedBy: uuid().references(() => person.id),
});

/** Content, named by its SHA-256 (64 hexadecimal digits). It never changes; where it is kept may. */
export const blob = pgTable('blob', {
  sha256: text().primaryKey(),
  /** Finds its chunks, where it is kept in rows. */
  contentId: uuid().notNull().unique(),
  sizeBytes: bigint({ mode: 'number' }).notNull(),
  store: text({ enum: storeNames }).notNull().default('rows'),
  /** CRC-32 of each mebibyte, as signed integers; null for content filed before they were recorded. */
  pieceSums: integer().array().$type<readonly number[]>(),
  /** When it was found to differ from what was filed; null while it is whole. */
  damagedAt: instant(),
});

/** Content in pieces of at most 1 MiB, each under the byte at which it begins. */
export const blobChunk = pgTable(
  'blob_chunk',
  {
    contentId: uuid().notNull(),
    startByte: bigint({ mode: 'number' }).notNull(),
    data: bytea().notNull(),
  },
  (table) => [primaryKey({ columns: [table.contentId, table.startByte] })],
);

/** A version of a paper; a trigger refuses any change to one. */
export const version = pgTable(
  'version',
  {
    id: uuid().primaryKey().defaultRandom(),
    documentId: uuid()
      .notNull()
      .references((): AnyPgColumn => document.id, { onDelete: 'cascade' }),
    number: integer().notNull(),
    sha256: text()
      .notNull()
      .references(() => blob.sha256),
    fileName: text().notNull(),
    mediaType: text().notNull(),
    stamp: text({ enum: stamps }).notNull(),
    sizeBytes: bigint({ mode: 'number' }).notNull(),
    madeBy: uuid()
      .notNull()
      .references(() => person.id),
    madeAt: instant().notNull(),
    restoredFrom: integer(),
    /** What its maker said of it. */
    remark: text().notNull().default(''),
  },
  (table) => [
    unique('version_number_once').on(table.documentId, table.number),
    index('version_content').on(table.sha256),
    check('version_counts_from_one', sql`${table.number} > 0`),
  ],
);

/** What was found in some content as a whole. It is derived: reading again makes the same. */
export const reading = pgTable(
  'reading',
  {
    sha256: text()
      .primaryKey()
      .references(() => blob.sha256, { onDelete: 'cascade' }),
    pageCount: integer(),
    wordCount: integer(),
    /** The first page as a JPEG; null if no picture could be made. */
    picture: bytea(),
    /** The language of its text (ISO 639-1); null if it is too short to tell. */
    language: text(),
    /** Title and author that the file itself gives. */
    title: text(),
    author: text(),
    /** A few of its own sentences; empty where it has none to choose from. */
    summary: text().array().notNull().default([]),
    keyWords: text().array().notNull().default([]),
    /** Days that its text names, and references as offices give them: in the order in which they come. */
    namedDays: date({ mode: 'string' }).array().notNull().default([]),
    namedReferences: text().array().notNull().default([]),
    /** The same for texts of the same words; null where there are none. */
    textKey: text(),
    /** By which texts that are much alike are found (MinHash); null for a text that is too short. */
    sketch: integer().array().$type<readonly number[]>(),
  },
  (table) => [index('reading_text').on(table.textKey)],
);

/** The bands of sketches, each by its number, by which contents with a text much like another's are looked up. */
export const likenessBand = pgTable(
  'likeness_band',
  {
    band: smallint().notNull(),
    key: integer().notNull(),
    sha256: text()
      .notNull()
      .references(() => blob.sha256, { onDelete: 'cascade' }),
  },
  (table) => [
    primaryKey({ columns: [table.band, table.key, table.sha256] }),
    index('likeness_band_content').on(table.sha256),
  ],
);

/** A stage of reading that has run on some content, by which program and what it came to. */
export const readingStage = pgTable(
  'reading_stage',
  {
    sha256: text()
      .notNull()
      .references(() => blob.sha256, { onDelete: 'cascade' }),
    stage: text({ enum: stages }).notNull(),
    program: integer().notNull(),
    outcome: text({ enum: stageOutcomes }).notNull(),
    /** Why it failed or gave only a part; null otherwise. */
    why: text({ enum: readingFaults }),
    tookMs: integer().notNull(),
    madeAt: instant().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.sha256, table.stage] }),
    index('reading_stage_program').on(table.stage, table.program),
  ],
);

/** What the screen shows of some content that is not shown as it came: its pages as a PDF, or its view as JSON. */
export const readingForm = pgTable(
  'reading_form',
  {
    sha256: text()
      .notNull()
      .references(() => blob.sha256, { onDelete: 'cascade' }),
    form: text({ enum: ['pages', 'view'] }).notNull(),
    /** How many pages it has; null for a view. */
    pages: integer(),
    sizeBytes: integer().notNull(),
    /** Stored uncompressed, so that a part of it is read without the rest. */
    data: bytea().notNull(),
  },
  (table) => [primaryKey({ columns: [table.sha256, table.form] })],
);

/** The text of a page of some content, numbered from 1. */
export const readingPage = pgTable(
  'reading_page',
  {
    sha256: text()
      .notNull()
      .references(() => blob.sha256, { onDelete: 'cascade' }),
    page: integer().notNull(),
    words: text().notNull(),
  },
  (table) => [primaryKey({ columns: [table.sha256, table.page] })],
);

/** An attachment that was taken out of a mail, by the mail's content; numbered from 1. */
export const attachment = pgTable(
  'attachment',
  {
    mailSha256: text()
      .notNull()
      .references(() => blob.sha256, { onDelete: 'cascade' }),
    number: integer().notNull(),
    name: text().notNull(),
    mediaType: text().notNull(),
    sha256: text()
      .notNull()
      .references(() => blob.sha256),
  },
  (table) => [primaryKey({ columns: [table.mailSha256, table.number] }), index('attachment_content').on(table.sha256)],
);

/** Where a copy came from. */
export const paperOrigin = pgTable(
  'paper_origin',
  {
    documentId: uuid()
      .primaryKey()
      .references(() => document.id, { onDelete: 'cascade' }),
    /** Null once the original was destroyed. */
    originalId: uuid().references(() => document.id, { onDelete: 'set null' }),
    /** The version that was copied last. */
    versionId: uuid().references(() => version.id, { onDelete: 'set null' }),
    at: instant().notNull(),
  },
  (table) => [index('paper_origin_original').on(table.originalId)],
);

/** The picture that a paper's cover shows instead of its first page. */
export const paperCover = pgTable('paper_cover', {
  documentId: uuid()
    .primaryKey()
    .references(() => document.id, { onDelete: 'cascade' }),
  /** A JPEG. */
  picture: bytea().notNull(),
  setBy: uuid()
    .notNull()
    .references(() => person.id),
  setAt: instant().notNull(),
});

/** A page of some content as a picture, numbered from 1, for people who may read a paper but not take copies. */
export const pagePicture = pgTable(
  'page_picture',
  {
    sha256: text()
      .notNull()
      .references(() => blob.sha256, { onDelete: 'cascade' }),
    page: integer().notNull(),
    /** A JPEG. */
    picture: bytea().notNull(),
    usedAt: instant().notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.sha256, table.page] }), index('page_picture_used').on(table.usedAt)],
);

/** The page at which a person last was in a paper. */
export const readingPosition = pgTable(
  'reading_position',
  {
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    documentId: uuid()
      .notNull()
      .references(() => document.id, { onDelete: 'cascade' }),
    page: integer().notNull(),
    at: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.personId, table.documentId] })],
);

/** How often a stage of reading some content was begun and not finished; after the second time it is not tried again. */
export const readingAttempt = pgTable(
  'reading_attempt',
  {
    sha256: text().notNull(),
    stage: text({ enum: stages }).notNull(),
    attempts: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.sha256, table.stage] })],
);

/** A file being uploaded. The row outlives the connection; its chunks become the blob's once the file is complete. */
export const upload = pgTable(
  'upload',
  {
    id: uuid().primaryKey(),
    personId: uuid()
      .notNull()
      .references(() => person.id),
    placeId: uuid()
      .notNull()
      .references(() => place.id, { onDelete: 'cascade' }),
    contentId: uuid().notNull(),
    fileName: text().notNull(),
    sizeBytes: bigint({ mode: 'number' }).notNull(),
    receivedBytes: bigint({ mode: 'number' }).notNull().default(0),
    /** The hash, once the last byte is stored, of a file that came in one request; null if the upload was interrupted. */
    sha256: text(),
    /** The checksums of its pieces, noted together with the hash. */
    pieceSums: integer().array().$type<readonly number[]>(),
    /** The kind of file by its content, where it was determined as it came; null while it is not. */
    kind: jsonb().$type<FileKind>(),
    /** Where its bytes are. */
    store: text({ enum: storeNames }).notNull().default('rows'),
    metadata: jsonb().$type<UploadMetadata>().notNull(),
    outcome: jsonb().$type<UploadOutcome>(),
    createdAt: instant().notNull().defaultNow(),
    updatedAt: instant().notNull().defaultNow(),
  },
  (table) => [index('upload_person').on(table.personId), index('upload_updated').on(table.updatedAt)],
);

/** Who did what, and when. Append-only (by trigger); each entry has the hash of the one before. */
export const journal = pgTable(
  'journal',
  {
    id: bigint({ mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    at: instant().notNull(),
    personId: uuid().references(() => person.id),
    act: text().notNull(),
    subjects: uuid().array().notNull(),
    detail: jsonb().$type<JournalDetail>().notNull(),
    previousHash: text().notNull(),
    hash: text().notNull(),
  },
  (table) => [index('journal_subjects').using('gin', table.subjects)],
);
