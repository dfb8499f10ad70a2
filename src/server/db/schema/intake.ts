import { sql } from 'drizzle-orm';
import {
  bigint,
  boolean,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import type { CutPaper } from '@/core/intake/cut';
import type { Joining } from '@/core/intake/join';
import type { RuleCondition } from '@/core/intake/filingRule';
import { arrivalStates, arrivalWays, receiptStates, type Proposal, type Said } from '@/core/intake/model';
import type { SenderCheck } from '@/core/intake/senderChecks';
import { storeStates, type WayInSettings } from '@/core/intake/wayIn';
import { blob } from './documents';
import { person } from './people';
import { place } from './places';
import { instant } from './types';

/** From where the library fetches what arrives, and how far it has got there. */
export const wayIn = pgTable('way_in', {
  id: uuid().primaryKey().defaultRandom(),
  name: text().notNull(),
  on: boolean().notNull().default(true),
  settings: jsonb().$type<WayInSettings>().notNull(),
  /** The password for a mailbox or a store, locked with the library’s secret; null where none is needed. */
  lockedPassword: text(),
  /** Up to where all is taken; null: from the beginning. */
  reached: jsonb().$type<Reached>(),
  /** The last wish to have it looked at, by number, and the last that a look has met: what is wished during a look wants another. */
  looksWanted: integer().notNull().default(1),
  looksMet: integer().notNull().default(0),
  lookedAt: instant(),
  tookAt: instant(),
  /** Why the last look came to nothing, or what it left, in words; null: all is well. */
  fault: text(),
  /** It was removed, and can be had back for a day; null: it is there. */
  removedAt: instant(),
  revision: integer().notNull().default(0),
});

/** How far the library has got: of a mailbox its validity and the last number (RFC 9051, 2.3.1.1); of a file of mails, by name, its bytes. */
export interface Reached {
  readonly validity?: string;
  readonly uid?: number;
  readonly files?: Readonly<Record<string, { readonly bytes: number; readonly changedMs: number }>>;
}

/** What lay in a connected store at the last look. */
export const storePaper = pgTable(
  'store_paper',
  {
    wayInId: uuid()
      .notNull()
      .references(() => wayIn.id, { onDelete: 'cascade' }),
    /** Below the folder of the store. */
    path: text().notNull(),
    sizeBytes: bigint({ mode: 'number' }).notNull(),
    changedAt: instant(),
    /** What changes with its content: its tag (RFC 9110, 8.8.3), or when it was changed, and its size. */
    edition: text().notNull(),
    state: text({ enum: storeStates }).notNull().default('there'),
  },
  (table) => [primaryKey({ columns: [table.wayInId, table.path] })],
);

/** What has arrived and is to be checked, or was. It is there before its sender is told that it was taken. */
export const arrival = pgTable(
  'arrival',
  {
    id: uuid().primaryKey().defaultRandom(),
    way: text({ enum: arrivalWays }).notNull(),
    /** The way in by which it was fetched; null: it was sent to the library, or that way is gone. */
    wayInId: uuid().references(() => wayIn.id, { onDelete: 'set null' }),
    /** The same for what is fetched once more from the same place: it is not kept twice. Null: it was sent. */
    origin: text().unique(),
    arrivedAt: instant().notNull(),
    /** What arrived, as it came. */
    sha256: text()
      .notNull()
      .references(() => blob.sha256),
    fileName: text().notNull(),
    mediaType: text().notNull(),
    /** From whom the sending server said that it comes; '' for a report of delivery; null: that is not known. */
    envelopeFrom: text(),
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
    /** What the mail server that fetched it found out about its sender. */
    senderChecks: jsonb().$type<readonly SenderCheck[]>().notNull().default([]),
    proposal: jsonb().$type<Proposal>(),
    /** The dossier that is likeliest, or in which it was filed: whoever may add there may check it. */
    dossierId: uuid().references(() => place.id, { onDelete: 'set null' }),
    /** The papers that it became. */
    documentIds: uuid().array().notNull().default([]),
    /** Those of them that were there, and got a newer version: by the number of it. */
    versions: jsonb().$type<Readonly<Record<string, number>>>().notNull().default({}),
    /** Who was told of them. */
    told: uuid().array().notNull().default([]),
    doneBy: uuid().references(() => person.id),
    doneAt: instant(),
    /** What whoever filed it did otherwise than proposed, in words; null: it was filed before that was noted, or is not filed. */
    corrected: text().array(),
    /** The filing rule that is to file it by itself, and has not yet. */
    fileBy: uuid().references((): AnyPgColumn => filingRule.id, { onDelete: 'set null' }),
    /** A person has had to do with it: no rule files it by itself. */
    isPersons: boolean().notNull().default(false),
    /** The name of the rule that filed it by itself; null: a person did. */
    byRule: text(),
    /** Why what was to be done with it by itself was not, in words. */
    leftBecause: text(),
    /** The scan of which it is a part. */
    partOf: uuid().references((): AnyPgColumn => arrival.id, { onDelete: 'set null' }),
    /** The reference on the separator sheet before it. */
    sheetReference: text(),
    /** How it is to be taken apart. */
    cut: jsonb().$type<readonly CutPaper[]>(),
    /** It was taken apart before, or that failed: separators do it no more. */
    cutOnce: boolean().notNull().default(false),
    /** How it is to become one with others, where it is the first of them. */
    joins: jsonb().$type<Joining>(),
    /** The arrival that it becomes, or became, a part of. */
    joinedTo: uuid(),
    /** Who put it into the intake by hand; null: it came by itself. */
    broughtBy: uuid().references(() => person.id),
    /** Who is asked about it, and may check it for that. */
    askedOf: uuid().references(() => person.id),
    /** What was said about it, in its order. */
    said: jsonb().$type<readonly Said[]>().notNull().default([]),
    /** Whether its sender gets a receipt, and when it was sent. */
    receipt: text({ enum: receiptStates }).notNull().default('none'),
    receiptAt: instant(),
    /** It waits again from that day on. */
    putOffUntil: date(),
    revision: integer().notNull().default(0),
  },
  (table) => [
    index('arrival_state').on(table.state, table.arrivedAt),
    index('arrival_parts').on(table.partOf),
    index('arrival_joined').on(table.joinedTo),
    index('arrival_sender').on(table.senderAddress),
    index('arrival_dossier').on(table.dossierId, table.doneAt),
    index('arrival_domain').on(sql`split_part(${table.senderAddress}, '@', 2)`),
    index('arrival_identifiers').using('gin', table.identifiers),
    index('arrival_content').on(table.sha256),
    index('arrival_receipt')
      .on(table.receiptAt)
      .where(sql`${table.receiptAt} is not null`),
    index('arrival_receipt_due')
      .on(table.arrivedAt)
      .where(sql`${table.receipt} = 'due'`),
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
  values: jsonb().$type<Readonly<Record<string, string>>>().notNull().default({}),
  labelIds: uuid().array().notNull().default([]),
  tell: uuid().array().notNull().default([]),
  position: integer().notNull(),
  /** It files by itself what is so sure, in per cent; null: a person agrees. */
  filesFrom: integer(),
  /** Who said so: it files with what they may do. */
  setBy: uuid().references(() => person.id),
  revision: integer().notNull().default(0),
});
