import { z } from 'zod';
import { capabilities } from '../access/capability';
import { act, ask } from '../operation/operation';
import { nameSchema } from '../text/name';
import type { AccountRows, DoorLine } from './account';

const id = z.uuid();

/** Questions and acts about the caller's own account. */
export const accountContract = {
  'account.open': ask<AccountRows>('noPapers')(z.object({})),
  'door.list': ask<readonly DoorLine[]>('noPapers')(z.object({ before: z.number().int().nullable() })),
  'session.end': act()(z.object({ sessionId: id })),
  'token.create': act<{ token: string }>()(
    z.object({
      name: nameSchema,
      capabilities: z.array(z.enum(capabilities)).min(1, 'A token that may do nothing is of no use.'),
      until: z.iso.date('That is no day: 2026-07-14 is the form.'),
    }),
  ),
  'token.withdraw': act()(z.object({ tokenId: id })),
  'person.dropSecondStep': act()(z.object({ personId: id })),
};
