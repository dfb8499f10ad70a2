import { z } from 'zod';
import { act, ask } from '../operation/operation';
import {
  sameNameAnswers,
  type Foreseen,
  type KnownUpload,
  type SameContentPlace,
  type UnfinishedUpload,
  type UploadOutcome,
} from './model';

const id = z.uuid();

/** Values as text, by the names of their columns. */
const cells = z.record(z.string().max(300), z.string().max(40_000));

/** Of how many files one message can tell. */
export const mostToldOf = 50_000;

/** The Upload-Metadata of a tus client (tus 1.0, "Creation"). */
export const uploadMetadataSchema = z.object({
  /** Where it is filed; left out with `intake`. */
  placeId: id.optional(),
  fileName: z.string().min(1).max(1000),
  title: z.string().max(1000).optional(),
  remark: z.string().max(4000).optional(),
  sha256: z
    .string()
    .regex(/^[0-9a-f]{64}$/u)
    .optional(),
  onSameName: z.enum(sameNameAnswers).optional(),
  /** The paper of which it is to be the next version, whatever the file is called. It stays where that paper is. */
  versionOf: id.optional(),
  /** `file`: file it even if the same content exists already. */
  onSameContent: z.literal('file').optional(),
  /**
   * Chosen by the sender, who may repeat the request that begins an upload, and an upload that was filed is then not filed
   * again. Without it the library chooses one.
   */
  id: id.optional(),
  /** `held`: the complete upload waits until `uploads.settle` files it with others; `intake`: until `intake.putIn` makes an arrival of it. */
  filing: z.enum(['held', 'intake']).optional(),
  /** The path of a dropped folder, made below the place first: `Agendas/2026`. */
  relativePath: z.string().max(4000).optional(),
});
export type UploadMetadata = z.output<typeof uploadMetadataSchema>;

/** Questions and acts about files on their way in. */
export const uploadsContract = {
  /** What would become of files and the folders they come in, if they were filed in a place now. */
  'uploads.foresee': ask<Foreseen>()(
    z.object({
      placeId: id,
      files: z
        .array(z.object({ relativePath: z.string().max(4000), title: z.string().max(1000) }))
        .min(1)
        .max(5000),
    }),
  ),
  /** Papers that the caller may see whose content is now one of these; one for each. */
  'uploads.alike': ask<readonly (SameContentPlace & { readonly sha256: string })[]>()(
    z.object({
      sha256s: z
        .array(z.string().regex(/^[0-9a-f]{64}$/u))
        .min(1)
        .max(1000),
    }),
  ),
  /** What the library has of some uploads of the caller, by the ids that their sender chose; of others nothing. */
  'uploads.known': ask<readonly KnownUpload[]>()(z.object({ uploadIds: z.array(id).min(1).max(1000) })),
  'uploads.unfinished': ask<readonly UnfinishedUpload[]>()(z.object({})),
  /** Files many complete uploads, together where nothing has to be asked. Up to 200. */
  'uploads.settle': act<readonly { readonly uploadId: string; readonly outcome: UploadOutcome }[]>()(
    z.object({
      uploadIds: z.array(id).min(1).max(200),
      /** Values that papers get with their filing, by the ids of uploads. */
      cells: z.record(id, cells).optional(),
    }),
  ),
  /** Tells colleagues of what came of uploads, once they are filed. `notTold`: names of those to whom none of it is open. */
  'uploads.tell': act<{ told: number; notTold: readonly string[] }>()(
    z.object({ uploadIds: z.array(id).min(1).max(mostToldOf), personIds: z.array(id).min(1).max(50) }),
  ),
  'upload.outcome': act<UploadOutcome>()(z.object({ uploadId: id })),
  'upload.answer': act<UploadOutcome>()(
    z.object({
      uploadId: id,
      onSameName: z.enum(sameNameAnswers).optional(),
      onSameContent: z.enum(['file', 'leave']).optional(),
      cells: cells.optional(),
    }),
  ),
  'upload.redirect': act()(z.object({ uploadIds: z.array(id).min(1).max(5000), placeId: id })),
  'upload.cancel': act()(z.object({ uploadId: id })),
};
