import { z } from 'zod';
import { act, ask } from '../operation/operation';
import type { JournalAnchor, JournalHeld, JournalLine } from './model';

/** Questions and acts about the journal. */
export const journalContract = {
  'journal.of': ask<readonly JournalLine[]>()(
    z.object({ subject: z.enum(['place', 'document']), id: z.uuid(), before: z.number().int().nullable() }),
  ),
  /** The journal's anchors and, with `check`, whether the journal agrees with them. */
  'journal.held': ask<JournalHeld>()(z.object({ check: z.boolean() })),
  /** Writes an anchor. */
  'journal.anchor': act<JournalAnchor>()(z.object({})),
};
