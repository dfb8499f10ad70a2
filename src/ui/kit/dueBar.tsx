import { clsx } from 'clsx';
import { dayNumber, type DayNumber } from '@/core/calendar/period';
import { writeDay } from '@/core/calendar/typedDay';
import { dueInWords, shareRun, stateOfReview } from '@/core/reviews/standing';

/**
 * When something is due, in words with a short bar that fills as the time runs; hatched once it is past. Days are ISO 8601.
 * @param since the day from which the time runs
 */
export function DueBar({
  due,
  since,
  warnDays,
  today,
}: {
  readonly due: string;
  readonly since: string;
  readonly warnDays: number;
  readonly today: DayNumber;
}) {
  const next = { due: dayNumber(due) ?? today, since: dayNumber(since) ?? today };
  const state = stateOfReview(next, warnDays, today);
  const isLate = state === 'past' || state === 'due';
  return (
    <span className="inline-flex items-center gap-2" title={writeDay(due)}>
      <span aria-hidden className="h-[7px] w-[34px] shrink-0 overflow-hidden rounded-[2px] border border-edge bg-mist">
        <span
          className={clsx(
            'block h-full',
            state === 'past' ? 'due-hatched' : isLate || state === 'comingUp' ? 'bg-ember' : 'bg-brine',
          )}
          style={{ width: `${Math.round(shareRun(next, today) * 100)}%` }}
        />
      </span>
      <span className={isLate ? 'text-ember-ink' : ''}>{dueInWords(next.due, today)}</span>
    </span>
  );
}
