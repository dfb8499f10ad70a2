'use client';

import type { OwedPaper } from '@/core/agenda/contract';
import { dayNumber } from '@/core/calendar/period';
import { writeDay } from '@/core/calendar/typedDay';
import { dueInWords } from '@/core/reviews/standing';
import { Link } from '../kit/link';
import { useToday } from '../surroundings/useToday';

/** A line for each paper that is owed to a meeting. */
export function OwedPapers({
  owed,
  line,
}: {
  readonly owed: readonly OwedPaper[];
  /** The look of a line. */
  readonly line: string;
}) {
  const today = useToday();
  return owed.map(({ id, what, who, dueOn, isMine, meeting, dossier }) => {
    const due = dueOn === null ? null : (dayNumber(dueOn) ?? 0);
    return (
      <li key={id} className={line}>
        <span className="min-w-0 flex-1 truncate">
          <Link href={`/meeting/${meeting.id}`} className="font-medium hover:underline">
            {what}
          </Link>{' '}
          is asked of {isMine ? 'you' : who}, for {dossier.name}, {writeDay(meeting.day)}
        </span>
        {due !== null && (
          <span className={`shrink-0 text-sm ${due <= today ? 'text-ember-ink' : 'text-soft'}`}>
            {dueInWords(due, today)}
          </span>
        )}
      </li>
    );
  });
}
