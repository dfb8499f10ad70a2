import { z } from 'zod';
import { ask } from '../contract/operation';
import type { JournalLine } from './model';

export const journalContract = {
  'journal.of': ask<readonly JournalLine[]>()(
    z.object({ subject: z.enum(['place', 'document']), id: z.uuid(), before: z.number().int().nullable() }),
  ),
};
