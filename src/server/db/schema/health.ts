import { date, integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { findings } from '@/core/health/model';

/** How many of each finding there were on a day, in the library's time zone. */
export const healthCount = pgTable(
  'health_count',
  {
    finding: text({ enum: findings }).notNull(),
    day: date({ mode: 'string' }).notNull(),
    number: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.finding, table.day] })],
);
