import { sql } from 'drizzle-orm';
import { boolean, check, date, index, integer, jsonb, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import { sealStates, signAnswers, signOffStates, signOffWays, signProofs, type Drawn } from '@/core/signoff/model';
import { document, version } from './documents';
import { meeting } from './filing';
import { person } from './people';
import { place } from './places';
import { outsideLink } from './sharing';
import { instant, naturalText } from './types';

/** People are asked to sign or approve one exact version, or have done so on paper. */
export const signOff = pgTable(
  'sign_off',
  {
    id: uuid().primaryKey().defaultRandom(),
    /** Null once the paper is destroyed: its signed copy still knows that it is one. */
    documentId: uuid().references(() => document.id, { onDelete: 'set null' }),
    versionId: uuid().references(() => version.id, { onDelete: 'set null' }),
    way: text({ enum: signOffWays }).notNull(),
    state: text({ enum: signOffStates }).notNull(),
    wording: text().notNull().default(''),
    inTurn: boolean().notNull(),
    /** How many have to agree. */
    needed: integer().notNull(),
    dueOn: date({ mode: 'string' }),
    /** So many days before that day people are reminded. */
    remindDays: integer().notNull(),
    askedBy: uuid()
      .notNull()
      .references(() => person.id),
    askedAt: instant().notNull(),
    endedAt: instant(),
    /** Why it was withdrawn. */
    endReason: text().notNull().default(''),
    /** Where the signed copy is filed; null: where the paper is. */
    placeId: uuid().references(() => place.id, { onDelete: 'set null' }),
    /** The expected paper that it is; null: none. */
    expectationId: uuid(),
    dossierId: uuid().references(() => place.id, { onDelete: 'set null' }),
    startYear: integer(),
    meetingId: uuid().references(() => meeting.id, { onDelete: 'set null' }),
    sealState: text({ enum: sealStates }).notNull(),
    sealTries: integer().notNull().default(0),
    /** The signed copy, or the scan of what was signed on paper; it may be gone. */
    signedId: uuid().references(() => document.id, { onDelete: 'set null' }),
    /** Of the signed copy as it was sealed. */
    signedSha256: text(),
  },
  (table) => [
    index('sign_off_document').on(table.documentId),
    index('sign_off_signed').on(table.signedId),
    index('sign_off_open')
      .on(table.askedBy)
      .where(sql`${table.state} = 'open'`),
    index('sign_off_to_seal')
      .on(table.id)
      .where(sql`${table.sealState} = 'waiting'`),
    check('sign_off_needed', sql`${table.needed} >= 1`),
  ],
);

/** One who is asked, in the order in which they are. */
export const signer = pgTable(
  'signer',
  {
    id: uuid().primaryKey().defaultRandom(),
    signOffId: uuid()
      .notNull()
      .references(() => signOff.id, { onDelete: 'cascade' }),
    position: integer().notNull(),
    /** Null: somebody without an account, or who signed on paper. */
    personId: uuid().references(() => person.id),
    name: naturalText().notNull(),
    /** Of somebody without an account: where they are asked, and by which link. */
    email: text(),
    linkId: uuid().references(() => outsideLink.id, { onDelete: 'set null' }),
    answer: text({ enum: signAnswers }),
    reason: text().notNull().default(''),
    answeredAt: instant(),
    proof: text({ enum: signProofs }),
    /** Of somebody without an account: from where, with what, and the name as they typed or drew it. */
    address: text().notNull().default(''),
    agent: text().notNull().default(''),
    typedName: text().notNull().default(''),
    drawn: jsonb().$type<Drawn>(),
    askedAt: instant(),
    /** How many reminders were sent. */
    reminders: integer().notNull().default(0),
  },
  (table) => [
    unique('signer_position').on(table.signOffId, table.position),
    unique('signer_once').on(table.signOffId, table.personId),
    unique('signer_link').on(table.linkId),
    index('signer_person')
      .on(table.personId)
      .where(sql`${table.answer} is null`),
    check('signer_answered', sql`(${table.answer} is null) = (${table.answeredAt} is null)`),
  ],
);

/** The certificates with which this library seals, newest last in use. Their keys are encrypted with the library's secret. */
export const sealCertificate = pgTable('seal_certificate', {
  /** SHA-256 of the certificate. */
  fingerprint: text().primaryKey(),
  /** X.509, DER in Base64. */
  certificate: text().notNull(),
  sealedKey: text().notNull(),
  madeAt: instant().notNull(),
});
