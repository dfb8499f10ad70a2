import { bigint, boolean, index, integer, pgTable, primaryKey, smallint, text, uuid } from 'drizzle-orm/pg-core';
import { doorEventNames } from '@/core/people/account';
import { person } from './people';
import { instant } from './types';

/** A person's second step: secret and recovery codes, both encrypted under the library's secret. The sign-in library's own table. */
export const twoFactor = pgTable('two_factor', {
  id: uuid().primaryKey().defaultRandom(),
  secret: text().notNull(),
  backupCodes: text().notNull(),
  userId: uuid()
    .notNull()
    .unique()
    .references(() => person.id),
  verified: boolean().notNull().default(true),
  failedVerificationCount: integer().notNull().default(0),
  lockedUntil: instant(),
});

/** Codes of the second step that have been used: each works once (RFC 6238, section 5.2). */
export const usedCode = pgTable(
  'used_code',
  {
    personId: uuid()
      .notNull()
      .references(() => person.id),
    /** SHA-256 of the code. */
    codeHash: text().notNull(),
    usedAt: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.personId, table.codeHash] })],
);

/** The sign-in journal. */
export const doorEvent = pgTable(
  'door_event',
  {
    id: bigint({ mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    at: instant().notNull(),
    event: text({ enum: doorEventNames }).notNull(),
    /** The e-mail address as typed, in lower case; empty if it was not a valid address. */
    email: text().notNull(),
    personId: uuid().references(() => person.id),
    /** The network address. */
    address: text().notNull(),
    agent: text().notNull(),
  },
  (table) => [
    index('door_event_email').on(table.email, table.id),
    index('door_event_address').on(table.address, table.id),
    index('door_event_person').on(table.personId, table.id),
  ],
);

/** A token with which a program acts for a person, with at most these capabilities. Only its SHA-256 is stored. */
export const apiToken = pgTable(
  'api_token',
  {
    id: uuid().primaryKey().defaultRandom(),
    personId: uuid()
      .notNull()
      .references(() => person.id),
    name: text().notNull(),
    tokenHash: text().notNull().unique(),
    capabilities: smallint().notNull(),
    createdAt: instant().notNull().defaultNow(),
    expiresAt: instant().notNull(),
    usedAt: instant(),
    withdrawnAt: instant(),
  },
  (table) => [index('api_token_person').on(table.personId)],
);
