import { bigint, boolean, index, integer, pgTable, primaryKey, uuid } from 'drizzle-orm/pg-core';
import { document, version } from './documents';
import { person } from './people';
import { bytea, instant } from './types';

/** A paper that is written in the browser. */
export const note = pgTable('note', {
  documentId: uuid()
    .primaryKey()
    .references(() => document.id, { onDelete: 'cascade' }),
  /** The version that its text was last kept as, or taken from. Another current version means that it is begun anew. */
  versionId: uuid()
    .notNull()
    .references(() => version.id, { onDelete: 'cascade' }),
  /** Raised whenever the text is begun anew from a version: changes to the text as it was before no longer fit. */
  round: integer().notNull(),
  /** The last change that the version contains. */
  keptNumber: bigint({ mode: 'number' }).notNull(),
  /** Whether it is offered as a start for new notes. */
  isStart: boolean().notNull().default(false),
});

/** Changes to a note's text in the order in which they came, as Yjs encodes them. Only browsers and caged readers look into them. */
export const noteChange = pgTable(
  'note_change',
  {
    documentId: uuid()
      .notNull()
      .references(() => note.documentId, { onDelete: 'cascade' }),
    number: bigint({ mode: 'number' }).notNull(),
    round: integer().notNull(),
    change: bytea().notNull(),
    /** Null for what the library began with. */
    personId: uuid().references(() => person.id),
    at: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.documentId, table.number] })],
);

/** Who has a note open for writing, and when they were last heard of. */
export const noteWriter = pgTable(
  'note_writer',
  {
    documentId: uuid()
      .notNull()
      .references(() => note.documentId, { onDelete: 'cascade' }),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    at: instant().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.documentId, table.personId] }),
    index('note_writer_person').on(table.personId),
  ],
);
