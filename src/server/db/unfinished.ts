import { sql } from 'drizzle-orm';
import { upload } from './schema';

/** Uploads that may still be filed: in progress, interrupted, or waiting for a person's answer. */
export const isUnfinished = sql`(${upload.outcome} is null or ${upload.outcome} ->> 'state' in ('same-content', 'same-name'))`;
