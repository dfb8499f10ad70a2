import { index, jsonb, pgTable, primaryKey, text, uuid, doublePrecision } from 'drizzle-orm/pg-core';
import { bookmarkKinds, type Arrangement } from '@/core/desk/model';
import { person } from './people';
import { instant } from './types';

/** A person's own ways back to papers, places, views and searches. */
export const bookmark = pgTable(
  'bookmark',
  {
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    kind: text({ enum: bookmarkKinds }).notNull(),
    /** The id of what it is on, which may be gone; of a search its address. */
    ref: text().notNull(),
    /** What the person calls a search. */
    name: text().notNull().default(''),
    position: doublePrecision().notNull(),
    at: instant().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.personId, table.kind, table.ref] }),
    index('bookmark_order').on(table.personId, table.position),
  ],
);

/** How a person has their desk. */
export const deskArrangement = pgTable('desk_arrangement', {
  personId: uuid()
    .primaryKey()
    .references(() => person.id, { onDelete: 'cascade' }),
  arrangement: jsonb().$type<Arrangement>().notNull(),
});
