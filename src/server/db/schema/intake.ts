import { sql } from 'drizzle-orm';
import { boolean, index, integer, jsonb, pgTable, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core';
import type { RuleCondition } from '@/core/intake/filingRule';
import { arrivalStates, arrivalWays, type Proposal } from '@/core/intake/model';
import { blob } from './documents';
import { person } from './people';
import { place } from './places';
import { instant } from './types';

/** What has arrived and is to be checked, or was. It is there before its sender is told that it was taken. */
export const arrival = pgTable(
  'arrival',
  {
    id: uuid().primaryKey().defaultRandom(),
    way: text({ enum: arrivalWays }).notNull(),
    arrivedAt: instant().notNull(),
    /** What arrived, as it came. */
    sha256: text()
      .notNull()
      .references(() => blob.sha256),
    fileName: text().notNull(),
    mediaType: text().notNull(),
    /** From whom the sending server said that it comes; '' for a report of delivery. */
    envelopeFrom: text().notNull(),
    /** To which addresses. */
    sentTo: text().array().notNull(),
    state: text({ enum: arrivalStates }).notNull().default('unread'),
    /** The same for what arrives again: sender, subject, words and attachments. Null until it is read. */
    sameKey: text(),
    /** From whom it says that it is, and about what; '' until it is read. */
    senderAddress: text().notNull().default(''),
    senderName: text().notNull().default(''),
    subject: text().notNull().default(''),
    /** Bank accounts and tax numbers that it names: what was filed with them teaches whose they are. */
    identifiers: text().array().notNull().default([]),
    proposal: jsonb().$type<Proposal>(),
    /** The dossier that is likeliest, or in which it was filed: whoever may add there may check it. */
    dossierId: uuid().references(() => place.id, { onDelete: 'set null' }),
    /** The papers that it became. */
    documentIds: uuid().array().notNull().default([]),
    doneBy: uuid().references(() => person.id),
    doneAt: instant(),
    revision: integer().notNull().default(0),
  },
  (table) => [
    index('arrival_state').on(table.state, table.arrivedAt),
    index('arrival_sender').on(table.senderAddress),
    index('arrival_identifiers').using('gin', table.identifiers),
    index('arrival_content').on(table.sha256),
    uniqueIndex('arrival_once')
      .on(table.sameKey)
      .where(sql`${table.state} <> 'again'`),
  ],
);

/** Filing rules, in the order in which they are looked at. */
export const filingRule = pgTable('filing_rule', {
  id: uuid().primaryKey().defaultRandom(),
  name: text().notNull(),
  on: boolean().notNull().default(true),
  conditions: jsonb().$type<readonly RuleCondition[]>().notNull(),
  /** Null: it was removed, and the rule does nothing. */
  placeId: uuid().references(() => place.id, { onDelete: 'set null' }),
  /** The pattern of its papers' titles; '' for none. */
  title: text().notNull(),
  position: integer().notNull(),
  revision: integer().notNull().default(0),
});
