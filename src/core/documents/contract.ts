import { z } from 'zod';
import type { ImpactLine } from '../access/impactWords';
import { act, ask } from '../operation/operation';
import { nameSchema } from '../text/name';
import { filingKinds, type FilingKind, type PaperDocket, type PaperRow } from './model';

const id = z.uuid();
const revision = z.number().int().nonnegative();
const many = z.array(id).min(1).max(5000);
const places = z.array(id).min(1).max(200, 'At most 200 places at once.');

/** So many papers and places together one act takes: 125 papers into 40 dossiers. */
export const mostPairs = 5000;

/** A paper with the place it lies in, for lists over several places. */
export interface PlacedPaper extends PaperRow {
  readonly homeId: string;
  readonly homeName: string;
}

/** A paper in a place that lists it. */
export interface Filed {
  readonly documentId: string;
  readonly placeId: string;
}

/** What can be done with several papers at once. */
export const actsOnSeveral = ['move', 'change', 'dispose', 'lock', 'copy'] as const;
export type ActOnSeveral = (typeof actsOnSeveral)[number];

/** Which of some papers an act can be done with, and how many not, by reason. Papers that the caller may not see are gone. */
export interface Actable {
  readonly may: readonly string[];
  readonly not: {
    readonly notAllowed: number;
    readonly locked: number;
    readonly closed: number;
    readonly gone: number;
  };
}

/** The effects of moving papers. */
export interface PaperMoveForecast {
  readonly paperCount: number;
  /** Who would gain and lose what. */
  readonly impact: readonly ImpactLine[];
  /** Columns whose values would change, and on how many papers. */
  readonly values: readonly { readonly name: string; readonly papers: number; readonly overwritten: number }[];
}

/** Questions and acts about papers. */
export const documentsContract = {
  'papers.rows': ask<readonly PlacedPaper[]>()(z.object({ documentIds: many })),
  'paper.docket': ask<PaperDocket>()(z.object({ documentId: id })),
  /** The papers, among these, that may be read but not copied. */
  'papers.notCopiable': ask<readonly string[]>()(z.object({ documentIds: many })),
  'papers.lately': ask<readonly PlacedPaper[]>()(z.object({})),
  'papers.moveForecast': ask<PaperMoveForecast>()(z.object({ documentIds: many, toId: id })),
  /** Files a web link as a paper. */
  'paper.addLink': act<{ documentId: string }>()(
    z.object({
      placeId: id,
      title: nameSchema,
      address: z.string().max(4000),
      remark: z.string().max(4000, 'A remark of at most 4,000 characters fits.'),
    }),
  ),
  'paper.rename': act<{ revision: number }>()(z.object({ documentId: id, title: nameSchema, revision })),
  'paper.setRemark': act<{ revision: number }>()(
    z.object({ documentId: id, remark: z.string().max(4000, 'A remark of at most 4,000 characters fits.'), revision }),
  ),
  /** `wasThere`: a paper of that content lay beside the mail already. */
  'paper.fileAttachment': act<{ documentId: string; wasThere: boolean }>()(
    z.object({ documentId: id, attachment: z.number().int().positive() }),
  ),
  /**
   * What a paper's cover shows: the first page of another paper, a picture from the caller's computer (Base64), or its own
   * first page again (`null`).
   */
  'paper.setCover': act()(
    z.object({
      documentId: id,
      cover: z.union([z.object({ ofPaper: id }), z.object({ picture: z.base64().min(1).max(3_000_000) })]).nullable(),
    }),
  ),
  'papers.move': act<{ moved: number; backTo: Record<string, string>; entryId: number | null }>()(
    z.object({ documentIds: many, toId: id }),
  ),
  'papers.putInPlaces': act<{ moved: number }>()(
    /** `undoing`: the entry of the move being undone; values the papers took by it are removed. */
    z.object({ homes: z.record(id, id), undoing: z.number().int().nullable().optional() }),
  ),
  /** Returns what was not there before. */
  'papers.crossFile': act<{ filed: readonly Filed[] }>()(
    z.object({ documentIds: many, toIds: places, kind: z.enum(filingKinds) }),
  ),
  /** `kind: null`: removed from the place. */
  'papers.forecastFiling': ask<readonly ImpactLine[]>()(
    z.object({ documentIds: many, placeId: id, kind: z.enum(filingKinds).nullable() }),
  ),
  'paper.leave': act<{ kind: FilingKind }>()(z.object({ documentId: id, placeId: id })),
  /** Takes papers out of places that list them; what is no longer there is ignored. */
  'papers.leave': act<{ left: number }>()(
    z.object({
      filings: z
        .array(z.object({ documentId: id, placeId: id }))
        .min(1)
        .max(mostPairs),
    }),
  ),
  /** Which of the papers an act can be done with, and why not with the rest. */
  'papers.actable': ask<Actable>()(z.object({ documentIds: many, act: z.enum(actsOnSeveral) })),
  /** Copies papers into places. A copy is a paper of its own, which knows where it came from. */
  'papers.copy': act<{ copies: readonly string[] }>()(
    z.object({ documentIds: many, toIds: places, onSameName: z.enum(['number', 'leaveOut']) }),
  ),
  /** How many of the copies would have a name that is there already. */
  'papers.copyForecast': ask<{ copies: number; sameName: number }>()(z.object({ documentIds: many, toIds: places })),
  /** Takes the current version of the paper that this one is a copy of. `before`: the version to restore for undoing it. */
  'paper.takeNewer': act<{ number: number; before: number }>()(z.object({ documentId: id, revision })),
  'paper.restoreVersion': act<{ number: number }>()(
    z.object({ documentId: id, number: z.number().int().positive(), revision }),
  ),
  /** Moves papers before another in the order set by hand (`null`: to the end). */
  'papers.reorder': act()(z.object({ documentIds: z.array(id).min(1).max(5000), beforeId: id.nullable() })),
};
