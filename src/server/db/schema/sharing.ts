import { sql } from 'drizzle-orm';
import { bigint, boolean, check, index, integer, jsonb, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import type { SharedView } from '@/core/outside/model';
import { document } from './documents';
import { person } from './people';
import { place } from './places';
import { instant } from './types';

/** A way to one paper, or to what a view shows, for someone without an account: only the SHA-256 of its token is kept. */
export const outsideLink = pgTable(
  'outside_link',
  {
    id: uuid().primaryKey().defaultRandom(),
    tokenHash: text().notNull().unique(),
    documentId: uuid().references(() => document.id, { onDelete: 'cascade' }),
    placeId: uuid().references(() => place.id, { onDelete: 'cascade' }),
    /** What the view of the place asks for; null for a paper. */
    view: jsonb().$type<SharedView>(),
    /** The one it is for, who proves it by a code sent there; null for anyone with the link. */
    email: text(),
    passwordHash: text(),
    /** Whether copies may be taken. */
    copies: boolean().notNull(),
    expiresAt: instant().notNull(),
    /** How often it may be opened; null without a limit. */
    mostOpenings: integer(),
    madeBy: uuid()
      .notNull()
      .references(() => person.id),
    madeAt: instant().notNull(),
    withdrawnAt: instant(),
    withdrawnBy: uuid().references(() => person.id),
    /** Wrong passwords and codes since it was last opened. */
    wrongTries: integer().notNull().default(0),
    codeHash: text(),
    codeUntil: instant(),
  },
  (table) => [
    index('outside_link_document').on(table.documentId),
    index('outside_link_place').on(table.placeId),
    check('outside_link_one_object', sql`(${table.documentId} is not null) <> (${table.placeId} is not null)`),
    check('outside_link_view', sql`(${table.placeId} is not null) = (${table.view} is not null)`),
  ],
);

/** Each time an outside link was opened. Who did holds a visit token, kept as its SHA-256, for the rest of the day. */
export const outsideOpening = pgTable(
  'outside_opening',
  {
    id: bigint({ mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    linkId: uuid()
      .notNull()
      .references(() => outsideLink.id, { onDelete: 'cascade' }),
    visitHash: text().notNull().unique(),
    at: instant().notNull(),
    until: instant().notNull(),
    address: text().notNull(),
    agent: text().notNull(),
  },
  (table) => [index('outside_opening_link').on(table.linkId, table.id)],
);

/** What someone has done with what was opened to them: seen it, or taken it out of their list. */
export const passedMark = pgTable(
  'passed_mark',
  {
    id: bigint({ mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    personId: uuid()
      .notNull()
      .references(() => person.id),
    placeId: uuid().references(() => place.id, { onDelete: 'cascade' }),
    documentId: uuid().references(() => document.id, { onDelete: 'cascade' }),
    seenAt: instant(),
    /** What is opened again after this is in the list again. */
    takenOutAt: instant(),
  },
  (table) => [
    unique('passed_mark_once').on(table.personId, table.placeId, table.documentId).nullsNotDistinct(),
    check('passed_mark_one_object', sql`(${table.placeId} is not null) <> (${table.documentId} is not null)`),
  ],
);
