import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { lineKinds, mostPicked, type StoreState, type WayInSettings } from './wayIn';

const id = z.uuid();
const revision = z.number().int().nonnegative();

/** A way in with how it gets on. */
export interface WayInRow {
  readonly id: string;
  readonly name: string;
  readonly on: boolean;
  readonly settings: WayInSettings;
  /** Where its folder is on the server; null: it has none. */
  readonly folderAt: string | null;
  /** It is to be looked at at once. */
  readonly lookNow: boolean;
  /** ISO 8601; null: not yet. */
  readonly lookedAt: string | null;
  readonly tookAt: string | null;
  /** How many arrivals came by it. */
  readonly taken: number;
  /** Why the last look came to nothing, or what it left, in words; null: all is well. */
  readonly fault: string | null;
  readonly revision: number;
}

/** A paper in a connected store. */
export interface StorePaper {
  /** Below the folder of the store. */
  readonly path: string;
  readonly sizeBytes: number;
  /** When it was changed there, as ISO 8601; null: the store does not say. */
  readonly changedAt: string | null;
  readonly state: StoreState;
}

const checkedBy = z.string().trim().max(253, 'At most 253 characters fit.').optional();

const settings = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('mailbox'),
    host: z.string().trim().min(1, 'A server is needed.').max(253, 'At most 253 characters fit.'),
    port: z.number().int().min(1, 'A port is from 1 to 65535.').max(65_535, 'A port is from 1 to 65535.'),
    line: z.enum(lineKinds),
    user: z.string().trim().min(1, 'A user is needed.').max(320, 'At most 320 characters fit.'),
    folder: z.string().trim().min(1, 'A folder is needed: INBOX is where mail comes in.').max(200),
    checkedBy,
  }),
  z.object({
    kind: z.literal('scans'),
    folder: z.string().trim().min(1, 'A folder is needed.').max(80, 'At most 80 characters fit.'),
    atBlanks: z.boolean(),
  }),
  z.object({
    kind: z.literal('store'),
    address: z.string().trim().min(1, 'An address is needed.').max(500, 'At most 500 characters fit.'),
    user: z.string().trim().max(320, 'At most 320 characters fit.'),
    follows: z.boolean(),
  }),
  z.object({
    kind: z.enum(['maildir', 'mbox']),
    folder: z.string().trim().min(1, 'A folder is needed.').max(80, 'At most 80 characters fit.'),
    checkedBy,
  }),
]);

/** Questions and acts about from where the library fetches what arrives. */
export const waysContract = {
  'intake.ways': ask<{ readonly ways: readonly WayInRow[]; readonly answersSenders: boolean }>()(z.object({})),
  /** Whether whoever sends a mail to the library is told that it arrived. */
  'intake.answerSenders': act()(z.object({ on: z.boolean() })),
  /** Sets up a way in where `id` is null, or changes that one. */
  'intake.keepWay': act<{ id: string }>()(
    z.object({
      id: id.nullable(),
      revision,
      name: z.string().trim().min(1, 'A name is needed.').max(80, 'At most 80 characters fit.'),
      on: z.boolean(),
      settings,
      /** Empty: as before. */
      password: z.string().max(1000),
    }),
  ),
  /** What lies in a connected store since the last look, of which the path has these words. */
  'intake.inStore': ask<{ readonly papers: readonly StorePaper[]; readonly hasMore: boolean }>()(
    z.object({ id, words: z.string().trim().max(200) }),
  ),
  /** Has papers of a connected store taken. `picked`: how many were not taken as they are before. */
  'intake.pick': act<{ picked: number }>()(
    z.object({
      id,
      paths: z
        .array(z.string().min(1).max(1000))
        .min(1, 'Tick what is to be taken.')
        .max(mostPicked, `At most ${mostPicked} are picked at once.`),
    }),
  ),
  'intake.lookNow': act()(z.object({ id })),
  'intake.removeWay': act()(z.object({ id })),
  'intake.restoreWay': act()(z.object({ id })),
};
