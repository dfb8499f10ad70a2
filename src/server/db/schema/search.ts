import { index, integer, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import { blob } from './documents';
import { person } from './people';
import { bytea, instant, termText } from './types';

/**
 * A text that is indexed, by its number: a text that is read again takes a new one, and what the index still has of the old
 * number answers nothing.
 */
export const searchText = pgTable('search_text', {
  sha256: text()
    .primaryKey()
    .references(() => blob.sha256, { onDelete: 'cascade' }),
  /** Ascending in the order in which they are committed. */
  number: integer().notNull().unique(),
  /** In which its words were stemmed (ISO 639-1). */
  language: text().notNull(),
  /** How many words it has. */
  length: integer().notNull(),
});

/**
 * In which texts of a segment a term stands, and where (`core/search/postings.ts`). A segment is a run of texts in the order
 * of their numbers, named by its first; at first each text is one, and neighbours are merged.
 */
export const searchPost = pgTable(
  'search_post',
  {
    term: termText().notNull(),
    segment: integer().notNull(),
    /** How many texts there are in it. */
    texts: integer().notNull(),
    docs: bytea().notNull(),
    pos: bytea().notNull(),
  },
  (table) => [primaryKey({ columns: [table.term, table.segment] }), index('search_post_segment').on(table.segment)],
);

/** The segments of the index: how many texts were put into each. */
export const searchSegment = pgTable('search_segment', {
  segment: integer().primaryKey(),
  texts: integer().notNull(),
});

/** What people looked for lately: private to each of them. */
export const recentSearch = pgTable(
  'recent_search',
  {
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    words: text().notNull(),
    at: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.personId, table.words] })],
);
