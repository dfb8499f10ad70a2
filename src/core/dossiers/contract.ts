import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { detailKinds, maxDetails, typedDetails, type DetailField, type Details } from './details';
import type { DossierLine } from './dossierRows';

const id = z.uuid();
const revision = z.number().int().nonnegative();

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

const pasted = z.string().max(1_000_000, 'A list of at most a million letters fits.');

/** A dossier's details with the fields that its series has. */
export interface DetailsOf {
  readonly fields: readonly DetailField[];
  readonly details: Details;
  readonly names: Readonly<Record<string, string>>;
  /** The dossier's. */
  readonly revision: number;
  readonly mayChange: boolean;
}

/** Questions and acts about dossiers and their details. */
export const dossiersContract = {
  'details.fields': ask<{ fields: readonly DetailField[]; revision: number; mayChange: boolean }>('noPapers')(
    z.object({ seriesId: id }),
  ),
  'details.setFields': act()(z.object({ seriesId: id, fields, revision })),
  'details.of': ask<DetailsOf>('noPapers')(z.object({ dossierId: id })),
  'details.set': act()(z.object({ dossierId: id, details: typedDetails, revision })),
  'dossiers.check': ask<readonly DossierLine[]>()(z.object({ seriesId: id, text: pasted })),
  'dossiers.make': act<{ made: number; folders: number }>()(
    z.object({ seriesId: id, text: pasted, onlyGood: z.boolean() }),
  ),
};
