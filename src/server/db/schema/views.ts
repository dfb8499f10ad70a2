import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  customType,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core';
import { audiences } from '@/core/views/saved';
import type { ViewSpec } from '@/core/views/spec';
import { person, personGroup } from './people';
import { place } from './places';
import { naturalText } from './types';

const xid8 = customType<{ data: string }>({ dataType: () => 'xid8' });

/** A saved view of a place, or, at the library's root, of the whole library. */
export const view = pgTable(
  'view',
  {
    id: uuid().primaryKey().defaultRandom(),
    placeId: uuid()
      .notNull()
      .references(() => place.id, { onDelete: 'cascade' }),
    ownerId: uuid()
      .notNull()
      .references(() => person.id),
    name: naturalText().notNull(),
    nameKey: text().notNull(),
    purpose: text().notNull().default(''),
    audience: text({ enum: audiences }).notNull(),
    spec: jsonb().$type<ViewSpec>().notNull(),
    /** Whether it opens by default, here and in every place below without a default view of its own. */
    opensHere: boolean().notNull().default(false),
    position: integer().notNull(),
    revision: integer().notNull().default(0),
  },
  (table) => [index('view_place').on(table.placeId, table.position)],
);

/** The groups to which a view is offered. */
export const viewGroup = pgTable(
  'view_group',
  {
    viewId: uuid()
      .notNull()
      .references(() => view.id, { onDelete: 'cascade' }),
    groupId: uuid()
      .notNull()
      .references(() => personGroup.id, { onDelete: 'cascade' }),
  },
  (table) => [primaryKey({ columns: [table.viewId, table.groupId] })],
);

/** When someone last visited a place, and the time before. */
export const look = pgTable(
  'look',
  {
    personId: uuid()
      .notNull()
      .references(() => person.id),
    placeId: uuid()
      .notNull()
      .references(() => place.id, { onDelete: 'cascade' }),
    at: timestamp({ withTimezone: true, mode: 'date' }).notNull(),
    before: timestamp({ withTimezone: true, mode: 'date' }),
  },
  (table) => [primaryKey({ columns: [table.personId, table.placeId] })],
);

/**
 * The feed of changes for copies in memory. Triggers write it in the changing transaction, with that transaction's id;
 * readers take what their last snapshot could not see. Old rows are swept.
 */
export const tallyChange = pgTable(
  'tally_change',
  {
    id: bigint({ mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    xid: xid8()
      .notNull()
      .default(sql`pg_current_xact_id()`),
    at: timestamp({ withTimezone: true, mode: 'date' }).notNull().defaultNow(),
    subject: text({ enum: ['paper', 'place', 'world'] }).notNull(),
    /** The paper's or place's id; null for a change to the tables that views take names from. */
    subjectId: uuid(),
  },
  (table) => [index('tally_change_xid').on(table.xid), index('tally_change_at').on(table.at)],
);
