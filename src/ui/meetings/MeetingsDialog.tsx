'use client';

import { useMemo, useState, type FormEvent } from 'react';
import type { MeetingRow } from '@/core/meetings/contract';
import { daysOf, weekdayNames } from '@/core/calendar/recurrence';
import { Refusal } from '@/core/errors/refusal';
import { counted } from '@/core/text/measure';
import { dayInWords } from '@/core/calendar/moment';
import { useActForm } from '../forms/useActForm';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, TextField } from '../kit/field';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

const mostMade = 200;
const weeks = [
  [1, 'first'],
  [2, 'second'],
  [3, 'third'],
  [4, 'fourth'],
  [-1, 'last'],
] as const;
type Week = (typeof weeks)[number][0];

/** The meetings of a dossier: made one by one, or as they come round; each with the folders of the plan. */
export function MeetingsDialog({
  dossier,
  mayChange,
  onClose,
}: {
  readonly dossier: { readonly id: string; readonly name: string };
  readonly mayChange: boolean;
  readonly onClose: () => void;
}) {
  const { timeZone } = useSurroundings();
  const { data, error } = useAsk('meetings.of', { dossierId: dossier.id });
  const remove = useAct('meeting.remove');
  const [changing, setChanging] = useState<string | null>(null);
  return (
    <Dialog title={`Meetings of “${dossier.name}”`} open onClose={onClose} shape="sheet">
      {error && <p role="alert">{saysOf(error)}</p>}
      {mayChange && <NewMeetings dossierId={dossier.id} />}
      <div className="mt-5 mb-1.5 flex items-baseline gap-3">
        <h3 className="flex-1 font-condensed">{data ? counted(data.length, 'meeting') : 'Meetings'}</h3>
        <Link href={`/standing/${dossier.id}`} className="text-sm text-brine-ink hover:underline">
          Standing items
        </Link>
        {data && data.length > 0 && (
          <a href={`/api/meetings/${dossier.id}`} className="text-sm text-brine-ink hover:underline">
            Download for a calendar
          </a>
        )}
      </div>
      {data?.length === 0 && <p className="text-soft">None yet.</p>}
      <ul className="rounded-sm border border-line empty:hidden">
        {data?.map((meeting) =>
          changing === meeting.id ? (
            <ChangeMeeting key={meeting.id} meeting={meeting} onClose={() => setChanging(null)} />
          ) : (
            <li key={meeting.id} className="flex items-center gap-3 border-b border-line px-3 py-1.5 last:border-0">
              <span className="figures w-28 font-medium">{dayInWords(`${meeting.day}T12:00:00Z`, timeZone)}</span>
              <span className="min-w-0 flex-1 truncate">
                {meeting.title}
                {meeting.venue !== '' && <span className="text-soft">, {meeting.venue}</span>}
              </span>
              <Link
                href={`/meeting/${meeting.id}`}
                aria-label={`Agenda of the meeting of ${meeting.day}`}
                className="inline-flex min-h-[24px] items-center text-brine-ink hover:underline"
              >
                Agenda
              </Link>
              {mayChange && (
                <>
                  <Button
                    look="quiet"
                    aria-label={`Change the meeting of ${meeting.day}`}
                    onClick={() => setChanging(meeting.id)}
                  >
                    Change
                  </Button>
                  <Button
                    look="quiet"
                    aria-label={`Remove the meeting of ${meeting.day}`}
                    onClick={() =>
                      remove.mutate(
                        { meetingId: meeting.id, revision: meeting.revision },
                        { onSuccess: () => say.done('The meeting is removed. Folders with papers stay.') },
                      )
                    }
                  >
                    Remove
                  </Button>
                </>
              )}
            </li>
          ),
        )}
      </ul>
    </Dialog>
  );
}

function ChangeMeeting({ meeting, onClose }: { readonly meeting: MeetingRow; readonly onClose: () => void }) {
  const { id: meetingId, day, title, venue, revision } = meeting;
  const { form, submit, isPending, wrong, refused } = useActForm(
    'meeting.change',
    { meetingId, day, title, venue, revision },
    () => {
      say.done('The meeting is changed, and its folders with it');
      onClose();
    },
  );
  const says = wrong('day') ?? wrong('title') ?? wrong('venue') ?? refused;
  const box = 'h-[30px] min-w-0 rounded-sm border border-edge bg-sheet px-2';
  return (
    <li className="border-b border-line bg-fog px-3 py-2 last:border-0">
      <form noValidate className="flex flex-wrap items-center gap-2" onSubmit={submit}>
        <input type="date" aria-label="Day of the meeting" {...form.register('day')} className={box} />
        <input aria-label="Title of the meeting" {...form.register('title')} className={`${box} flex-1`} />
        <input aria-label="Venue" {...form.register('venue')} placeholder="Where" className={`${box} flex-1`} />
        <Button type="submit" disabled={isPending}>
          Save
        </Button>
        <Button look="quiet" onClick={onClose}>
          Cancel
        </Button>
        {says !== undefined && (
          <p role="alert" className="basis-full text-sm text-ember-ink">
            {says}
          </p>
        )}
      </form>
    </li>
  );
}

function NewMeetings({ dossierId }: { readonly dossierId: string }) {
  const { now, timeZone } = useSurroundings();
  const today = now.slice(0, 10);
  const [title, setTitle] = useState('Meeting');
  const [venue, setVenue] = useState('');
  const [comes, setComes] = useState<'once' | 'round'>('once');
  const [from, setFrom] = useState(today);
  const [until, setUntil] = useState(`${Number(today.slice(0, 4)) + 1}${today.slice(4)}`);
  const [week, setWeek] = useState<Week>(2);
  const [weekday, setWeekday] = useState(1);
  const [everyMonths, setEveryMonths] = useState(1);
  const make = useAct('meetings.make', { quiet: true });
  const days = useMemo(() => {
    const isDay = (text: string) => /^\d{4}-\d\d-\d\d$/u.test(text);
    if (!isDay(from) || (comes === 'round' && !isDay(until))) return [];
    return comes === 'once' ? [from] : daysOf({ everyMonths, week, weekday, from, until }, mostMade);
  }, [comes, from, until, week, weekday, everyMonths]);
  const fields = make.error instanceof Refusal ? make.error.issue.fields : undefined;

  function submit(event: FormEvent) {
    event.preventDefault();
    make.mutate(
      { dossierId, days, title, venue },
      {
        onSuccess: ({ made, folders }) =>
          say.done(`${counted(made, 'meeting')} made${folders > 0 ? `, with ${counted(folders, 'folder')}` : ''}`),
      },
    );
  }

  return (
    <form onSubmit={submit} noValidate className="rounded-sm border border-line bg-fog px-4 py-3">
      <h3 className="mb-2 font-condensed">New meetings</h3>
      <div className="grid gap-x-4 sm:grid-cols-2">
        <TextField
          label="Title"
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          wrong={fields?.find((field) => field.path === 'title')?.says}
        />
        <TextField label="Where" value={venue} onChange={(event) => setVenue(event.target.value)} />
        <ChoiceField
          label="When"
          value={comes}
          onChange={(event) => setComes(event.target.value === 'round' ? 'round' : 'once')}
        >
          <option value="once">On one day</option>
          <option value="round">As it comes round</option>
        </ChoiceField>
        <TextField
          label={comes === 'once' ? 'Day' : 'From'}
          type="date"
          value={from}
          onChange={(event) => setFrom(event.target.value)}
        />
        {comes === 'round' && (
          <>
            <ChoiceField
              label="Which week of the month"
              value={week}
              onChange={(event) => setWeek(weeks.find(([each]) => String(each) === event.target.value)?.[0] ?? 2)}
            >
              {weeks.map(([each, words]) => (
                <option key={each} value={each}>
                  The {words}
                </option>
              ))}
            </ChoiceField>
            <ChoiceField
              label="Day of the week"
              value={weekday}
              onChange={(event) => setWeekday(Number(event.target.value))}
            >
              {weekdayNames.map((words, at) => (
                <option key={words} value={at}>
                  {words}
                </option>
              ))}
            </ChoiceField>
            <ChoiceField
              label="How often"
              value={everyMonths}
              onChange={(event) => setEveryMonths(Number(event.target.value))}
            >
              {[1, 2, 3, 6, 12].map((each) => (
                <option key={each} value={each}>
                  {each === 1 ? 'Every month' : `Every ${each} months`}
                </option>
              ))}
            </ChoiceField>
            <TextField label="Until" type="date" value={until} onChange={(event) => setUntil(event.target.value)} />
          </>
        )}
      </div>
      {comes === 'round' && (
        <p role="status" className="text-sm text-soft">
          {days.length === 0
            ? 'No day falls between these.'
            : `${counted(days.length, 'meeting')}: ${days
                .slice(0, 4)
                .map((day) => dayInWords(`${day}T12:00:00Z`, timeZone))
                .join(', ')}${days.length > 4 ? ' and so on' : ''}`}
        </p>
      )}
      {make.error && !fields && (
        <p role="alert" className="mt-2 text-sm text-ember-ink">
          {saysOf(make.error)}
        </p>
      )}
      <DialogActs>
        <Button type="submit" look="main" disabled={days.length === 0 || make.isPending}>
          {days.length > 1 ? `Make ${days.length} meetings` : 'Make the meeting'}
        </Button>
      </DialogActs>
    </form>
  );
}
