'use client';

import { useRouter } from 'next/navigation';
import { Button } from '../kit/button';
import { useAct } from '../server/useCall';
import { PackList } from './PackList';

/** The packs of a meeting; one is begun from its agenda. */
export function MeetingPacks({
  meetingId,
  mayChange,
  hasAgenda,
}: {
  readonly meetingId: string;
  readonly mayChange: boolean;
  readonly hasAgenda: boolean;
}) {
  const router = useRouter();
  const begin = useAct('pack.begin');
  const nothing = !mayChange
    ? 'No pack is issued yet.'
    : hasAgenda
      ? 'There is no pack yet. It begins with a section for each item of the agenda, and the papers in it.'
      : 'There is no pack yet. Begin the agenda first: the pack follows it.';
  return (
    <>
      <PackList of={{ meetingId }} nothing={nothing} />
      {mayChange && hasAgenda && (
        <Button
          disabled={begin.isPending}
          onClick={() =>
            begin.mutate({ of: { meetingId } }, { onSuccess: ({ packId }) => router.push(`/pack/${packId}`) })
          }
        >
          Begin a pack
        </Button>
      )}
    </>
  );
}
