import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { ofTypeSchema } from '../rules/schema';
import { nameSchema } from '../text/name';
import type { KeepingStanding } from './keeping';
import { keepingEnds, keepingStarts, mostKeptMonths, type KeepingEnd, type RetentionClass } from './model';
import type { ItemState, RunState } from './run';

const id = z.uuid();
const revision = z.number().int().nonnegative();

/** The fields of a class. */
export const classFields = z
  .object({
    name: nameSchema,
    authority: z.string().trim().max(1000, 'At most 1,000 characters fit.'),
    start: z.enum(keepingStarts),
    columnId: id.nullable(),
    months: z.number().int().min(1, 'At least one month.').max(mostKeptMonths, 'At most 150 years.').nullable(),
    end: z.enum(keepingEnds),
  })
  .refine(({ start, columnId }) => (start === 'column') === (columnId !== null), {
    path: ['columnId'],
    message: 'Choose the column of dates from which it is counted.',
  })
  .refine(({ months, end }) => months !== null || end === 'keep', {
    path: ['months'],
    message: 'Say for how long papers are kept; only what is kept for good has no time.',
  });
export type ClassFields = z.output<typeof classFields>;

/** A place that gives a class to its papers. */
export interface ClassRule {
  readonly id: string;
  readonly placeId: string;
  readonly placeName: string;
  /** Which papers; null for all. */
  readonly typeName: string | null;
}

/** A class as the schedule lists it. */
export interface ClassRow extends RetentionClass {
  /** The name of the column from which it counts; '' for other starts. */
  readonly columnName: string;
  readonly rules: readonly ClassRule[];
  /** How many papers it decides about; null while that is being counted. */
  readonly papers: number | null;
  readonly revision: number;
}

/** How long one paper is kept, and why. Days are ISO 8601. */
export interface PaperKeeping {
  readonly className: string;
  readonly authority: string;
  readonly start: KeepingStartTold;
  readonly months: number | null;
  readonly until: string | null;
  readonly standing: KeepingStanding;
  readonly end: KeepingEnd;
  /** Which place gives the class, and to which papers; null where the caller may not know of the place. */
  readonly givenBy: { readonly placeName: string; readonly typeName: string | null } | null;
  /** The names of other classes that speak of it, and keep it less long. */
  readonly others: readonly string[];
}

/** From when it is counted: in words, and the day; null where the paper has none. */
export interface KeepingStartTold {
  readonly from: RetentionClass['start'];
  readonly columnName: string;
  readonly day: string | null;
}

/** A disposal by the schedule, as it is listed. Times are ISO 8601. */
export interface RunRow {
  readonly id: string;
  readonly state: RunState;
  readonly note: string;
  readonly preparedBy: string;
  readonly preparedAt: string;
  readonly approvedBy: string | null;
  readonly approvedAt: string | null;
  readonly counts: Readonly<Partial<Record<ItemState, number>>>;
  readonly certificateId: string | null;
  readonly revision: number;
}

/** Papers of a run in one dossier by one class. */
export interface RunGroup {
  readonly className: string;
  readonly authority: string;
  readonly dossierName: string;
  readonly papers: number;
  readonly sizeBytes: number;
}

/** One paper of a run. */
export interface RunItem {
  readonly documentId: string;
  readonly title: string;
  readonly placeName: string;
  readonly className: string;
  readonly keptUntil: string;
  readonly state: ItemState;
  readonly reason: string;
}

/** A run with its papers. */
export interface RunPage extends RunRow {
  readonly placeName: string;
  readonly groups: readonly RunGroup[];
  readonly items: readonly RunItem[];
  /** How many papers there are of what was asked for. */
  readonly total: number;
  /** Whether the caller prepared it, and so may not approve it. */
  readonly isMine: boolean;
}

/** So many papers are disposed of in one run. */
export const mostInRun = 20_000;

const csv = z.string().max(1_000_000, 'A schedule of at most a million characters fits.');

/** What a schedule that is taken in would change. */
export interface SchedulePreview {
  readonly added: readonly string[];
  readonly changed: readonly string[];
  readonly same: number;
  /** Lines that cannot be taken in, by their number from 1, and why. */
  readonly refused: readonly { readonly line: number; readonly says: string }[];
}

/** Questions and acts about how long papers are kept. All but the first are for keepers. */
export const retentionContract = {
  /** Null: no class speaks of the paper. */
  'retention.of': ask<PaperKeeping | null>()(z.object({ documentId: id })),
  'retention.classes': ask<readonly ClassRow[]>()(z.object({})),
  'retention.putClass': act<{ id: string }>()(z.object({ classId: id.nullable(), fields: classFields, revision })),
  'retention.removeClass': act()(z.object({ classId: id, revision })),
  'retention.give': act()(z.object({ classId: id, placeId: id, ofType: ofTypeSchema.nullable() })),
  'retention.takeAway': act()(z.object({ ruleId: id })),
  'retention.foresee': ask<SchedulePreview>()(z.object({ csv })),
  'retention.takeIn': act<{ added: number; changed: number }>()(z.object({ csv })),
  'runs.list': ask<readonly RunRow[]>()(z.object({})),
  'run.open': ask<RunPage>()(
    z.object({ runId: id, states: z.array(z.string()).max(10), most: z.number().int().min(1).max(5000) }),
  ),
  /** `classIds`: of these classes all that is due for destruction. `placeId`: where the certificate will be filed. */
  'run.prepare': act<{ runId: string; papers: number }>()(
    z.object({
      classIds: z.array(id).min(1).max(200),
      placeId: id,
      note: z.string().trim().max(2000, 'A note of at most 2,000 characters fits.'),
    }),
  ),
  'run.leaveOut': act()(
    z.object({
      runId: id,
      documentIds: z.array(id).min(1).max(5000),
      out: z.boolean(),
      reason: z.string().trim().max(500, 'At most 500 characters fit.'),
    }),
  ),
  'run.approve': act<{ disposed: number; kept: number }>()(z.object({ runId: id, revision })),
  'run.abandon': act()(z.object({ runId: id, revision })),
  /** Destroys what waits in the tray by the run now. `papers`: how many that is, as it was typed. */
  'run.destroy': act<{ destroyed: number; kept: number }>()(z.object({ runId: id, papers: z.number().int().min(1) })),
};
