import { date, pgTable, primaryKey, smallint, text, uuid } from 'drizzle-orm/pg-core';
import { followKinds } from '@/core/follow/contract';
import { summaryEvery } from '@/core/follow/summary';
import { person } from './people';
import { instant } from './types';

/** What people follow, each their own. What is gone or closed to them says nothing. */
export const follow = pgTable(
  'follow',
  {
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    kind: text({ enum: followKinds }).notNull(),
    ref: uuid().notNull(),
    at: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.personId, table.kind, table.ref] })],
);

/** When people are told by mail of what they follow. */
export const followMail = pgTable('follow_mail', {
  personId: uuid()
    .primaryKey()
    .references(() => person.id, { onDelete: 'cascade' }),
  every: text({ enum: summaryEvery }).notNull(),
  hour: smallint().notNull(),
  weekday: smallint().notNull(),
  /** The day of the last one, in the library's time zone, and from when on the next one tells. */
  sentDay: date({ mode: 'string' }),
  since: instant().notNull(),
});
