import type { Capability } from '@/core/access/capability';
import type { AccessOn } from '@/core/access/contract';
import type { Actor } from '@/server/gate/actor';
import { setAccess } from '@/server/access/change';
import { accessSheet } from '@/server/access/sheet';
import { papersByIds } from '@/server/documents/ledger';

export const placeOn = (id: string): AccessOn => ({ kind: 'place', id });
export const paperOn = (id: string): AccessOn => ({ kind: 'paper', id });

/** What a sheet is to say of someone, or of a group. */
export interface Saying {
  readonly who: Actor | { readonly groupId: string };
  readonly gives?: readonly Capability[];
  readonly withholds?: readonly Capability[];
}

export const grants = (lines: readonly Saying[]) =>
  lines.map(({ who, gives = [], withholds = [] }) => ({
    subject:
      'groupId' in who ? { kind: 'group' as const, id: who.groupId } : { kind: 'person' as const, id: who.personId },
    gives: [...gives],
    withholds: [...withholds],
  }));

/** Makes a sheet say this and nothing else. */
export async function say(
  keeper: Actor,
  on: AccessOn,
  lines: readonly Saying[],
  follows = true,
  message: string | null = null,
) {
  const { revision } = await accessSheet(keeper, { on });
  return setAccess(keeper, { on, follows, grants: grants(lines), revision, message });
}

export const sees = async (who: Actor, documentId: string): Promise<boolean> =>
  (await papersByIds(who, { documentIds: [documentId] })).length === 1;
