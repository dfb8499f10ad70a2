'use client';

import { dayNumber } from '@/core/calendar/period';
import { writeDay } from '@/core/calendar/typedDay';
import type { MeetingOutcome } from '@/core/minutes/contract';
import { dueInWords } from '@/core/reviews/standing';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { useSettle } from '../minutes/useSettle';
import { useToday } from '../surroundings/useToday';

/** A line of a desk for each action that meetings gave to the person. */
export function MyActions({
  actions,
  line,
}: {
  readonly actions: readonly MeetingOutcome[];
  /** The look of a line. */
  readonly line: string;
}) {
  const { settle, isPending } = useSettle();
  const today = useToday();
  return actions.map((action) => {
    const { id, text, dueOn, meeting, dossier } = action;
    const due = dueOn === null ? null : (dayNumber(dueOn) ?? 0);
    return (
      <li key={id} className={line}>
        <span className="min-w-0 flex-1 truncate">
          <Link href={`/meeting/${meeting.id}?part=minutes`} className="font-medium hover:underline">
            {text}
          </Link>
          <span className="text-soft">
            , from {dossier.name}, {writeDay(meeting.day)}
          </span>
        </span>
        {due !== null && (
          <span className={`shrink-0 text-sm ${due <= today ? 'text-ember-ink' : 'text-soft'}`}>
            {dueInWords(due, today)}
          </span>
        )}
        <Button
          look="quiet"
          className="h-6 text-sm"
          aria-label={`Done: ${text}`}
          disabled={isPending}
          onClick={() => settle(action, true)}
        >
          Done
        </Button>
      </li>
    );
  });
}
