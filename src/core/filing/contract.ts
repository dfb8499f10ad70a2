import { z } from 'zod';
import { act, ask } from '../contract/operation';
import { nameSchema } from '../places/name';
import { conditionsSchema } from '../views/conditions';
import { detailKinds, maxDetails, typedDetails, type DetailField, type Details } from './details';
import type { DossierLine } from './dossierRows';
import { dueFroms, maxDueDays, maxExpected, type Expectation, type ExpectedState } from './expected';
import { planTimings, type PlanTiming } from './namePattern';
import { maxPlanned, type PlannedFolder } from './plan';
import type { RackRow } from './rack';

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

const fields = z
  .array(
    z.object({
      id,
      name: z.string().trim().max(60, 'At most 60 characters fit.'),
      kind: z.enum(detailKinds),
      choices: z.array(z.string().trim().min(1).max(60)).max(50, 'At most 50 words fit.'),
    }),
  )
  .max(maxDetails, `A series has at most ${maxDetails} details.`);

/** Names one expected paper of a dossier: for a year, for a meeting, or for the dossier itself. */
const slot = z.object({
  expectationId: id,
  dossierId: id,
  startYear: z.number().int().nullable(),
  meetingId: id.nullable(),
});
export type SlotName = z.output<typeof slot>;

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
  readonly expected: readonly Expectation[];
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

/** One expected paper of a dossier, and how it stands for who asks. */
export interface SlotRow extends SlotName {
  readonly name: string;
  readonly timing: PlanTiming;
  readonly meeting: { readonly day: string; readonly title: string } | null;
  /** ISO 8601. */
  readonly due: string;
  readonly state: ExpectedState;
  /** The paper that is it: the one pointed at, or the one last filed of those that are. */
  readonly paper: { readonly id: string; readonly title: string } | null;
  /** Whether a person pointed at that paper. */
  readonly pointed: boolean;
  /** Why it is not needed, and who said so. */
  readonly waiver: { readonly reason: string; readonly by: string } | null;
  /** Where such a paper is filed; null where the asker may not add there. */
  readonly place: { readonly id: string; readonly name: string } | null;
  /** Values of columns that a paper has to have to be it, where that is all there is to it. */
  readonly values: Readonly<Record<string, string>> | null;
}

/** The expected papers of a dossier, or of one of its years. */
export interface SlotsOf {
  readonly state: 'counted' | 'counting';
  readonly slots: readonly SlotRow[];
  /** Whether the asker may say that one is not needed, or which paper is one. */
  readonly mayAmend: boolean;
  readonly officer: { readonly id: string; readonly name: string } | null;
}

export interface RackDossier extends RackRow {
  /** Only a step on the way to something below is open to the asker. */
  readonly bareStep: boolean;
  readonly name: string;
  readonly reference: string | null;
  readonly closed: boolean;
  readonly details: Details;
  /** The places of its years, in the order of the rack's years; null where there is none, or none for the asker. */
  readonly places: readonly ({ readonly id: string; readonly closed: boolean } | null)[];
}

/** A series at one look: dossiers down, filing years across. */
export interface Rack {
  /** While the library is still being read there are no counts and no squares. */
  readonly state: 'counted' | 'counting';
  readonly years: readonly { readonly startYear: number; readonly label: string; readonly current: boolean }[];
  readonly expected: readonly Pick<Expectation, 'id' | 'name' | 'timing'>[];
  readonly fields: readonly DetailField[];
  readonly rows: readonly RackDossier[];
  /** Names of the colleagues in details. */
  readonly names: Readonly<Record<string, string>>;
}

/** An expected paper that is overdue. */
export interface GapRow extends SlotName {
  readonly series: string;
  readonly dossier: string;
  readonly reference: string | null;
  readonly name: string;
  readonly yearLabel: string | null;
  readonly meeting: { readonly day: string; readonly title: string } | null;
  readonly due: string;
  readonly officer: string | null;
}
export interface Gaps {
  readonly state: 'counted' | 'counting';
  /** The longest overdue first. */
  readonly gaps: readonly GapRow[];
}

export interface DetailsOf {
  readonly fields: readonly DetailField[];
  readonly details: Details;
  readonly names: Readonly<Record<string, string>>;
  /** The dossier's. */
  readonly revision: number;
  readonly mayChange: boolean;
}

export const filingContract = {
  'plan.of': ask<PlanOf>()(z.object({ seriesId: id })),
  'plan.forecast': ask<PlanForecast>()(z.object({ seriesId: id, folders })),
  'plan.set': act<PlanForecast & { revision: number }>()(
    /** Without `expected` that stays as it is. */
    z.object({ seriesId: id, folders, expected: expected.optional(), revision }),
  ),
  'details.fields': ask<{ fields: readonly DetailField[]; revision: number; mayChange: boolean }>()(
    z.object({ seriesId: id }),
  ),
  'details.setFields': act()(z.object({ seriesId: id, fields, revision })),
  'details.of': ask<DetailsOf>()(z.object({ dossierId: id })),
  'details.set': act()(z.object({ dossierId: id, details: typedDetails, revision })),
  'rack.open': ask<Rack>()(z.object({ seriesId: id })),
  /** Without a year: all that is expected of the dossier; `null`: what is for the dossier itself. */
  'expected.of': ask<SlotsOf>()(z.object({ dossierId: id, startYear: z.number().int().nullable().optional() })),
  'expected.say': act()(
    slot.extend({
      says: z
        .union([
          z.strictObject({ paper: id }),
          z.strictObject({
            notNeeded: z.string().trim().min(1, 'Say why it is not needed.').max(400, 'At most 400 characters fit.'),
          }),
        ])
        .nullable(),
    }),
  ),
  'expected.ask': act<{ sent: boolean }>()(
    slot.extend({ personId: id, words: z.string().trim().max(2000, 'At most 2,000 characters fit.') }),
  ),
  'gaps.of': ask<Gaps>()(z.object({ placeId: id.nullable() })),
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
  'meeting.change': act()(
    z.object({
      meetingId: id,
      day,
      title: nameSchema,
      venue: z.string().trim().max(200, 'At most 200 characters fit.'),
      revision,
    }),
  ),
  'meeting.remove': act()(z.object({ meetingId: id, revision })),
};
