'use client';

import { weekdayNames } from '@/core/calendar/recurrence';
import { summaryEvery, type SummaryEvery, type SummaryTimes as Times } from '@/core/follow/summary';
import { ChoiceField } from '../kit/field';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { useAct, useAsk } from '../server/useCall';

const everyWords: Readonly<Record<SummaryEvery, string>> = { daily: 'every day', weekly: 'once a week' };
const usual: Times = { every: 'daily', hour: 8, weekday: 1 };

/** When the person is told by mail of what they follow, and what that is. */
export function SummaryTimes() {
  const { data: followed } = useAsk('follow.list', {});
  const { data: times, isPending } = useAsk('follow.times', {});
  const set = useAct('follow.setTimes');
  const remove = useAct('follow.remove');
  if (isPending || !followed) return null;
  const keep = (next: Times | null) =>
    set.mutate(
      { times: next },
      { onSuccess: () => say.done(next ? 'That is when you are told' : 'No more mails about it') },
    );
  return (
    <>
      {followed.length === 0 ? (
        <p className="mb-3 text-soft">Nothing yet. Follow is in the menu of a paper, a place or a view.</p>
      ) : (
        <ul className="mb-3 rounded-sm border border-line bg-sheet">
          {followed.map(({ kind, ref, name, where, address }) => (
            <li key={`${kind} ${ref}`} className="flex items-center gap-2 border-b border-line px-3 py-1 last:border-0">
              <Link href={address} className="min-w-0 flex-1 truncate hover:underline">
                {name} <span className="text-sm text-soft">{where}</span>
              </Link>
              <button
                type="button"
                className="text-sm text-brine-ink hover:underline"
                aria-label={`No longer follow ${name}`}
                onClick={() => remove.mutate({ on: { kind, ref } })}
              >
                No longer
              </button>
            </li>
          ))}
        </ul>
      )}
      <ChoiceField
        label="A summary by mail"
        help="What is new in what you follow, and the reviews that wait for you."
        value={times?.every ?? ''}
        onChange={(event) => {
          const every = summaryEvery.find((each) => each === event.target.value);
          keep(every ? { ...(times ?? usual), every } : null);
        }}
      >
        <option value="">none: it stands on your desk</option>
        {summaryEvery.map((every) => (
          <option key={every} value={every}>
            {everyWords[every]}
          </option>
        ))}
      </ChoiceField>
      {times && (
        <div className="grid grid-cols-2 gap-3">
          {times.every === 'weekly' && (
            <ChoiceField
              label="On"
              value={times.weekday}
              onChange={(event) => keep({ ...times, weekday: Number(event.target.value) })}
            >
              {weekdayNames.map((name, at) => (
                <option key={name} value={at + 1}>
                  {name}
                </option>
              ))}
            </ChoiceField>
          )}
          <ChoiceField
            label="From"
            value={times.hour}
            onChange={(event) => keep({ ...times, hour: Number(event.target.value) })}
          >
            {Array.from({ length: 24 }, (_, hour) => (
              <option key={hour} value={hour}>
                {String(hour).padStart(2, '0')}:00
              </option>
            ))}
          </ChoiceField>
        </div>
      )}
    </>
  );
}
