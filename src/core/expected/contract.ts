import { z } from 'zod';
import type { DetailField, Details } from '../dossiers/details';
import { act, ask } from '../operation/operation';
import type { Expectation } from '../plans/expectation';
import type { PlanTiming } from '../plans/namePattern';
import type { RackRow } from './rack';
import type { ExpectedState } from './slots';

const id = z.uuid();

/** Names one expected paper of a dossier: for a year, for a meeting, or for the dossier itself. */
const slot = z.object({
  expectationId: id,
  dossierId: id,
  startYear: z.number().int().nullable(),
  meetingId: id.nullable(),
});
export type SlotName = z.output<typeof slot>;

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

export const expectedContract = {
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
};
