import { sql } from 'drizzle-orm';
import { upload } from './schema';

/** Uploads that are not filed and may still be: under way, broken off, or waiting for an answer. */
export const isUnfinished = sql`(${upload.outcome} is null or ${upload.outcome} ->> 'state' in ('same-content', 'same-name'))`;
