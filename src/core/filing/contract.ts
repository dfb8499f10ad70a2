import { z } from 'zod';
import { act, ask } from '../contract/operation';
import { nameSchema } from '../places/name';
import type { DossierLine } from './dossierRows';
import { planTimings } from './namePattern';
import { maxPlanned, type PlannedFolder } from './plan';

const id = z.uuid();
const revision = z.number().int().nonnegative();
const day = z.iso.date('That is no day: 2026-07-14 is the form.');

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

const pasted = z.string().max(1_000_000, 'A list of at most a million letters fits.');

/** What a plan would change in one dossier, in names. */
export interface PlanLine {
  readonly dossier: string;
  readonly what: 'add' | 'adopt' | 'rename' | 'move' | 'remove' | 'leave' | 'closed';
  /** The folder as it is called now, or is to be. */
  readonly name: string;
  /** The new name, of one that is renamed. */
  readonly to: string | null;
}

/** What a plan would change in all dossiers of its series: how much, and the first lines of it. */
export interface PlanForecast {
  readonly dossiers: number;
  readonly counts: Readonly<Record<PlanLine['what'], number>>;
  readonly lines: readonly PlanLine[];
}

export interface PlanOf {
  readonly folders: readonly PlannedFolder[];
  readonly revision: number;
  readonly mayChange: boolean;
  readonly dossiers: number;
}

/** A meeting of a dossier as lists show it. */
export interface MeetingRow {
  readonly id: string;
  readonly day: string;
  readonly title: string;
  readonly venue: string;
  readonly revision: number;
}

export const filingContract = {
  'plan.of': ask<PlanOf>()(z.object({ seriesId: id })),
  'plan.forecast': ask<PlanForecast>()(z.object({ seriesId: id, folders })),
  'plan.set': act<PlanForecast & { revision: number }>()(z.object({ seriesId: id, folders, revision })),
  'dossiers.check': ask<readonly DossierLine[]>()(z.object({ seriesId: id, text: pasted })),
  'dossiers.make': act<{ made: number; folders: number }>()(
    z.object({ seriesId: id, text: pasted, onlyGood: z.boolean() }),
  ),
  'meetings.of': ask<readonly MeetingRow[]>()(z.object({ dossierId: id })),
  'meetings.make': act<{ made: number; folders: number }>()(
    z.object({
      dossierId: id,
      days: z.array(day).min(1, 'A day is needed.').max(400, 'At most 400 meetings are made at once.'),
      title: nameSchema,
      venue: z.string().trim().max(200, 'At most 200 characters fit.'),
    }),
  ),
  'meeting.remove': act()(z.object({ meetingId: id, revision })),
};
