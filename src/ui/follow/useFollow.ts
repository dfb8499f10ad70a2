'use client';

import type { FollowKind } from '@/core/follow/contract';
import { say } from '../kit/notice';
import type { MenuAct } from '../kit/menu';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** Following something, or no longer, for a menu. */
export function useFollow(kind: FollowKind, ref: string, name: string): MenuAct[] {
  const isOwn = useSurroundings().seenBy === null;
  const { data } = useAsk('follow.list', {}, { enabled: isOwn });
  const put = useAct('follow.put');
  const remove = useAct('follow.remove');
  if (!isOwn) return [];
  const on = { kind, ref };
  return data?.some((each) => each.kind === kind && each.ref === ref)
    ? [
        {
          label: 'No longer follow',
          act: () =>
            remove.mutate(
              { on },
              { onSuccess: () => say.undoable(`“${name}” is no longer followed`, () => put.mutate({ on })) },
            ),
        },
      ]
    : [
        {
          label: 'Follow',
          act: () =>
            put.mutate(
              { on },
              {
                onSuccess: () =>
                  say.undoable(`“${name}” is followed: what others change stands on your desk`, () =>
                    remove.mutate({ on }),
                  ),
              },
            ),
        },
      ];
}
