import { bigint, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { exportFaults, exportStates, type ExportFolders, type ExportWhat } from '@/core/exports/contract';
import { person } from './people';
import { instant } from './types';

/** An archive that someone asked for, as the worker makes it. The file is in a folder beside the database, by this id. */
export const exportJob = pgTable(
  'export_job',
  {
    id: uuid().primaryKey(),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    name: text().notNull(),
    what: jsonb().$type<ExportWhat>().notNull(),
    folders: text().$type<ExportFolders>().notNull(),
    state: text({ enum: exportStates }).notNull().default('waiting'),
    fault: text({ enum: exportFaults }),
    askedAt: instant().notNull(),
    /** How often it was begun. */
    attempts: integer().notNull().default(0),
    begunAt: instant(),
    /** When whoever makes it was last heard of. */
    beatAt: instant(),
    /** The papers that it has, which have to be open to the person when they fetch it. */
    documentIds: uuid().array(),
    leftOut: integer(),
    bytes: bigint({ mode: 'number' }).notNull().default(0),
    ofBytes: bigint({ mode: 'number' }),
    expiresAt: instant(),
  },
  (table) => [index('export_job_person').on(table.personId, table.askedAt), index('export_job_state').on(table.state)],
);
