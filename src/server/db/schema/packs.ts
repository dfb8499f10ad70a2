import { sql } from 'drizzle-orm';
import {
  boolean,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import { entryKinds, issueFaults, issueStates, stampPlaces } from '@/core/packs/model';
import type { PackRecord } from '@/core/packs/record';
import { agendaItem } from './agenda';
import { blob, document, version } from './documents';
import { meeting } from './filing';
import { person } from './people';
import { place } from './places';
import { bytea, instant, naturalText } from './types';

/** A picture on a cover, a JPEG. It never changes: another one is another row, and issues keep theirs. */
export const packPicture = pgTable('pack_picture', {
  id: uuid().primaryKey().defaultRandom(),
  picture: bytea().notNull(),
  setBy: uuid()
    .notNull()
    .references(() => person.id),
  setAt: instant().notNull(),
});

/** A pack while it is put together. */
export const pack = pgTable(
  'pack',
  {
    id: uuid().primaryKey().defaultRandom(),
    /** Where it belongs: whoever may amend there puts it together, and whoever may see there reads what is issued. */
    placeId: uuid()
      .notNull()
      .references(() => place.id),
    meetingId: uuid().references(() => meeting.id, { onDelete: 'set null' }),
    name: naturalText().notNull(),
    description: text().notNull().default(''),
    preparedBy: text().notNull().default(''),
    forWhom: text().notNull().default(''),
    day: date({ mode: 'string' }),
    /** On the cover. */
    pictureId: uuid().references(() => packPicture.id),
    stampPlace: text({ enum: stampPlaces }).notNull().default('bottomRight'),
    /** Whether each section begins with a sheet of its own. */
    sheets: boolean().notNull().default(true),
    revision: integer().notNull().default(0),
    madeBy: uuid()
      .notNull()
      .references(() => person.id),
    madeAt: instant().notNull(),
  },
  (table) => [index('pack_place').on(table.placeId), index('pack_meeting').on(table.meetingId)],
);

/** A section of a pack, or a paper in it. Positions are depth first over the whole pack. */
export const packEntry = pgTable(
  'pack_entry',
  {
    id: uuid().primaryKey(),
    packId: uuid()
      .notNull()
      .references(() => pack.id, { onDelete: 'cascade' }),
    parentId: uuid(),
    position: integer().notNull(),
    kind: text({ enum: entryKinds }).notNull(),
    /** As the pack has it; the paper's own title is not touched. */
    title: naturalText().notNull(),
    documentId: uuid().references(() => document.id, { onDelete: 'cascade' }),
    /** The version that is held; null: the newest when it is issued. */
    versionId: uuid().references(() => version.id, { onDelete: 'cascade' }),
    /** Which of its pages, as people write them; empty: all. */
    pages: text().notNull().default(''),
    confidential: boolean().notNull().default(false),
    /** The item of the agenda that a section is of. */
    itemId: uuid().references(() => agendaItem.id, { onDelete: 'set null' }),
    removedAt: instant(),
  },
  (table) => [
    index('pack_entry_pack').on(table.packId, table.position),
    index('pack_entry_document').on(table.documentId),
  ],
);

/** Who is told of a confidential entry. */
export const packReader = pgTable(
  'pack_reader',
  {
    entryId: uuid()
      .notNull()
      .references(() => packEntry.id, { onDelete: 'cascade' }),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
  },
  (table) => [primaryKey({ columns: [table.entryId, table.personId] })],
);

/** A pack as it was issued: it never changes. */
export const packIssue = pgTable(
  'pack_issue',
  {
    id: uuid().primaryKey().defaultRandom(),
    packId: uuid()
      .notNull()
      .references(() => pack.id),
    /** 1, 2 … of its pack, supplements counted with the rest. */
    number: integer().notNull(),
    /** "Issue 1", "Supplement 1 to issue 1". */
    called: text().notNull(),
    /** The issue that it supplements; null: it is whole. */
    supplementTo: uuid().references((): AnyPgColumn => packIssue.id),
    state: text({ enum: issueStates }).notNull().default('waiting'),
    fault: text({ enum: issueFaults }),
    /** In words, which papers kept it from being made. */
    faultWords: text().notNull().default(''),
    /** All that it is made from, as it was when it was issued. */
    record: jsonb().$type<PackRecord>().notNull(),
    attempts: integer().notNull().default(0),
    beatAt: instant(),
    begunAt: instant(),
    /** How many of its papers are ready. */
    done: integer().notNull().default(0),
    pages: integer(),
    issuedBy: uuid()
      .notNull()
      .references(() => person.id),
    askedAt: instant().notNull(),
    issuedAt: instant(),
    /** When those who attend were told of it by mail, and how many; null: they were not. */
    toldAt: instant(),
    told: integer(),
    /** Why it was withdrawn. */
    endReason: text().notNull().default(''),
    /** The whole of it, from which copies are taken; nobody is given it as it is. */
    sha256: text().references(() => blob.sha256),
  },
  (table) => [
    index('pack_issue_content').on(table.sha256),
    unique('pack_issue_number').on(table.packId, table.number),
    index('pack_issue_open')
      .on(table.askedAt)
      .where(sql`${table.state} in ('waiting', 'making')`),
  ],
);

/** A copy of an issue, for all of whose copies the same is left out. */
export const packCopy = pgTable(
  'pack_copy',
  {
    issueId: uuid()
      .notNull()
      .references(() => packIssue.id, { onDelete: 'cascade' }),
    /** SHA-256 of the ids of what is left out. */
    leftOutKey: text().notNull(),
    leftOut: uuid().array().notNull(),
    /** Null until the worker has made it. */
    sha256: text().references(() => blob.sha256),
    pages: integer(),
    attempts: integer().notNull().default(0),
    beatAt: instant(),
    askedAt: instant().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.issueId, table.leftOutKey] }),
    index('pack_copy_content').on(table.sha256),
    index('pack_copy_waiting')
      .on(table.askedAt)
      .where(sql`${table.sha256} is null`),
  ],
);

/** Somebody's own note on a page of a version of a paper: in every pack that has the page. Private. */
export const pageNote = pgTable(
  'page_note',
  {
    id: uuid().primaryKey().defaultRandom(),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    versionId: uuid()
      .notNull()
      .references(() => version.id, { onDelete: 'cascade' }),
    /** From 1. */
    page: integer().notNull(),
    /** Empty: the page is only marked. */
    text: text().notNull(),
    revision: integer().notNull().default(0),
    at: instant().notNull(),
  },
  (table) => [index('page_note_person').on(table.personId, table.versionId)],
);

/** Where in an issue the one is whom its readers may follow. */
export const packLead = pgTable('pack_lead', {
  issueId: uuid()
    .primaryKey()
    .references(() => packIssue.id, { onDelete: 'cascade' }),
  personId: uuid()
    .notNull()
    .references(() => person.id, { onDelete: 'cascade' }),
  /** A page of the pack. */
  number: integer().notNull(),
  at: instant().notNull(),
});
