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

/** A saved way of looking at a place; the library's own place for one of the whole library. */
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
    /** Whether it opens by itself, here and in every place below that has no such view of its own. */
    opensHere: boolean().notNull().default(false),
    position: integer().notNull(),
    revision: integer().notNull().default(0),
  },
  (table) => [index('view_place').on(table.placeId, table.position)],
);

/** The groups that a view is for. */
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

/** When someone looked at a place: this time, and the time before. */
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
 * What has changed, for those who keep a copy in memory: written by triggers in the transaction of the change, under
 * that transaction's id, and read by what a snapshot could not see before. Rows are swept after a while.
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
    /** The paper's or place's id; null for the world. */
    subjectId: uuid(),
  },
  (table) => [index('tally_change_xid').on(table.xid), index('tally_change_at').on(table.at)],
);
