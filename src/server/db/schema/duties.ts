import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  check,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import { holdKinds, type HeldView } from '@/core/holds/model';
import { keepingEnds, keepingStarts } from '@/core/retention/model';
import { itemStates, runStates } from '@/core/retention/run';
import { reviewOutcomes } from '@/core/reviews/model';
import { columnDef, term } from './columns';
import { document, version } from './documents';
import { person } from './people';
import { place } from './places';
import { instant, naturalText } from './types';

/** How often papers are reviewed: those below a place, all or of one type; or one paper. */
export const reviewRule = pgTable(
  'review_rule',
  {
    id: uuid().primaryKey().defaultRandom(),
    placeId: uuid().references(() => place.id, { onDelete: 'cascade' }),
    documentId: uuid().references(() => document.id, { onDelete: 'cascade' }),
    /** The type of paper; null: all. */
    columnId: uuid().references(() => columnDef.id, { onDelete: 'cascade' }),
    termId: uuid().references(() => term.id, { onDelete: 'cascade' }),
    /** Of one paper: it is not reviewed, whatever its places say. */
    never: boolean().notNull().default(false),
    everyMonths: integer(),
    /** A rule of RFC 5545, where it is more than months. */
    rhythm: text(),
    firstOn: date({ mode: 'string' }),
    warnDays: integer().notNull().default(30),
    responsibleId: uuid().references(() => person.id),
    revision: integer().notNull().default(0),
  },
  (table) => [
    unique('review_rule_once').on(table.placeId, table.documentId, table.columnId, table.termId).nullsNotDistinct(),
    check('review_rule_one_object', sql`(${table.placeId} is not null) <> (${table.documentId} is not null)`),
    check('review_rule_type', sql`(${table.columnId} is null) = (${table.termId} is null)`),
    check(
      'review_rule_rhythm',
      sql`(${table.everyMonths} is not null)::int + (${table.rhythm} is not null)::int + ${table.never}::int = 1`,
    ),
    index('review_rule_document').on(table.documentId),
  ],
);

/** A review of a paper that was done. */
export const review = pgTable(
  'review',
  {
    id: uuid().primaryKey().defaultRandom(),
    documentId: uuid()
      .notNull()
      .references(() => document.id, { onDelete: 'cascade' }),
    /** The version that was reviewed. */
    versionId: uuid()
      .notNull()
      .references(() => version.id, { onDelete: 'cascade' }),
    outcome: text({ enum: reviewOutcomes }).notNull(),
    note: text().notNull().default(''),
    /** The paper that replaces it, which may be gone. */
    replacedById: uuid(),
    /** The day of the review, in the library's time zone, and the day on which it was due. */
    day: date({ mode: 'string' }).notNull(),
    dueOn: date({ mode: 'string' }),
    doneBy: uuid()
      .notNull()
      .references(() => person.id),
    doneAt: instant().notNull(),
  },
  (table) => [index('review_document').on(table.documentId, table.day)],
);

/** A retention class. */
export const retentionClass = pgTable(
  'retention_class',
  {
    id: uuid().primaryKey().defaultRandom(),
    name: naturalText().notNull(),
    nameKey: text().notNull().unique('retention_class_name_taken'),
    authority: text().notNull().default(''),
    startsFrom: text({ enum: keepingStarts }).notNull(),
    columnId: uuid().references(() => columnDef.id),
    months: integer(),
    ends: text({ enum: keepingEnds }).notNull(),
    revision: integer().notNull().default(0),
  },
  (table) => [
    check('retention_class_column', sql`(${table.startsFrom} = 'column') = (${table.columnId} is not null)`),
    check('retention_class_months', sql`${table.months} is not null or ${table.ends} = 'keep'`),
  ],
);

/** Which class a place gives to the papers below it: to all, or to those of one type. */
export const retentionRule = pgTable(
  'retention_rule',
  {
    id: uuid().primaryKey().defaultRandom(),
    placeId: uuid()
      .notNull()
      .references(() => place.id, { onDelete: 'cascade' }),
    columnId: uuid().references(() => columnDef.id, { onDelete: 'cascade' }),
    termId: uuid().references(() => term.id, { onDelete: 'cascade' }),
    classId: uuid()
      .notNull()
      .references(() => retentionClass.id),
  },
  (table) => [
    unique('retention_rule_once').on(table.placeId, table.columnId, table.termId).nullsNotDistinct(),
    check('retention_rule_type', sql`(${table.columnId} is null) = (${table.termId} is null)`),
    index('retention_rule_class').on(table.classId),
  ],
);

/** A named stop on destruction. While it is not lifted, nothing under it is destroyed. */
export const hold = pgTable('hold', {
  id: uuid().primaryKey().defaultRandom(),
  name: naturalText().notNull(),
  reason: text().notNull(),
  placedBy: uuid()
    .notNull()
    .references(() => person.id),
  placedAt: instant().notNull(),
  liftedBy: uuid().references(() => person.id),
  liftedAt: instant(),
  liftReason: text().notNull().default(''),
  /** What it was on, in words, once it is lifted: then nothing of that is stopped any more. */
  wasOn: text().array().notNull().default([]),
  revision: integer().notNull().default(0),
});

/** What a hold is on: a place and all below it, a paper, or what a view shows at the time. */
export const holdOn = pgTable(
  'hold_on',
  {
    id: uuid().primaryKey().defaultRandom(),
    holdId: uuid()
      .notNull()
      .references(() => hold.id, { onDelete: 'cascade' }),
    kind: text({ enum: holdKinds }).notNull(),
    placeId: uuid().references(() => place.id),
    documentId: uuid().references(() => document.id),
    view: jsonb().$type<HeldView>(),
  },
  (table) => [
    index('hold_on_hold').on(table.holdId),
    index('hold_on_place').on(table.placeId),
    index('hold_on_document').on(table.documentId),
    unique('hold_on_once').on(table.holdId, table.placeId, table.documentId, table.view).nullsNotDistinct(),
    check(
      'hold_on_one',
      sql`(${table.placeId} is not null)::int + (${table.documentId} is not null)::int + (${table.view} is not null)::int = 1`,
    ),
  ],
);

/** One disposal by the schedule: prepared by one person, approved by another. */
export const disposalRun = pgTable('disposal_run', {
  id: uuid().primaryKey().defaultRandom(),
  state: text({ enum: runStates }).notNull(),
  note: text().notNull().default(''),
  preparedBy: uuid()
    .notNull()
    .references(() => person.id),
  preparedAt: instant().notNull(),
  approvedBy: uuid().references(() => person.id),
  approvedAt: instant(),
  /** Where the certificate is filed. */
  placeId: uuid()
    .notNull()
    .references(() => place.id),
  /** The certificate; null until all papers are gone or put back. */
  certificateId: uuid(),
  endedAt: instant(),
  revision: integer().notNull().default(0),
});

/** A paper of a run, with all that the certificate says of it once it is gone. */
export const disposalRunItem = pgTable(
  'disposal_run_item',
  {
    runId: uuid()
      .notNull()
      .references(() => disposalRun.id, { onDelete: 'cascade' }),
    /** The paper's id, which outlives it. */
    documentId: uuid().notNull(),
    title: naturalText().notNull(),
    placeName: text().notNull(),
    dossierName: text().notNull(),
    className: text().notNull(),
    authority: text().notNull(),
    keptUntil: date({ mode: 'string' }).notNull(),
    /** Of each of its versions, oldest first. */
    sha256s: text().array().notNull(),
    sizeBytes: bigint({ mode: 'number' }).notNull(),
    state: text({ enum: itemStates }).notNull(),
    /** Why it was left out. */
    reason: text().notNull().default(''),
    destroyedAt: instant(),
  },
  (table) => [
    primaryKey({ columns: [table.runId, table.documentId] }),
    index('disposal_run_item_document').on(table.documentId),
  ],
);
