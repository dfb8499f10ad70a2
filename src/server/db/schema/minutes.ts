import { date, index, integer, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { outcomeKinds } from '@/core/minutes/model';
import { agendaItem } from './agenda';
import { document, version } from './documents';
import { meeting } from './filing';
import { person } from './people';
import { instant, naturalText } from './types';

/** The minutes of a meeting: a paper of the library. */
export const minutes = pgTable('minutes', {
  meetingId: uuid()
    .primaryKey()
    .references(() => meeting.id, { onDelete: 'cascade' }),
  documentId: uuid()
    .notNull()
    .references(() => document.id, { onDelete: 'cascade' }),
  /** The later meeting that agreed them, and in which version. */
  agreedAt: uuid().references(() => meeting.id, { onDelete: 'set null' }),
  agreedVersionId: uuid().references(() => version.id, { onDelete: 'set null' }),
});

/** A decision, or an action, to which an item of an agenda came. Who may know of the item may know of it. */
export const itemOutcome = pgTable(
  'item_outcome',
  {
    id: uuid().primaryKey().defaultRandom(),
    itemId: uuid()
      .notNull()
      .references(() => agendaItem.id, { onDelete: 'cascade' }),
    kind: text({ enum: outcomeKinds }).notNull(),
    text: naturalText().notNull(),
    /** Who does it. Null: somebody without an account, or nobody yet. */
    personId: uuid().references(() => person.id),
    who: naturalText().notNull().default(''),
    dueOn: date({ mode: 'string' }),
    doneAt: instant(),
    doneBy: uuid().references(() => person.id),
    doneRemark: text().notNull().default(''),
    /** Its line as it stands in the minutes; null: it does not. */
    written: text(),
    position: integer().notNull(),
    revision: integer().notNull().default(0),
    recordedAt: instant().notNull(),
    removedAt: instant(),
  },
  (table) => [index('item_outcome_item').on(table.itemId), index('item_outcome_person').on(table.personId)],
);
