'use client';

import { useRouter } from 'next/navigation';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { isComing, IssueList } from './IssueList';

/** The packs of a meeting, with their issues; whoever may put one together begins it here. */
export function PackList({
  meetingId,
  mayChange,
  hasAgenda,
}: {
  readonly meetingId: string;
  readonly mayChange: boolean;
  readonly hasAgenda: boolean;
}) {
  const router = useRouter();
  const { data, error } = useAsk(
    'packs.of',
    { of: { meetingId } },
    { again: (packs) => packs.some(({ issues }) => issues.some(isComing)) && 1500 },
  );
  const begin = useAct('pack.begin');
  return (
    <>
      {error && <p role="alert">{saysOf(error)}</p>}
      {data?.length === 0 && (
        <p className="mb-3 rounded-sm border border-line bg-sheet px-4 py-4 text-soft">
          {mayChange
            ? hasAgenda
              ? 'There is no pack yet. It begins with a section for each item of the agenda, and the papers in it.'
              : 'There is no pack yet. Begin the agenda first: the pack follows it.'
            : 'No pack is issued yet.'}
        </p>
      )}
      <ul>
        {data?.map(({ id, name, mayChange: mayAmend, issues }) => (
          <li key={id} className="mb-4">
            <div className="mb-1 flex flex-wrap items-baseline gap-3">
              <h2 className="min-w-0 flex-1 font-condensed text-lg">{name}</h2>
              {mayAmend && (
                <Link
                  href={`/pack/${id}`}
                  aria-label={`Put “${name}” together`}
                  className="inline-flex min-h-[24px] items-center text-brine-ink hover:underline"
                >
                  Put it together
                </Link>
              )}
            </div>
            {issues.length === 0 ? (
              <p className="rounded-sm border border-line bg-sheet px-4 py-2 text-soft">Not issued yet.</p>
            ) : (
              <IssueList issues={issues} mayChange={mayAmend} />
            )}
          </li>
        ))}
      </ul>
      {mayChange && hasAgenda && (
        <Button
          disabled={begin.isPending}
          onClick={() =>
            begin.mutate({ of: { meetingId } }, { onSuccess: ({ packId }) => router.push(`/pack/${packId}`) })
          }
        >
          {data?.length === 0 ? 'Begin the pack' : 'Begin another pack'}
        </Button>
      )}
    </>
  );
}
