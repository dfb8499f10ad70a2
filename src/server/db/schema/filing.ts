import { boolean, date, index, integer, jsonb, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { DetailField } from '@/core/dossiers/details';
import type { Expectation } from '@/core/plans/expectation';
import type { PlannedFolder } from '@/core/plans/plan';
import { document } from './documents';
import { person } from './people';
import { place } from './places';
import { instant } from './types';

/** The plan of a series: the folders, expected papers and details of each of its dossiers. */
export const filingPlan = pgTable('filing_plan', {
  seriesId: uuid()
    .primaryKey()
    .references(() => place.id, { onDelete: 'cascade' }),
  /** Whether dossiers of the series have a place for each filing year. */
  byYear: boolean().notNull().default(true),
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

/** A person's statement about one expected paper: which paper it is, or that it is not needed. */
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
    /** The paper; null if none is needed. */
    documentId: uuid().references(() => document.id, { onDelete: 'cascade' }),
    /** Why none is needed. */
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

/** The library's filing years, each by the calendar year in which it starts. */
export const filingYear = pgTable('filing_year', {
  startYear: integer().primaryKey(),
  /** A closed year takes no papers in any dossier, and new dossiers get no place for it. */
  closed: boolean().notNull().default(false),
});
