import { sql, type SQL, type SQLWrapper } from 'drizzle-orm';
import { readingStage } from '../db/schema';

/** Whether some content is read: its last stage has run. Only OCR may still be to come. @param wanted false for whether it is not */
export const isRead = (sha256: SQLWrapper, wanted = true): SQL =>
  sql`${sql.raw(wanted ? '' : 'not ')}exists (select from ${readingStage} where ${readingStage.sha256} = ${sha256} and ${readingStage.stage} = 'facts')`;
