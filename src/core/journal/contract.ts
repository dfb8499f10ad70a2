import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { actGroups } from './groups';
import type { JournalAnchor, JournalHeld, JournalLine } from './model';

/** Questions and acts about the journal. */
export const journalContract = {
  'journal.of': ask<readonly JournalLine[]>()(
    z.object({ subject: z.enum(['place', 'document']), id: z.uuid(), before: z.number().int().nullable() }),
  ),
  /** Entries by what they are about, kind of act, person, days (ISO 8601, both included) and words; `next`: to go on from. */
  'journal.find': ask<{ readonly lines: readonly JournalLine[]; readonly next: number | null }>()(
    z.object({
      /** A place with all below it, or a paper; null: the whole library, for keepers. */
      about: z.object({ subject: z.enum(['place', 'document']), id: z.uuid() }).nullable(),
      group: z.enum(actGroups).nullable(),
      personId: z.uuid().nullable(),
      from: z.iso.date().nullable(),
      to: z.iso.date().nullable(),
      words: z.string().max(200),
      before: z.number().int().nullable(),
    }),
  ),
  /** The journal's anchors and, with `check`, whether the journal agrees with them. */
  'journal.held': ask<JournalHeld>()(z.object({ check: z.boolean() })),
  /** Writes an anchor. */
  'journal.anchor': act<JournalAnchor>()(z.object({})),
};
