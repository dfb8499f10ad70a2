import { index, pgTable, primaryKey, uuid } from 'drizzle-orm/pg-core';
import { document } from './documents';
import { person } from './people';
import { instant } from './types';

/** Papers that people have in hand, each their own. */
export const inHand = pgTable(
  'in_hand',
  {
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    documentId: uuid()
      .notNull()
      .references(() => document.id, { onDelete: 'cascade' }),
    at: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.personId, table.documentId] }), index('in_hand_paper').on(table.documentId)],
);
