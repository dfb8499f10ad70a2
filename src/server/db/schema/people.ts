import { sql } from 'drizzle-orm';
import { bigint, boolean, check, date, index, integer, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import { groupRoles } from '@/core/people/model';
import { instant, naturalText } from './types';

/** A person who has, or had, an account. Never deleted, since the journal refers to them. */
export const person = pgTable(
  'person',
  {
    id: uuid().primaryKey().defaultRandom(),
    name: naturalText().notNull(),
    email: text().notNull().unique(),
    emailVerified: boolean().notNull().default(false),
    image: text(),
    createdAt: instant().notNull().defaultNow(),
    updatedAt: instant().notNull().defaultNow(),
    keeper: boolean().notNull().default(false),
    active: boolean().notNull().default(true),
    /** Not part of the organisation: an auditor, an adviser. */
    outside: boolean().notNull().default(false),
    /** Whether signing in takes a second step. */
    twoFactorEnabled: boolean().notNull().default(false),
    searchKey: text().notNull().default(''),
    /** Whether what they look for is kept for them. */
    keepsSearches: boolean().notNull().default(true),
  },
  (table) => [index('person_search').using('gin', sql`${table.searchKey} gin_trgm_ops`)],
);

/** Sessions, as the sign-in library keeps them. */
export const session = pgTable(
  'session',
  {
    id: uuid().primaryKey().defaultRandom(),
    token: text().notNull().unique(),
    userId: uuid()
      .notNull()
      .references(() => person.id),
    expiresAt: instant().notNull(),
    ipAddress: text(),
    userAgent: text(),
    createdAt: instant().notNull().defaultNow(),
    updatedAt: instant().notNull().defaultNow(),
  },
  (table) => [index('session_person').on(table.userId)],
);

/** The sign-in library's table of password hashes. */
export const account = pgTable(
  'account',
  {
    id: uuid().primaryKey().defaultRandom(),
    accountId: text().notNull(),
    providerId: text().notNull(),
    userId: uuid()
      .notNull()
      .references(() => person.id),
    accessToken: text(),
    refreshToken: text(),
    idToken: text(),
    accessTokenExpiresAt: instant(),
    refreshTokenExpiresAt: instant(),
    scope: text(),
    password: text(),
    createdAt: instant().notNull().defaultNow(),
    updatedAt: instant().notNull().defaultNow(),
  },
  (table) => [index('account_person').on(table.userId)],
);

/** One-time tokens of the sign-in library. */
export const verification = pgTable('verification', {
  id: uuid().primaryKey().defaultRandom(),
  identifier: text().notNull(),
  value: text().notNull(),
  expiresAt: instant().notNull(),
  createdAt: instant().notNull().defaultNow(),
  updatedAt: instant().notNull().defaultNow(),
});

/** Requests counted by the sign-in library. */
export const rateLimit = pgTable('rate_limit', {
  id: uuid().primaryKey().defaultRandom(),
  key: text().notNull().unique(),
  count: integer().notNull(),
  lastRequest: bigint({ mode: 'number' }).notNull(),
});

/** An invitation to join. Only the SHA-256 of its token is stored. */
export const invitation = pgTable('invitation', {
  id: uuid().primaryKey().defaultRandom(),
  email: text().notNull(),
  name: text().notNull(),
  keeper: boolean().notNull(),
  tokenHash: text().notNull().unique(),
  invitedBy: uuid()
    .notNull()
    .references(() => person.id),
  createdAt: instant().notNull().defaultNow(),
  expiresAt: instant().notNull(),
  usedAt: instant(),
});

/** Groups of people. */
export const personGroup = pgTable('person_group', {
  id: uuid().primaryKey().defaultRandom(),
  name: naturalText().notNull(),
  nameKey: text().notNull().unique(),
  revision: integer().notNull().default(0),
});

/** Whom a session impersonates: a person, or a member of a group. */
export const seeAs = pgTable(
  'see_as',
  {
    sessionId: uuid()
      .primaryKey()
      .references(() => session.id, { onDelete: 'cascade' }),
    personId: uuid().references(() => person.id),
    groupId: uuid().references(() => personGroup.id, { onDelete: 'cascade' }),
  },
  (table) => [check('see_as_one', sql`(${table.personId} is not null) <> (${table.groupId} is not null)`)],
);

/** A term in a group: a person or all members of another group, for how long and in which role. */
export const groupTerm = pgTable(
  'group_term',
  {
    id: uuid().primaryKey().defaultRandom(),
    groupId: uuid()
      .notNull()
      .references(() => personGroup.id, { onDelete: 'cascade' }),
    personId: uuid().references(() => person.id),
    memberGroupId: uuid().references(() => personGroup.id, { onDelete: 'cascade' }),
    role: text({ enum: groupRoles }).notNull().default('member'),
    fromDay: date({ mode: 'string' }),
    /** The last day. */
    untilDay: date({ mode: 'string' }),
  },
  (table) => [
    index('group_term_group').on(table.groupId),
    check('group_term_one_member', sql`(${table.personId} is not null) <> (${table.memberGroupId} is not null)`),
    check('group_term_in_order', sql`${table.fromDay} <= ${table.untilDay}`),
  ],
);

/** Who belongs to a group today, directly or through nested groups. Derived from the terms by `recomputeMemberships`. */
export const membership = pgTable(
  'membership',
  {
    groupId: uuid()
      .notNull()
      .references(() => personGroup.id, { onDelete: 'cascade' }),
    personId: uuid()
      .notNull()
      .references(() => person.id),
  },
  (table) => [primaryKey({ columns: [table.groupId, table.personId] }), index('membership_person').on(table.personId)],
);
