import { sql } from 'drizzle-orm';
import {
  type AnyPgColumn,
  bigint,
  boolean,
  check,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import type { Step } from '@/core/access/resolve';
import type { Values } from '@/core/columns/model';
import { filingKinds } from '@/core/documents/model';
import { readingFaults } from '@/core/documents/reading';
import { stamps } from '@/core/files/fileKind';
import type { JournalDetail } from '@/core/journal/model';
import type { UploadMetadata } from '@/core/uploads/contract';
import type { UploadOutcome } from '@/core/uploads/model';
import { person } from './people';
import { place, scope } from './places';
import { bytea, instant, naturalText } from './types';

/** A paper. What the ledger shows of its current version (stamp, size, pages) stands here too. */
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
    note: text().notNull().default(''),
    versionId: uuid().references((): AnyPgColumn => version.id),
    stamp: text({ enum: stamps }).notNull(),
    sizeBytes: bigint({ mode: 'number' }).notNull(),
    pageCount: integer(),
    /** Words in the current version, by Unicode's word boundaries; null while unknown, or for what has no text. */
    wordCount: integer(),
    filedBy: uuid()
      .notNull()
      .references(() => person.id),
    filedAt: instant().notNull(),
    changedBy: uuid()
      .notNull()
      .references(() => person.id),
    changedAt: instant().notNull(),
    /** What people or offers wrote, by column. */
    ownValues: jsonb().$type<Values>().notNull().default({}),
    /** What the paper shows: its own values under what its home fixes. */
    shownValues: jsonb().$type<Values>().notNull().default({}),
    /** Its place in the order that people dragged its home's papers into; null where nobody did. */
    position: doublePrecision(),
    /** False: stands alone, its home's readers are not let in. */
    follows: boolean().notNull().default(true),
    /** Its own scope, where it has a say of its own; null where it has exactly its home's access. */
    scopeId: uuid().references(() => scope.id),
    accessRevision: integer().notNull().default(0),
    /** Not amended, renamed, moved or disposed of until it is unlocked. */
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
    index('document_scope')
      .on(table.scopeId)
      .where(sql`${table.scopeId} is not null`),
    index('document_disposed')
      .on(table.disposedAt)
      .where(sql`${table.disposedAt} is not null`),
  ],
);

/** Another place that lists a paper. A pointer shows it to those who may see it anyway; an opening lets the place's readers in. */
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

/** What a change of access put in place of what, by its journal entry: so that it can be taken back in one step. */
export const accessChange = pgTable('access_change', {
  entryId: bigint({ mode: 'number' })
    .primaryKey()
    .references((): AnyPgColumn => journal.id),
  placeId: uuid().references(() => place.id, { onDelete: 'cascade' }),
  documentId: uuid().references(() => document.id, { onDelete: 'cascade' }),
  before: jsonb().$type<Step>().notNull(),
  after: jsonb().$type<Step>().notNull(),
});

/** Content, named by its SHA-256 (64 hexadecimal digits). It never changes; `contentId` finds its chunks. */
export const blob = pgTable('blob', {
  sha256: text().primaryKey(),
  contentId: uuid().notNull().unique(),
  sizeBytes: bigint({ mode: 'number' }).notNull(),
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
      .references((): AnyPgColumn => document.id),
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
  },
  (table) => [
    unique('version_number_once').on(table.documentId, table.number),
    index('version_content').on(table.sha256),
    check('version_counts_from_one', sql`${table.number} > 0`),
  ],
);

/** What is made from content: its number of pages and a picture of the first, once the worker has looked. */
export const preview = pgTable('preview', {
  sha256: text()
    .primaryKey()
    .references(() => blob.sha256),
  pageCount: integer(),
  wordCount: integer(),
  /** A JPEG, or null where no picture can be made. */
  picture: bytea(),
  /** Why it could not be read, where reading it came to no end; null for content that was read. */
  fault: text({ enum: readingFaults }),
  madeAt: instant().notNull().defaultNow(),
});

/** A page of some content as a picture, from 1: what those are shown who may read a paper and take no copies. */
export const pagePicture = pgTable(
  'page_picture',
  {
    sha256: text()
      .notNull()
      .references(() => blob.sha256),
    page: integer().notNull(),
    /** A JPEG. */
    picture: bytea().notNull(),
    usedAt: instant().notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.sha256, table.page] }), index('page_picture_used').on(table.usedAt)],
);

/** How often reading some content has been begun and not come to an end: the second time it is left alone. */
export const readingAttempt = pgTable('reading_attempt', {
  sha256: text().primaryKey(),
  attempts: integer().notNull(),
});

/** A file on its way in. Its row outlives the connection; its chunks become a blob's when it is whole. */
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
    /** Once the last byte of a file that came in one go is stored; null for one that was broken off. */
    sha256: text(),
    metadata: jsonb().$type<UploadMetadata>().notNull(),
    outcome: jsonb().$type<UploadOutcome>(),
    createdAt: instant().notNull().defaultNow(),
    updatedAt: instant().notNull().defaultNow(),
  },
  (table) => [index('upload_person').on(table.personId), index('upload_updated').on(table.updatedAt)],
);

/** Who did what, when. Append-only by trigger; each entry carries the hash of the one before it. */
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
