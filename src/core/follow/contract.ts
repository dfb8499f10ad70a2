import { z } from 'zod';
import type { NewsLine } from '../desk/news';
import { act, ask } from '../operation/operation';
import { summaryEvery, type SummaryTimes } from './summary';

/** What can be followed. */
export const followKinds = ['paper', 'place', 'view'] as const;
export type FollowKind = (typeof followKinds)[number];

const on = z.object({ kind: z.enum(followKinds), ref: z.uuid() });

/** Something that the caller follows. */
export interface Followed {
  readonly kind: FollowKind;
  readonly ref: string;
  readonly name: string;
  /** Where it is, in words. */
  readonly where: string;
  readonly address: string;
}

/** So much one person follows at most. */
export const mostFollowed = 200;

/** Questions and acts about following. All of it is the caller's alone. */
export const followContract = {
  'follow.list': ask<readonly Followed[]>()(z.object({})),
  'follow.put': act()(z.object({ on })),
  'follow.remove': act()(z.object({ on })),
  /** What others changed in it within the last two weeks. */
  'follow.news': ask<readonly NewsLine[]>()(z.object({})),
  /** When the caller is told by mail; null: not at all. */
  'follow.times': ask<SummaryTimes | null>()(z.object({})),
  'follow.setTimes': act()(
    z.object({
      times: z
        .object({
          every: z.enum(summaryEvery),
          hour: z.number().int().min(0).max(23),
          weekday: z.number().int().min(1).max(7),
        })
        .nullable(),
    }),
  ),
};
