import { date, index, integer, pgTable, primaryKey, smallint, text, uuid } from 'drizzle-orm/pg-core';
import { readingFaults } from '@/core/reading/fault';
import { stageOutcomes, stages } from '@/core/reading/stages';
import { blob, document } from './documents';
import { person } from './people';
import { bytea, instant } from './types';

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
