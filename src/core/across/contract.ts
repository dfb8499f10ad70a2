import { z } from 'zod';
import { ask } from '../operation/operation';
import { conditionsSchema } from '../views/conditions';

/** So many papers are handed out to be acted on; of more only their number is told. */
export const mostAcross = 50_000;

/** Which papers are meant: by ticks on places and papers, and conditions. */
export const acrossQuestion = z.strictObject({
  /** Which places and papers are chosen, each mark but for what is marked otherwise below it. */
  marks: z.array(z.object({ id: z.uuid(), on: z.boolean() })).max(1000, 'At most 1,000 ticks fit.'),
  conditions: conditionsSchema,
  /** Only what lies in a closed place that was closed before this day. */
  closedBefore: z.iso.date('That is no day: 2026-07-14 is the form.').nullable().optional(),
});
export type AcrossQuestion = z.output<typeof acrossQuestion>;

/** What the ticks of the tree choose. */
export interface AcrossTotals {
  readonly papers: number;
  readonly pages: number;
  readonly sizeBytes: number;
}

/** Questions about papers across dossiers, chosen by ticks in a tree. */
export const acrossContract = {
  'across.totals': ask<AcrossTotals>()(acrossQuestion),
  /** Null where they are too many to be acted on at once. */
  'across.papers': ask<readonly string[] | null>()(acrossQuestion),
};
