import { z } from 'zod';
import { act, ask } from '../operation/operation';
import { emailSchema } from '../people/contract';
import { conditionsSchema } from '../views/conditions';
import { maxSorts, sortSchema } from '../views/spec';
import type { OutsideLinkRow, SharedView } from './model';

const id = z.uuid();

const sharedView = z.object({
  name: z.string().trim().min(1).max(200),
  below: z.boolean(),
  filter: z.string().max(200),
  conditions: conditionsSchema,
  sorts: z.array(sortSchema).max(maxSorts).readonly(),
}) satisfies z.ZodType<SharedView>;

const on = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('paper'), id }),
  z.object({ kind: z.literal('place'), id, view: sharedView }),
]);

/** A link's password is told to someone by another way than the link, so it may be shorter than a person's own. */
export const linkPasswordSchema = z
  .string()
  .min(8, 'At least eight characters.')
  .max(128, 'At most 128 characters fit.')
  .transform((raw) => raw.normalize('NFKC'));

export const outsideContract = {
  /** `sent`: whether a message with it has gone to the address. */
  'link.make': act<{ id: string; link: string; sent: boolean }>()(
    z.object({
      on,
      /** The one it is for, who proves it by a code sent there; null for anyone with the link. */
      email: emailSchema.nullable(),
      password: linkPasswordSchema.nullable(),
      copies: z.boolean(),
      /** The last day on which it opens, ISO 8601. */
      until: z.iso.date('That is no day: 2026-07-14 is the form.'),
      mostOpenings: z.number().int().min(1, 'Once at least.').max(1000, 'A thousand times at most.').nullable(),
      /** Goes with the link in a message to the address. */
      message: z.string().trim().max(2000),
    }),
  ),
  'link.withdraw': act()(z.object({ linkId: id })),
  /** To one paper or place, or to all; those that the asker made, and for keepers everyone's. */
  'links.list': ask<readonly OutsideLinkRow[]>()(z.object({ onId: id.nullable() })),
};

/** What someone outside gives to open a link. */
export const openLinkSchema = z.object({
  password: z.string().max(200).nullish(),
  code: z.string().trim().max(20).nullish(),
});
