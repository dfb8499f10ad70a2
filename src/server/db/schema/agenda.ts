import { sql } from 'drizzle-orm';
import {
  boolean,
  check,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { attendanceAnswers, attendeeParts, itemKinds, numberings, presences } from '@/core/agenda/model';
import type { Values } from '@/core/columns/model';
import { document, version } from './documents';
import { meeting } from './filing';
import { person } from './people';
import { place } from './places';
import { instant, naturalText } from './types';

/** The agenda of a meeting; without one, the standing items with which the agendas of a dossier begin. */
export const agenda = pgTable(
  'agenda',
  {
    id: uuid().primaryKey().defaultRandom(),
    dossierId: uuid()
      .notNull()
      .references(() => place.id, { onDelete: 'cascade' }),
    meetingId: uuid().references(() => meeting.id, { onDelete: 'cascade' }),
    /** Minutes since midnight; null: no time is said. */
    startsAt: integer(),
    numbering: text({ enum: numberings }).notNull().default('figures'),
    revision: integer().notNull().default(0),
    /** Whether its printed form is to be made: by the worker, once nobody has changed it for a while. */
    filing: text({ enum: ['no', 'waiting', 'done', 'failed'] })
      .notNull()
      .default('no'),
    filingTries: integer().notNull().default(0),
    /** In whose name it is filed. */
    filedBy: uuid().references(() => person.id),
    changedAt: instant().notNull(),
    /** Where it is filed, and with which values of its own. */
    placeId: uuid().references(() => place.id, { onDelete: 'set null' }),
    values: jsonb().$type<Values>().notNull().default({}),
    /** SHA-256 of the page that was filed last: what has not changed is not filed again. */
    pageSha256: text(),
    pdfId: uuid().references(() => document.id, { onDelete: 'set null' }),
    wordId: uuid().references(() => document.id, { onDelete: 'set null' }),
  },
  (table) => [
    unique('agenda_meeting').on(table.meetingId),
    uniqueIndex('agenda_standing')
      .on(table.dossierId)
      .where(sql`${table.meetingId} is null`),
    index('agenda_filing')
      .on(table.id)
      .where(sql`${table.filing} = 'waiting'`),
  ],
);

/** An item of an agenda. Positions are depth first over the whole agenda. */
export const agendaItem = pgTable(
  'agenda_item',
  {
    id: uuid().primaryKey(),
    agendaId: uuid()
      .notNull()
      .references(() => agenda.id, { onDelete: 'cascade' }),
    parentId: uuid(),
    position: integer().notNull(),
    title: naturalText().notNull(),
    presenter: text().notNull().default(''),
    minutes: integer(),
    kind: text({ enum: itemKinds }),
    notes: text().notNull().default(''),
    /** Only those in `agenda_reader`, and who may change the agenda, are told more than its number. */
    confidential: boolean().notNull().default(false),
    carriesOver: boolean().notNull().default(false),
    takesCarried: boolean().notNull().default(false),
    carriedFrom: date({ mode: 'string' }),
    revision: integer().notNull().default(0),
    /** When it was removed, with all that lie in it; it can be put back. */
    removedAt: instant(),
  },
  (table) => [
    index('agenda_item_agenda').on(table.agendaId, table.position),
    check('agenda_item_minutes', sql`${table.minutes} > 0`),
  ],
);

/** Who is told of a confidential item. */
export const agendaReader = pgTable(
  'agenda_reader',
  {
    itemId: uuid()
      .notNull()
      .references(() => agendaItem.id, { onDelete: 'cascade' }),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
  },
  (table) => [primaryKey({ columns: [table.itemId, table.personId] })],
);

/** A paper of an item. It stays where it lives. */
export const agendaPaper = pgTable(
  'agenda_paper',
  {
    id: uuid().primaryKey().defaultRandom(),
    itemId: uuid()
      .notNull()
      .references(() => agendaItem.id, { onDelete: 'cascade' }),
    documentId: uuid()
      .notNull()
      .references(() => document.id, { onDelete: 'cascade' }),
    /** The version that is held; null: the newest, always. */
    versionId: uuid().references(() => version.id, { onDelete: 'cascade' }),
    position: integer().notNull(),
  },
  (table) => [
    unique('agenda_paper_once').on(table.itemId, table.documentId),
    index('agenda_paper_document').on(table.documentId),
  ],
);

/** A paper that somebody is asked for, for an item. */
export const paperCall = pgTable(
  'paper_call',
  {
    id: uuid().primaryKey().defaultRandom(),
    itemId: uuid()
      .notNull()
      .references(() => agendaItem.id, { onDelete: 'cascade' }),
    what: naturalText().notNull(),
    /** Who owes it. Null: somebody without an account. */
    personId: uuid().references(() => person.id),
    who: naturalText().notNull().default(''),
    dueOn: date({ mode: 'string' }),
    /** The paper that was handed in; null: it is owed. */
    documentId: uuid().references(() => document.id, { onDelete: 'set null' }),
    /** Whether it was attached to the item by that. */
    attached: boolean().notNull().default(false),
    calledAt: instant().notNull(),
    removedAt: instant(),
  },
  (table) => [index('paper_call_item').on(table.itemId), index('paper_call_person').on(table.personId)],
);

/** Somebody who is at a meeting, or was asked to be. */
export const attendee = pgTable(
  'attendee',
  {
    id: uuid().primaryKey().defaultRandom(),
    meetingId: uuid()
      .notNull()
      .references(() => meeting.id, { onDelete: 'cascade' }),
    /** Null: somebody without an account. */
    personId: uuid().references(() => person.id),
    name: naturalText().notNull(),
    part: text({ enum: attendeeParts }).notNull(),
    answer: text({ enum: attendanceAnswers }),
    /** Whether they were there; null: not noted. */
    presence: text({ enum: presences }),
    position: integer().notNull(),
  },
  (table) => [unique('attendee_once').on(table.meetingId, table.personId), index('attendee_person').on(table.personId)],
);
