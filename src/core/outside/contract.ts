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

/** A link's password is shared separately from the link, so it may be shorter than an account's. */
export const linkPasswordSchema = z
  .string()
  .min(8, 'At least eight characters.')
  .max(128, 'At most 128 characters fit.')
  .transform((raw) => raw.normalize('NFKC'));

/** Questions and acts about links for people outside. */
export const outsideContract = {
  /** `sent`: whether it was sent to the address. */
  'link.make': act<{ id: string; link: string; sent: boolean }>()(
    z.object({
      on,
      /** The recipient, who confirms with a code sent there; null for anyone with the link. */
      email: emailSchema.nullable(),
      password: linkPasswordSchema.nullable(),
      copies: z.boolean(),
      /** The last day on which it works, ISO 8601. */
      until: z.iso.date('That is no day: 2026-07-14 is the form.'),
      mostOpenings: z
        .number('A number, or nothing for no limit.')
        .int('A whole number.')
        .min(1, 'Once at least.')
        .max(1000, 'A thousand times at most.')
        .nullable(),
      /** Sent with the link to the address. */
      message: z.string().trim().max(2000),
    }),
  ),
  'link.withdraw': act()(z.object({ linkId: id })),
  /** Links to one paper or place, or to all; the caller's own, and for keepers everyone's. */
  'links.list': ask<readonly OutsideLinkRow[]>()(z.object({ onId: id.nullable() })),
};

/** What a visitor enters to open a link. */
export const openLinkSchema = z.object({
  password: z.string().max(200).nullish(),
  code: z.string().trim().max(20).nullish(),
});
