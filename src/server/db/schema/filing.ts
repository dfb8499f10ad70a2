import { boolean, date, index, integer, jsonb, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { DetailField } from '@/core/dossiers/details';
import type { Expectation } from '@/core/plans/expectation';
import type { PlannedFolder } from '@/core/plans/plan';
import { document } from './documents';
import { person } from './people';
import { place } from './places';
import { instant } from './types';

/** How the papers of each dossier of a series are arranged, what is expected of each, and which details each has. */
export const filingPlan = pgTable('filing_plan', {
  seriesId: uuid()
    .primaryKey()
    .references(() => place.id, { onDelete: 'cascade' }),
  folders: jsonb().$type<readonly PlannedFolder[]>().notNull(),
  expected: jsonb().$type<readonly Expectation[]>().notNull().default([]),
  fields: jsonb().$type<readonly DetailField[]>().notNull().default([]),
  revision: integer().notNull().default(0),
});

/** A meeting of a dossier. */
export const meeting = pgTable(
  'meeting',
  {
    id: uuid().primaryKey().defaultRandom(),
    dossierId: uuid()
      .notNull()
      .references(() => place.id, { onDelete: 'cascade' }),
    day: date({ mode: 'string' }).notNull(),
    title: text().notNull(),
    /** Where it is held. */
    venue: text().notNull().default(''),
    revision: integer().notNull().default(0),
  },
  (table) => [index('meeting_dossier').on(table.dossierId, table.day)],
);

/** What someone said of one expected paper: which paper it is, or that it is not needed. */
export const expectedSay = pgTable(
  'expected_say',
  {
    id: uuid().primaryKey().defaultRandom(),
    /** One of `filing_plan.expected` of the series. */
    expectationId: uuid().notNull(),
    dossierId: uuid()
      .notNull()
      .references(() => place.id, { onDelete: 'cascade' }),
    startYear: integer(),
    meetingId: uuid().references(() => meeting.id, { onDelete: 'cascade' }),
    /** The paper that it is; null where it is not needed. */
    documentId: uuid().references(() => document.id, { onDelete: 'cascade' }),
    /** Why it is not needed. */
    reason: text().notNull().default(''),
    saidBy: uuid()
      .notNull()
      .references(() => person.id),
    saidAt: instant().notNull().defaultNow(),
  },
  (table) => [
    unique('expected_say_once')
      .on(table.expectationId, table.dossierId, table.startYear, table.meetingId)
      .nullsNotDistinct(),
    index('expected_say_dossier').on(table.dossierId),
  ],
);

/** The filing years that are kept, each by the calendar year in which it starts. */
export const filingYear = pgTable('filing_year', {
  startYear: integer().primaryKey(),
  /** Nothing is filed in it any more, in no dossier; new dossiers get no place for it. */
  closed: boolean().notNull().default(false),
});
