import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { nameSchema } from '../text/name';
import { heldViewSchema, type HoldKind } from './model';

const id = z.uuid();
const revision = z.number().int().nonnegative();
const reason = z.string().trim().min(1, 'Say why.').max(1000, 'At most 1,000 characters fit.');

/** What a hold is on: places with all below them, papers, or what a view shows at the time. */
const on = z.object({
  placeIds: z.array(id).max(500),
  documentIds: z.array(id).max(5000),
  views: z.array(heldViewSchema).max(20),
});
export type HeldThings = z.output<typeof on>;

/** One thing that a hold is on. */
export interface HeldThing {
  readonly id: string;
  readonly kind: HoldKind;
  readonly name: string;
  readonly address: string;
}

/** A hold, as keepers see it. Times are ISO 8601. */
export interface HoldRow {
  readonly id: string;
  readonly name: string;
  readonly reason: string;
  readonly placedBy: string;
  readonly placedAt: string;
  readonly liftedBy: string | null;
  readonly liftedAt: string | null;
  readonly liftReason: string;
  /** The first things that it is on. */
  readonly things: readonly HeldThing[];
  /** How many things it is on, and how many papers are under it now. */
  readonly thingCount: number;
  readonly papers: number;
  /** What it was on, once it is lifted. */
  readonly wasOn: readonly string[];
  readonly revision: number;
}

/** Questions and acts about holds. All but the first are for keepers. */
export const holdsContract = {
  /** The holds that a paper is under. */
  'holds.of': ask<readonly { readonly name: string; readonly reason: string; readonly placedAt: string }[]>()(
    z.object({ documentId: id }),
  ),
  'holds.list': ask<readonly HoldRow[]>()(z.object({})),
  'hold.place': act<{ holdId: string }>()(z.object({ name: nameSchema, reason, on })),
  'hold.extend': act()(z.object({ holdId: id, on, revision })),
  /** Takes something out of a hold. */
  'hold.release': act()(z.object({ holdId: id, thingId: id, revision })),
  'hold.lift': act()(z.object({ holdId: id, reason, revision })),
};
