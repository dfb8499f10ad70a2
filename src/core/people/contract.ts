import { z } from 'zod';
import type { ImpactLine } from '../access/impactWords';
import { act, ask } from '../operation/operation';
import { nameSchema } from '../text/name';
import { groupRoles, type GroupRow, type InvitationRow, type PersonRow } from './model';
import { passwordSchema } from './password';

const id = z.uuid();
const day = z.iso.date('That is no day: 2026-07-14 is the form.').nullable();
/** An email address, folded to lower case. */
export const emailSchema = z
  .string()
  .trim()
  .toLowerCase()
  .max(254, 'An e-mail address has at most 254 characters.')
  .pipe(z.email('That is not an e-mail address: name@example.org is the form.'));

/** The form of a new person: on an invitation, or as the first keeper. */
export const joinSchema = z.object({ token: z.string().min(20).max(200), name: nameSchema, password: passwordSchema });
/** What the first page asks of an empty library. */
export const firstKeeperSchema = z.object({
  libraryName: nameSchema,
  name: nameSchema,
  email: emailSchema,
  password: passwordSchema,
});

const terms = z
  .array(
    z
      .object({
        member: z.object({ kind: z.enum(['person', 'group']), id }),
        role: z.enum(groupRoles),
        from: day,
        until: day,
      })
      .refine(({ from, until }) => from === null || until === null || from <= until, {
        path: ['until'],
        message: 'A term ends on the day it begins, or later.',
      }),
  )
  .max(1000);

/** Questions and acts about people and groups. */
export const peopleContract = {
  'people.list': ask<{
    people: readonly PersonRow[];
    groups: readonly GroupRow[];
    invitations: readonly InvitationRow[];
  }>('noPapers')(z.object({})),
  'person.invite': act<{ link: string; expiresAt: string }>()(
    z.object({ name: nameSchema, email: emailSchema, keeper: z.boolean() }),
  ),
  'person.setActive': act()(z.object({ personId: id, active: z.boolean() })),
  'person.setOutside': act()(z.object({ personId: id, outside: z.boolean() })),
  'person.setKeeper': act()(z.object({ personId: id, keeper: z.boolean() })),
  'group.create': act<{ id: string }>()(z.object({ name: nameSchema })),
  /** Who would gain and lose what if the group had these terms. */
  'group.forecast': ask<readonly ImpactLine[]>()(z.object({ groupId: id, terms })),
  'group.change': act()(
    z.object({
      groupId: id,
      name: nameSchema,
      terms,
      revision: z.number().int(),
    }),
  ),
  'group.remove': act()(z.object({ groupId: id })),
};
