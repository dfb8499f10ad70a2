'use client';

import type { AgendaSheet } from '@/core/agenda/contract';
import { attendeePartWords, presences, presenceWords, type Presence } from '@/core/agenda/model';
import { quorumInWords } from '@/core/minutes/quorum';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { useAct } from '../server/useCall';

type Attendees = AgendaSheet['attendees'];

/** Who was at a meeting, and whether they were enough. */
export function WhoWasThere({
  meetingId,
  attendees,
  quorum,
  mayChange,
}: {
  readonly meetingId: string;
  readonly attendees: Attendees;
  readonly quorum: number | null;
  readonly mayChange: boolean;
}) {
  const note = useAct('attendance.note');
  const send = (people: readonly { attendeeId: string; presence: Presence | null }[]) =>
    note.mutate({ meetingId, people: [...people] });
  const answered = attendees.flatMap(({ id, answer, presence }) =>
    answer === null || presence !== null
      ? []
      : [{ attendeeId: id, presence: answer === 'coming' ? ('present' as const) : answer }],
  );
  const enough = quorumInWords(attendees, quorum);
  return (
    <section aria-label="Who was there" className="mb-5">
      <div className="mb-1 flex flex-wrap items-center gap-x-4">
        <h2 className="font-condensed text-[11.5px] tracking-wide text-soft uppercase">Who was there</h2>
        <span role="status" className="flex-1 text-sm text-soft">
          {enough ?? (quorum === null ? '' : `The quorum is ${quorum}.`)}
        </span>
        {mayChange && answered.length > 0 && (
          <Button look="quiet" className="h-6" disabled={note.isPending} onClick={() => send(answered)}>
            As they answered
          </Button>
        )}
      </div>
      <ul className="rounded-sm border border-line bg-sheet sm:columns-2 sm:gap-0">
        {attendees.map(({ id, name, part, presence }) => (
          <li
            key={id}
            className="flex -mb-px min-h-[36px] break-inside-avoid items-center gap-3 border-b border-line px-4 py-1"
          >
            <span className="min-w-0 flex-1">
              {name}
              {part === 'inAttendance' && (
                <span className="text-sm text-soft"> · {attendeePartWords[part].toLowerCase()}</span>
              )}
            </span>
            {mayChange ? (
              <select
                aria-label={`Whether ${name} was there`}
                value={presence ?? ''}
                onChange={({ target: { value } }) =>
                  send([{ attendeeId: id, presence: presences.find((each) => each === value) ?? null }])
                }
                className="h-[28px] rounded-sm border border-edge bg-sheet px-2"
              >
                <option value="">Not noted</option>
                {presences.map((each) => (
                  <option key={each} value={each}>
                    {presenceWords[each]}
                  </option>
                ))}
              </select>
            ) : (
              <span className="text-soft">{presence === null ? 'Not noted' : presenceWords[presence]}</span>
            )}
          </li>
        ))}
        {attendees.length === 0 && (
          <li className="px-4 py-4 text-soft">
            Nobody is written down.{' '}
            {mayChange && (
              <Link href={`/meeting/${meetingId}?part=people`} className="text-brine-ink hover:underline">
                Say who attends
              </Link>
            )}
          </li>
        )}
      </ul>
    </section>
  );
}
