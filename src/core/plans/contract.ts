import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { conditionsSchema } from '../views/conditions';
import { dueFroms, maxDueDays, maxExpected, type Expectation } from './expectation';
import { planTimings } from './namePattern';
import { maxPlanned, type PlannedFolder } from './plan';

const id = z.uuid();
const revision = z.number().int().nonnegative();

const folders = z
  .array(
    z.object({
      id,
      parentId: id.nullable(),
      timing: z.enum(planTimings),
      pattern: z.string().max(400, 'The name is far too long.'),
    }),
  )
  .max(maxPlanned, `A plan has at most ${maxPlanned} folders.`);

const expected: z.ZodType<readonly Expectation[], readonly Expectation[]> = z
  .array(
    z.object({
      id,
      timing: z.enum(planTimings),
      name: z.string().trim().max(120, 'At most 120 characters fit.'),
      folderId: id.nullable(),
      conditions: conditionsSchema,
      dueDays: z.number().int().min(-maxDueDays).max(maxDueDays),
      dueFrom: z.enum(dueFroms),
    }),
  )
  .max(maxExpected, `A plan expects at most ${maxExpected} papers.`);

/** A change that a plan would make in a dossier. */
export interface PlanLine {
  readonly dossier: string;
  readonly what: 'add' | 'adopt' | 'rename' | 'move' | 'remove' | 'leave' | 'closed';
  /** The folder's present name, or the name it would get. */
  readonly name: string;
  /** The new name, for renaming. */
  readonly to: string | null;
}

/** What a plan would change in the dossiers of its series: totals, and the first changes. */
export interface PlanForecast {
  readonly dossiers: number;
  readonly counts: Readonly<Record<PlanLine['what'], number>>;
  readonly lines: readonly PlanLine[];
}

/** The filing plan of a series, as its page shows it. */
export interface PlanOf {
  readonly byYear: boolean;
  readonly folders: readonly PlannedFolder[];
  readonly expected: readonly Expectation[];
  readonly revision: number;
  readonly mayChange: boolean;
  readonly dossiers: number;
}

/** Questions and acts about filing plans. */
export const plansContract = {
  'plan.of': ask<PlanOf>('noPapers')(z.object({ seriesId: id })),
  /** Left out, `byYear` and `expected` stay as they are. */
  'plan.forecast': ask<PlanForecast>()(z.object({ seriesId: id, byYear: z.boolean().optional(), folders })),
  'plan.set': act<PlanForecast & { revision: number }>()(
    z.object({
      seriesId: id,
      byYear: z.boolean().optional(),
      folders,
      expected: expected.optional(),
      revision,
    }),
  ),
};
