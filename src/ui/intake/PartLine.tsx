import { useState, type ReactNode } from 'react';
import type { ArrivalSheet } from '@/core/intake/contract';
import { Link } from '../kit/link';
import { Stamp } from '../kit/stamp';

/** A part of an arrival: whether it is filed, and under which title. @param children what is filled in for it */
export function PartLine({
  part: { attachment, name, stamp, billFaults, newerOf, filedAlready },
  title,
  isShown,
  onShow,
  onTitle,
  versionOf,
  onVersionOf,
  children,
}: {
  readonly part: ArrivalSheet['parts'][number];
  /** Null: it is not filed. */
  readonly title: string | null;
  readonly isShown: boolean;
  readonly onShow: () => void;
  readonly onTitle: (title: string | null) => void;
  /** The paper of which it becomes the newer version; null: it becomes a paper. */
  readonly versionOf: string | null;
  readonly onVersionOf: (id: string | null) => void;
  readonly children: ReactNode;
}) {
  const [kept, setKept] = useState(title ?? name);
  const called = attachment === null && stamp === 'MAIL' ? 'The mail itself' : name;
  return (
    <div className="border-b border-line py-1.5">
      <div className="flex items-center gap-2">
        <input
          type="checkbox"
          aria-label={`File ${called}`}
          checked={title !== null}
          onChange={({ target }) => onTitle(target.checked ? kept : null)}
          className="size-[15px] shrink-0 accent-brine"
        />
        <Stamp word={stamp} />
        <button
          type="button"
          aria-current={isShown || undefined}
          onClick={onShow}
          className="min-h-[24px] min-w-0 flex-1 truncate text-left hover:underline aria-[current]:font-medium"
        >
          {called}
        </button>
      </div>
      {title !== null && newerOf.length > 0 && (
        <select
          aria-label={`What ${called} becomes`}
          value={versionOf ?? ''}
          onChange={({ target }) => onVersionOf(target.value === '' ? null : target.value)}
          className="mt-1 h-[30px] w-full rounded-sm border border-edge bg-sheet px-2"
        >
          <option value="">A paper of its own</option>
          {newerOf.map(({ id, title: older, place }) => (
            <option key={id} value={id}>
              Newer version of “{older}”, {place}
            </option>
          ))}
        </select>
      )}
      {title !== null && versionOf === null && (
        <input
          aria-label={`Title of ${called}`}
          value={title}
          maxLength={240}
          onChange={({ target }) => {
            setKept(target.value);
            onTitle(target.value);
          }}
          className="mt-1 h-[30px] w-full rounded-sm border border-edge bg-sheet px-2"
        />
      )}
      {billFaults?.length === 0 && <p className="text-sm text-soft">A bill with its data: all its sums come out.</p>}
      {billFaults?.map((says) => (
        <p key={says} role="alert" className="text-sm text-ember-ink">
          {says}
        </p>
      ))}
      {title !== null && versionOf === null && children}
      {filedAlready.map(({ id, title: filed, place }) => (
        <p key={id} className="text-sm text-soft">
          Filed already:{' '}
          <Link href={`/paper/${id}`} className="text-brine-ink underline">
            {filed}
          </Link>
          , {place}
        </p>
      ))}
    </div>
  );
}
