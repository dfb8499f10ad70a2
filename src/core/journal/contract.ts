import { z } from 'zod';
import { act, ask } from '../operation/operation';
import type { JournalAnchor, JournalHeld, JournalLine } from './model';

export const journalContract = {
  'journal.of': ask<readonly JournalLine[]>()(
    z.object({ subject: z.enum(['place', 'document']), id: z.uuid(), before: z.number().int().nullable() }),
  ),
  /** How the journal is held to what was written down of it; where asked for, whether it agrees. */
  'journal.held': ask<JournalHeld>()(z.object({ check: z.boolean() })),
  /** Writes its head down. */
  'journal.anchor': act<JournalAnchor>()(z.object({})),
};
