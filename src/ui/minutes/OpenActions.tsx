'use client';

import { openActionsTitle } from '@/core/agenda/page';
import { writeDay } from '@/core/calendar/typedDay';
import { Link } from '../kit/link';
import { useAsk } from '../server/useCall';
import { OutcomeLine } from './OutcomeLine';

/** What earlier meetings left to be done, as a meeting finds it. */
export function OpenActions({ meetingId }: { readonly meetingId: string }) {
  const { data } = useAsk('actions.open', { meetingId });
  if (!data || data.length === 0) return null;
  return (
    <section aria-label={openActionsTitle} className="mt-5">
      <h2 className="mb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">{openActionsTitle}</h2>
      <ul className="rounded-sm border border-line bg-sheet">
        {data.map((each) => (
          <li
            key={each.id}
            className="flex flex-wrap items-start gap-x-2 border-b border-line px-4 py-1.5 last:border-b-0"
          >
            <OutcomeLine
              outcome={each}
              saysKind={false}
              from={
                <Link href={`/meeting/${each.meeting.id}?part=minutes`} className="text-brine-ink hover:underline">
                  {writeDay(each.meeting.day)}, item {each.number}
                </Link>
              }
            />
          </li>
        ))}
      </ul>
    </section>
  );
}
