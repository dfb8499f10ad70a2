import { z } from 'zod';
import type { DetailField, Details } from '../dossiers/details';
import { act, ask } from '../operation/operation';
import type { Expectation } from '../plans/expectation';
import type { PlanTiming } from '../plans/namePattern';
import type { RackRow } from './rack';
import type { RackColumn } from './rackColumns';
import type { ExpectedState } from './slots';

const id = z.uuid();

/** Identifies an expected paper of a dossier: for a year, for a meeting, or for the dossier itself. */
export const slotSchema = z.object({
  expectationId: id,
  dossierId: id,
  startYear: z.number().int().nullable(),
  meetingId: id.nullable(),
});
export type SlotName = z.output<typeof slotSchema>;

/** An expected paper of a dossier, and its state as the caller may see it. */
export interface SlotRow extends SlotName {
  readonly name: string;
  readonly timing: PlanTiming;
  readonly meeting: { readonly day: string; readonly title: string } | null;
  /** ISO 8601. */
  readonly due: string;
  readonly state: ExpectedState;
  /** The paper that meets it: the one a person named, or else the newest match. */
  readonly paper: { readonly id: string; readonly title: string } | null;
  /** When the paper runs out, if that is soon, or ran out (ISO 8601). */
  readonly runsOut: string | null;
  /** Whether a person named that paper. */
  readonly pointed: boolean;
  /** Why it is not needed, and who said so. */
  readonly waiver: { readonly reason: string; readonly by: string } | null;
  /** Where to file such a paper; null if the caller may not add there. */
  readonly place: { readonly id: string; readonly name: string } | null;
  /** Column values that make a paper meet it, if its conditions are that simple. */
  readonly values: Readonly<Record<string, string>> | null;
}

/** The expected papers of a dossier, or of one of its years. */
export interface SlotsOf {
  readonly state: 'counted' | 'counting';
  readonly slots: readonly SlotRow[];
  /** Whether the caller may state that one is not needed, or which paper it is. */
  readonly mayAmend: boolean;
  readonly officer: { readonly id: string; readonly name: string } | null;
}

/** A row of the rack: a dossier with its details. */
export interface RackDossier extends RackRow {
  /** The dossier is a bare step for the caller. */
  readonly bareStep: boolean;
  readonly name: string;
  readonly reference: string | null;
  readonly closed: boolean;
  readonly details: Details;
  /** Where a cell leads, in the order of the rack's columns; null for a year or folder without a place the caller may know of. */
  readonly places: readonly ({ readonly id: string; readonly closed: boolean } | null)[];
}

/** A series as a grid: a row per dossier, a column per filing year, or per planned folder or expected paper. */
export interface Rack {
  /** While the tally is being filled there are no counts and no squares. */
  readonly state: 'counted' | 'counting';
  readonly byYear: boolean;
  readonly columns: readonly RackColumn[];
  /** With the column in which each stands; null: with the dossier, or in the years of its occasions. */
  readonly expected: readonly (Pick<Expectation, 'id' | 'name' | 'timing'> & { readonly column: string | null })[];
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
  /** Whether the caller is that officer. */
  readonly isMine: boolean;
}
/** The expected papers that are missing; `counting` while the tally is still being read. */
export interface Gaps {
  readonly state: 'counted' | 'counting';
  /** The longest overdue first. */
  readonly gaps: readonly GapRow[];
}

/** Questions and acts about expected papers. */
export const expectedContract = {
  'rack.open': ask<Rack>()(z.object({ seriesId: id })),
  /** Without a year: everything expected of the dossier; `null`: what is expected of the dossier itself. */
  'expected.of': ask<SlotsOf>()(z.object({ dossierId: id, startYear: z.number().int().nullable().optional() })),
  'expected.say': act()(
    slotSchema.extend({
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
    slotSchema.extend({ personId: id, words: z.string().trim().max(2000, 'At most 2,000 characters fit.') }),
  ),
  'gaps.of': ask<Gaps>()(z.object({ placeId: id.nullable() })),
};
