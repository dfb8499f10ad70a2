'use client';

import { Link } from '../kit/link';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { isComing, IssueList } from './IssueList';

const againMs = 1500;

/** Packs with their issues, the newest first. */
export function PackList({
  of,
  nothing,
}: {
  readonly of: { readonly meetingId: string } | { readonly placeId: string };
  /** What is said where there are none. */
  readonly nothing: string;
}) {
  const { data, error } = useAsk(
    'packs.of',
    { of },
    { again: (packs) => packs.some(({ issues }) => issues.some(isComing)) && againMs },
  );
  return (
    <>
      {error && <p role="alert">{saysOf(error)}</p>}
      {data?.length === 0 && (
        <p className="mb-3 rounded-sm border border-line bg-sheet px-4 py-4 text-soft">{nothing}</p>
      )}
      <ul>
        {data?.map(({ id, name, mayChange, issues }) => (
          <li key={id} className="mb-4">
            <div className="mb-1 flex flex-wrap items-baseline gap-3">
              <h2 className="min-w-0 flex-1 font-condensed text-lg">{name}</h2>
              {mayChange && (
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
              <IssueList issues={issues} mayChange={mayChange} />
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
