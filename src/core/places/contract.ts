import { z } from 'zod';
import type { ImpactLine } from '../access/impactWords';
import { act, ask } from '../operation/operation';
import type { PlacePage, PlaceRow } from './model';
import { hues } from '../text/hue';
import { typedDetails } from '../dossiers/details';
import { inDossier } from './common';
import { nameSchema } from '../text/name';

const id = z.uuid();
const revision = z.number().int().nonnegative();
const reference = z.string().max(200).nullable();

/** A place as the chooser lists it. */
export interface PlaceChoice {
  readonly id: string;
  readonly name: string;
  readonly reference: string | null;
  readonly kind: PlaceRow['kind'];
  /** Names from the series to the place itself. */
  readonly path: readonly string[];
  /** Why it is offered before others where no words are typed; null where it is not. */
  readonly near: 'bookmarked' | 'lately' | null;
  /** Whether there are places in it that the caller may know of. */
  readonly opens: boolean;
}

/** The effects of moving a place. */
export interface MoveForecast {
  readonly paperCount: number;
  /** Who would gain and lose what. */
  readonly impact: readonly ImpactLine[];
  /** Columns whose values would change, and on how many papers. */
  readonly values: readonly { readonly name: string; readonly papers: number; readonly overwritten: number }[];
}

/** A common folder of a series. */
export interface CommonFolder {
  readonly id: string;
  readonly name: string;
  readonly paperCount: number;
  /** `inDossier`, or the id of the planned folder in which it is shown. */
  readonly seenIn: string;
}

/** The effects of making a folder common, or one dossier's only. */
export interface CommonForecast extends MoveForecast {
  /** Dossiers, of those the caller may see, that would show it, or no longer show it. */
  readonly dossiers: number;
  /** Those of them that have a folder with the same name. */
  readonly sameName: number;
}

const commonChange = z.object({
  placeId: id,
  /** The only dossier to have it; null: common to all. */
  onlyId: id.nullable(),
});

/** Questions and acts about places. */
export const placesContract = {
  'places.series': ask<readonly PlaceRow[]>()(z.object({})),
  'place.open': ask<PlacePage>()(z.object({ placeId: id, withinId: id.nullable().optional() })),
  'place.seriesOf': ask<{ seriesId: string | null }>('noPapers')(z.object({ placeId: id })),
  'place.children': ask<readonly PlaceRow[]>()(z.object({ placeId: id })),
  'places.choose': ask<readonly PlaceChoice[]>('noPapers')(
    z.object({
      words: z.string().max(200),
      capability: z.enum(['add', 'manage']),
      /** Only below this place; without words those directly in it. */
      withinId: id.nullable().optional(),
    }),
  ),
  'place.moveForecast': ask<MoveForecast>()(z.object({ placeId: id, toId: id })),
  'place.nextReference': ask<{ reference: string | null }>('noPapers')(z.object({ seriesId: id })),
  /** `byYear`: whether its dossiers have a place for each filing year; left out, they have. */
  'series.create': act<PlaceRow>()(
    z.object({ name: nameSchema, referencePattern: z.string().max(200).nullable(), byYear: z.boolean().optional() }),
  ),
  'series.setPattern': act()(z.object({ placeId: id, referencePattern: z.string().max(200).nullable(), revision })),
  /** `details` by field id. */
  'dossier.create': act<PlaceRow>()(
    z.object({ seriesId: id, name: nameSchema, reference, details: typedDetails.optional() }),
  ),
  'dossier.setReference': act()(z.object({ placeId: id, reference, revision })),
  'folder.create': act<PlaceRow>()(
    z.object({
      parentId: id,
      name: nameSchema,
      meetingDay: z.iso.date('That is no day: 2026-07-14 is the form.').nullable().optional(),
      /** Whether the folder is common to all dossiers of the series. */
      common: z.boolean().optional(),
    }),
  ),
  'common.of': ask<readonly CommonFolder[]>()(z.object({ seriesId: id })),
  'common.forecast': ask<CommonForecast>()(commonChange),
  /** Makes a folder common to all dossiers of its series, or one dossier's only. */
  'common.set': act<{ fromId: string }>()(commonChange),
  'common.seenIn': act()(z.object({ placeId: id, seenIn: z.union([z.literal(inDossier), id]) })),
  'folder.setMeeting': act<{ papers: number }>()(
    z.object({ placeId: id, meetingDay: z.iso.date('That is no day: 2026-07-14 is the form.').nullable(), revision }),
  ),
  'place.rename': act<{ revision: number }>()(z.object({ placeId: id, name: nameSchema, revision })),
  'place.reorder': act()(z.object({ placeId: id, beforeId: id.nullable() })),
  'place.move': act<{ fromId: string }>()(z.object({ placeId: id, toId: id })),
  'place.recolour': act()(z.object({ placeId: id, colour: z.enum(hues).nullable() })),
  'place.remove': act<{ parentId: string }>()(z.object({ placeId: id })),
};
