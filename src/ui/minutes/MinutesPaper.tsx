'use client';

import { useRouter } from 'next/navigation';
import { writeDay } from '@/core/calendar/typedDay';
import type { MinutesSheet } from '@/core/minutes/contract';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';

type Sheet = MinutesSheet;
type Kept = NonNullable<Sheet['minutes']>;

/** The minutes as a paper: begun, written, agreed. */
export function MinutesPaper({
  sheet,
  meetingId,
  hasAgenda,
}: {
  readonly sheet: Sheet;
  readonly meetingId: string;
  readonly hasAgenda: boolean;
}) {
  return (
    <section aria-label="The minutes" className="mb-5">
      <h2 className="mb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">The minutes</h2>
      <div className="rounded-sm border border-line bg-sheet px-4 py-3">
        {sheet.minutes ? (
          <Begun sheet={sheet} kept={sheet.minutes} meetingId={meetingId} />
        ) : (
          <NotBegun sheet={sheet} meetingId={meetingId} hasAgenda={hasAgenda} />
        )}
      </div>
    </section>
  );
}

function NotBegun({
  sheet: { mayChange, found },
  meetingId,
  hasAgenda,
}: {
  readonly sheet: Sheet;
  readonly meetingId: string;
  readonly hasAgenda: boolean;
}) {
  const router = useRouter();
  const begin = useAct('minutes.begin');
  if (!mayChange) return <p className="text-soft">There are no minutes yet that you can read.</p>;
  return (
    <>
      {found && (
        <p className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-1">
          <span className="min-w-0 flex-1 basis-60">
            <Link href={`/paper/${found.documentId}`} className="font-medium text-brine-ink hover:underline">
              {found.title}
            </Link>{' '}
            is filed where the minutes are expected.
          </span>
          <Button disabled={begin.isPending} onClick={() => begin.mutate({ meetingId, documentId: found.documentId })}>
            These are the minutes
          </Button>
        </p>
      )}
      <p className="mb-2 text-soft">
        {hasAgenda
          ? 'Minutes begin as a note, where the filing plan expects them: with who was there, a heading for each item, and what is recorded below.'
          : 'Minutes follow the agenda: begin that first.'}
      </p>
      {hasAgenda && (
        <Button
          look={found ? 'plain' : 'main'}
          disabled={begin.isPending}
          onClick={() =>
            begin.mutate(
              { meetingId, documentId: null },
              {
                onSuccess: ({ documentId }) =>
                  say.done('The minutes are begun', {
                    label: 'Write',
                    act: () => router.push(`/paper/${documentId}/write`),
                  }),
              },
            )
          }
        >
          {begin.isPending ? 'The minutes are being begun…' : 'Begin the minutes'}
        </Button>
      )}
    </>
  );
}

function Begun({
  sheet: { mayChange, unwritten, later },
  kept: { documentId, title, isNote, agreed },
  meetingId,
}: {
  readonly sheet: Sheet;
  readonly kept: Kept;
  readonly meetingId: string;
}) {
  const writeIn = useAct('minutes.writeIn');
  const agree = useAct('minutes.agree');
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <span className="min-w-0 flex-1 basis-60">
          <Link href={`/paper/${documentId}`} className="font-medium text-brine-ink hover:underline">
            {title}
          </Link>
          <span className="block text-sm text-soft">
            {agreed === null
              ? 'Draft: no meeting has agreed them yet.'
              : `Agreed on ${writeDay(agreed.on)}, as version ${agreed.version}.`}
            {agreed?.isChanged === true && (
              <span className="text-ember-ink"> They were changed since: a newer version is there.</span>
            )}
          </span>
        </span>
        {mayChange && isNote && (
          <Link href={`/paper/${documentId}/write`} className="text-brine-ink hover:underline">
            Write in them
          </Link>
        )}
        {mayChange && (agreed === null || agreed.isChanged) && later.length > 0 && (
          <select
            aria-label="Which meeting agreed the minutes"
            value=""
            disabled={agree.isPending}
            onChange={({ target: { value } }) => value !== '' && agree.mutate({ meetingId, atMeetingId: value })}
            className="h-[30px] rounded-sm border border-edge bg-sheet px-2"
          >
            <option value="">{agreed ? 'Agreed again at…' : 'Agreed at…'}</option>
            {later.map(({ id, day }) => (
              <option key={id} value={id}>
                the meeting of {writeDay(day)}
              </option>
            ))}
          </select>
        )}
        {mayChange && agreed !== null && (
          <Button
            look="quiet"
            disabled={agree.isPending}
            onClick={() => agree.mutate({ meetingId, atMeetingId: null })}
          >
            Not agreed
          </Button>
        )}
      </div>
      {mayChange && unwritten > 0 && (
        <p className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line pt-2">
          <span className="min-w-0 flex-1 basis-60">
            {counted(unwritten, 'decision or action is', 'decisions and actions are')} not in the minutes as below.
          </span>
          <Button
            disabled={writeIn.isPending}
            onClick={() =>
              writeIn.mutate(
                { meetingId },
                { onSuccess: ({ written }) => say.done(`${counted(written, 'line')} put into the minutes`) },
              )
            }
          >
            {writeIn.isPending ? 'Putting them in…' : 'Put them into the minutes'}
          </Button>
        </p>
      )}
    </>
  );
}
