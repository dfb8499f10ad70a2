import { sql } from 'drizzle-orm';
import {
  type AnyPgColumn,
  bigint,
  boolean,
  check,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { bindings, givenModes } from '@/core/columns/given';
import { columnMeanings, columnTypes, type Value } from '@/core/columns/model';
import { hues } from '@/core/text/hue';
import { document, journal } from './documents';
import { person } from './people';
import { place } from './places';
import { naturalText } from './types';

/** A controlled list: the values that its columns permit. */
export const controlledList = pgTable('controlled_list', {
  id: uuid().primaryKey().defaultRandom(),
  name: naturalText().notNull(),
  nameKey: text().notNull().unique('list_name_taken'),
  revision: integer().notNull().default(0),
});

/** A value of a list. Names and other names are looked up by `core/columns/lexicon`, never by SQL. */
export const term = pgTable(
  'term',
  {
    id: uuid().primaryKey().defaultRandom(),
    listId: uuid()
      .notNull()
      .references(() => controlledList.id),
    parentId: uuid().references((): AnyPgColumn => term.id),
    name: naturalText().notNull(),
    nameKey: text().notNull(),
    otherNames: text().array().notNull(),
    position: integer().notNull(),
    retired: boolean().notNull().default(false),
  },
  (table) => [
    uniqueIndex('term_name_taken').on(table.listId, sql`coalesce(${table.parentId}, ${table.listId})`, table.nameKey),
    check('term_not_under_itself', sql`${table.parentId} <> ${table.id}`),
  ],
);

/** A column as defined at a place, for it and all below. */
export const columnDef = pgTable(
  'column_def',
  {
    id: uuid().primaryKey().defaultRandom(),
    placeId: uuid()
      .notNull()
      .references(() => place.id, { onDelete: 'cascade' }),
    name: naturalText().notNull(),
    nameKey: text().notNull(),
    help: text().notNull().default(''),
    type: text({ enum: columnTypes }).notNull(),
    listId: uuid().references(() => controlledList.id),
    open: boolean().notNull().default(false),
    unit: text().notNull().default(''),
    decimals: integer(),
    currency: text().notNull().default(''),
    required: boolean().notNull().default(false),
    meaning: text({ enum: columnMeanings }).notNull().default('none'),
    defaultValue: jsonb().$type<Value>(),
    position: integer().notNull(),
    retired: boolean().notNull().default(false),
    revision: integer().notNull().default(0),
  },
  (table) => [
    uniqueIndex('column_name_taken')
      .on(table.placeId, table.nameKey)
      .where(sql`not ${table.retired}`),
  ],
);

/** Values that a place gives to papers filed in it, as set on that place. The outcome for each place is stored with the place. */
export const givenValue = pgTable(
  'given_value',
  {
    placeId: uuid()
      .notNull()
      .references(() => place.id, { onDelete: 'cascade' }),
    columnId: uuid()
      .notNull()
      .references(() => columnDef.id, { onDelete: 'cascade' }),
    mode: text({ enum: givenModes }).notNull(),
    value: jsonb().$type<Value>(),
    binding: text({ enum: bindings }),
  },
  (table) => [
    primaryKey({ columns: [table.placeId, table.columnId] }),
    check('given_value_or_binding', sql`(${table.value} is null) <> (${table.binding} is null)`),
  ],
);

/**
 * One act that changed values, and its journal entry. Written after the changes, so that the journal is not locked
 * while they are written.
 */
export const valueBatch = pgTable('value_batch', {
  id: uuid().primaryKey(),
  entryId: bigint({ mode: 'number' })
    .notNull()
    .unique('value_batch_once')
    .references(() => journal.id),
});

/** What an act did to papers' own values, for undoing it in one step. `null` is no value. */
export const valueChange = pgTable(
  'value_change',
  {
    /** The `value_batch` of the act, whose row is written last. */
    batchId: uuid().notNull(),
    documentId: uuid()
      .notNull()
      .references(() => document.id, { onDelete: 'cascade' }),
    columnId: uuid()
      .notNull()
      .references(() => columnDef.id, { onDelete: 'cascade' }),
    before: jsonb().$type<Value>(),
    after: jsonb().$type<Value>(),
  },
  (table) => [primaryKey({ columns: [table.batchId, table.documentId, table.columnId] })],
);

/** A short mark for papers: the library's, or private to its maker. */
export const label = pgTable(
  'label',
  {
    id: uuid().primaryKey().defaultRandom(),
    name: naturalText().notNull(),
    nameKey: text().notNull(),
    hue: text({ enum: hues }).notNull(),
    /** Its owner; null for the library's labels. */
    ownerId: uuid().references(() => person.id),
    revision: integer().notNull().default(0),
  },
  (table) => [
    uniqueIndex('label_name_taken').on(
      sql`coalesce(${table.ownerId}, '00000000-0000-0000-0000-000000000000'::uuid)`,
      table.nameKey,
    ),
  ],
);

/** Which labels papers bear. */
export const documentLabel = pgTable(
  'document_label',
  {
    documentId: uuid()
      .notNull()
      .references(() => document.id, { onDelete: 'cascade' }),
    labelId: uuid()
      .notNull()
      .references(() => label.id, { onDelete: 'cascade' }),
  },
  (table) => [
    primaryKey({ columns: [table.documentId, table.labelId] }),
    index('document_label_label').on(table.labelId),
  ],
);
