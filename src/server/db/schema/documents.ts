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
import { storeNames } from '@/core/content/model';
import type { Step } from '@/core/access/resolve';
import type { Values } from '@/core/columns/model';
import { filingKinds } from '@/core/documents/model';
import { stamps, type FileKind } from '@/core/files/fileKind';
import type { JournalDetail } from '@/core/journal/model';
import { paperSignatures } from '@/core/documents/signature';
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
    /** What came of signatures on the current version (`documents/signature`). */
    signature: text({ enum: paperSignatures }),
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

/** A file being uploaded. The row outlives the connection; its chunks become the blob's once the file is complete. */
export const upload = pgTable(
  'upload',
  {
    id: uuid().primaryKey(),
    personId: uuid()
      .notNull()
      .references(() => person.id),
    /** Where it is filed; null: it is put into the intake. */
    placeId: uuid().references(() => place.id, { onDelete: 'cascade' }),
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
