import { sql } from 'drizzle-orm';
import {
  type AnyPgColumn,
  bigint,
  boolean,
  check,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  smallint,
  text,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { allScanLanguages } from '@/core/reading/scanLanguages';
import { storeNames } from '@/core/content/model';
import type { Values } from '@/core/columns/model';
import { yearLabelStyles } from '@/core/calendar/filingYear';
import type { Details } from '@/core/dossiers/details';
import { hues } from '@/core/text/hue';
import { placeKinds } from '@/core/tree/placeKind';
import { person, personGroup } from './people';
import { instant, naturalText } from './types';

/** The library's settings: one row. */
export const library = pgTable(
  'library',
  {
    id: smallint().primaryKey().default(1),
    name: text().notNull(),
    timeZone: text().notNull(),
    yearStartMonth: smallint().notNull(),
    yearLabels: text({ enum: yearLabelStyles }).notNull().default('both'),
    maxFileBytes: bigint({ mode: 'number' }).notNull(),
    families: text().array().notNull(),
    /** The languages in which scans are read. */
    scanLanguages: text({ enum: allScanLanguages }).array().notNull().default(['eng']),
    /** How many days papers wait in the disposal tray before they are destroyed; null: until a person destroys them. */
    trayDays: integer(),
    /** When that was set last: nothing is destroyed by itself in the week after it. */
    trayDaysSince: instant().notNull().defaultNow(),
    /** How many days an archive waits for whoever asked for it. */
    exportDays: integer().notNull().default(7),
    /** Every how many days the library backs itself up, where a folder is configured; null: not at all. */
    backupEveryDays: integer().default(1),
    /** Whether whoever sends a mail to the library is told that it arrived. */
    answersSenders: boolean().notNull().default(false),
    /** Where content is kept that comes in. */
    contentStore: text({ enum: storeNames }).notNull().default('rows'),
    revision: integer().notNull().default(0),
    /** The day for which `membership` was last worked out, in the library's time zone. */
    membershipDay: date({ mode: 'string' }),
  },
  (table) => [check('library_is_one', sql`${table.id} = 1`)],
);

/**
 * Anything that can contain papers or places. `lineage` has the ids from the library down to the place itself, so that
 * everything below a place is one condition: `lineage @> array[id]`.
 */
export const place = pgTable(
  'place',
  {
    id: uuid().primaryKey().defaultRandom(),
    parentId: uuid().references((): AnyPgColumn => place.id),
    kind: text({ enum: placeKinds }).notNull(),
    name: naturalText().notNull(),
    nameKey: text().notNull(),
    searchKey: text().notNull(),
    reference: text(),
    referencePattern: text(),
    filingYear: integer(),
    position: integer().notNull(),
    colour: text({ enum: hues }),
    closed: boolean().notNull().default(false),
    /** While locked, nothing here or below can be changed. */
    locked: boolean().notNull().default(false),
    follows: boolean().notNull().default(true),
    scopeId: uuid().references((): AnyPgColumn => scope.id),
    /** For a meeting's folder: the day of the meeting. */
    meetingDay: date({ mode: 'string' }),
    /** Which planned folder it was made from, and for which year or meeting; null if a person made it. */
    plannedKey: text(),
    /** The name that the plan last gave it. */
    plannedName: text(),
    /** For a common folder: where in each dossier of its series it is shown (`core/places/common`); null for other places. */
    seenIn: text(),
    /** For a dossier: its details, by the fields of its series. */
    details: jsonb().$type<Details>().notNull().default({}),
    /** What it gives to papers, from its own sheet and those above. Derived by `recomputeGiven`. */
    fixedValues: jsonb().$type<Values>().notNull().default({}),
    offeredValues: jsonb().$type<Values>().notNull().default({}),
    lineage: uuid().array().notNull(),
    revision: integer().notNull().default(0),
    accessRevision: integer().notNull().default(0),
    createdAt: instant().notNull().defaultNow(),
    createdBy: uuid().references(() => person.id),
  },
  (table) => [
    index('place_beside').on(table.parentId, table.nameKey),
    uniqueIndex('place_reference_taken')
      .on(table.parentId, table.reference)
      .where(sql`${table.kind} = 'dossier'`),
    uniqueIndex('place_year_once')
      .on(table.parentId, table.filingYear)
      .where(sql`${table.kind} = 'year'`),
    uniqueIndex('place_one_library')
      .on(table.kind)
      .where(sql`${table.kind} = 'library'`),
    index('place_common')
      .on(table.parentId)
      .where(sql`${table.seenIn} is not null`),
    index('place_planned').on(table.plannedKey),
    index('place_lineage').using('gin', table.lineage),
    // Finds places by their dossier, and gives the planner statistics about it.
    index('place_dossier').on(sql`(${table.lineage}[3])`),
    index('place_still')
      .on(table.id)
      .where(sql`${table.closed} or ${table.locked}`),
    index('place_scope').on(table.scopeId),
    index('place_search').using('gin', sql`${table.searchKey} gin_trgm_ops`),
    check('place_lineage_ends_in_itself', sql`${table.lineage}[array_length(${table.lineage}, 1)] = ${table.id}`),
  ],
);

/**
 * One line of the access sheet of a place or a paper: what it gives or withholds, and to whom. Exactly one of the two
 * and one of the three subjects is set. (References to papers and groups stand in the migration: their tables are
 * declared above this one.)
 */
export const accessGrant = pgTable(
  'access_grant',
  {
    id: uuid().primaryKey().defaultRandom(),
    placeId: uuid().references(() => place.id, { onDelete: 'cascade' }),
    documentId: uuid(),
    personId: uuid().references(() => person.id),
    groupId: uuid().references(() => personGroup.id, { onDelete: 'cascade' }),
    everyone: boolean().notNull().default(false),
    gives: smallint().notNull(),
    withholds: smallint().notNull().default(0),
    /** Who granted it, and when. */
    givenBy: uuid().references(() => person.id),
    givenAt: instant().notNull().defaultNow(),
  },
  (table) => [
    unique('access_grant_once')
      .on(table.placeId, table.documentId, table.personId, table.groupId, table.everyone)
      .nullsNotDistinct(),
    index('access_grant_document').on(table.documentId),
    check('access_grant_one_object', sql`(${table.placeId} is not null) <> (${table.documentId} is not null)`),
    check(
      'access_grant_one_subject',
      sql`(${table.personId} is not null)::int + (${table.groupId} is not null)::int + ${table.everyone}::int = 1`,
    ),
  ],
);

/**
 * A set of access shared by a place and the places below it that add nothing. It belongs to the highest of them. A paper
 * with access of its own has one for itself.
 */
export const scope = pgTable(
  'scope',
  {
    id: uuid().primaryKey().defaultRandom(),
    placeId: uuid()
      .unique()
      .references((): AnyPgColumn => place.id, { onDelete: 'cascade' }),
    documentId: uuid().unique(),
  },
  (table) => [check('scope_one_owner', sql`(${table.placeId} is not null) <> (${table.documentId} is not null)`)],
);

/** Capabilities of a person in a scope, derived by `core/access`. Only people with `see` have a row. */
export const scopeEntry = pgTable(
  'scope_entry',
  {
    scopeId: uuid()
      .notNull()
      .references(() => scope.id, { onDelete: 'cascade' }),
    personId: uuid()
      .notNull()
      .references(() => person.id),
    capabilities: smallint().notNull(),
    /** For a paper's scope: the person sees the paper only through a cross-filing, and is not told its home. */
    byOpening: boolean().notNull().default(false),
  },
  (table) => [
    uniqueIndex('scope_entry_once').on(table.personId, table.scopeId),
    index('scope_entry_scope').on(table.scopeId),
  ],
);
