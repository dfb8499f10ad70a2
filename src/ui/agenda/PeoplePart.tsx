'use client';

import { useState } from 'react';
import type { AgendaSheet, AttendeeRow } from '@/core/agenda/contract';
import {
  attendanceAnswers,
  attendanceAnswerWords,
  attendeeParts,
  attendeePartWords,
  type AttendeePart,
} from '@/core/agenda/model';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Pick } from '../kit/pick';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';
import { useChoices } from '../server/useChoices';

const box = 'h-[28px] rounded-sm border border-edge bg-sheet px-2';

/** Who attends a meeting, in what part, and what they have answered; for oneself the answer. */
export function PeoplePart({
  sheet,
  meeting,
}: {
  readonly sheet: AgendaSheet;
  readonly meeting: NonNullable<AgendaSheet['meeting']>;
}) {
  const { attendees, mayChange } = sheet;
  const me = attendees.find(({ isMe }) => isMe);
  const answer = useAct('attendance.answer');
  const coming = attendees.filter((each) => each.answer === 'coming').length;
  const apologies = attendees.filter((each) => each.answer === 'apologies').length;
  return (
    <>
      {me && (
        <div
          role="group"
          aria-label="Your answer"
          className="mb-3 flex flex-wrap items-center gap-2 rounded-sm border border-line bg-sheet px-4 py-3"
        >
          <span className="flex-1">
            {me.answer === null
              ? 'Do you attend?'
              : `You have answered: ${attendanceAnswerWords[me.answer].toLowerCase()}.`}
          </span>
          {attendanceAnswers
            .filter((each) => each !== me.answer)
            .map((each) => (
              <Button
                key={each}
                disabled={answer.isPending}
                onClick={() => answer.mutate({ meetingId: meeting.id, answer: each })}
              >
                {each === 'coming' ? 'I come' : 'I send apologies'}
              </Button>
            ))}
        </div>
      )}
      <p className="mb-2 text-soft">
        {counted(attendees.length, 'person', 'people')}
        {coming > 0 && `, ${counted(coming, 'comes', 'come')}`}
        {apologies > 0 && `, ${apologies} with apologies`}
      </p>
      <ul className="rounded-sm border border-line bg-sheet">
        {attendees.map((each) => (
          <Attendee key={each.id} attendee={each} mayChange={mayChange} />
        ))}
        {attendees.length === 0 && (
          <li className="px-4 py-4 text-soft">
            {mayChange
              ? 'Nobody is written down yet. Those of this meeting are asked to the next one too.'
              : 'Nobody is written down yet.'}
          </li>
        )}
      </ul>
      {mayChange && <AddPerson meetingId={meeting.id} attendees={attendees} />}
    </>
  );
}

function Attendee({ attendee, mayChange }: { readonly attendee: AttendeeRow; readonly mayChange: boolean }) {
  const change = useAct('attendance.change');
  const remove = useAct('attendance.remove');
  const { id: attendeeId, name, part, answer } = attendee;
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-4 py-1.5 last:border-b-0">
      <span className="min-w-0 flex-1 basis-40 font-medium">{name}</span>
      {mayChange ? (
        <>
          <select
            aria-label={`In what part ${name} attends`}
            value={part}
            onChange={({ target: { value } }) =>
              change.mutate({ attendeeId, answer, part: attendeeParts.find((each) => each === value) ?? part })
            }
            className={box}
          >
            {attendeeParts.map((each) => (
              <option key={each} value={each}>
                {attendeePartWords[each]}
              </option>
            ))}
          </select>
          <select
            aria-label={`What ${name} has answered`}
            value={answer ?? ''}
            onChange={({ target: { value } }) =>
              change.mutate({ attendeeId, part, answer: attendanceAnswers.find((each) => each === value) ?? null })
            }
            className={box}
          >
            <option value="">No answer yet</option>
            {attendanceAnswers.map((each) => (
              <option key={each} value={each}>
                {attendanceAnswerWords[each]}
              </option>
            ))}
          </select>
          <Button look="quiet" aria-label={`Remove ${name}`} onClick={() => remove.mutate({ attendeeId })}>
            Remove
          </Button>
        </>
      ) : (
        <>
          <span className="text-soft sm:basis-32">{attendeePartWords[part]}</span>
          <span className="text-soft sm:basis-36">
            {answer === null ? 'No answer yet' : attendanceAnswerWords[answer]}
          </span>
        </>
      )}
    </li>
  );
}

function AddPerson({
  meetingId,
  attendees,
}: {
  readonly meetingId: string;
  readonly attendees: readonly AttendeeRow[];
}) {
  const add = useAct('attendance.add');
  const [part, setPart] = useState<AttendeePart>('member');
  const { found, asking } = useChoices('person');
  const there = new Set(attendees.map(({ personId }) => personId));
  const send = (personId: string | null, name: string) =>
    add.mutate(
      { meetingId, people: [{ personId, name, part }] },
      { onSuccess: ({ added }) => added === 0 && say.done(`${name} is there already`) },
    );
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      <Pick
        label="Add somebody who attends"
        shown={<span className="text-soft">Add somebody: by name, or type who has no account</span>}
        {...asking}
        items={found.filter(({ id }) => !there.has(id))}
        picked={[]}
        several
        onPick={(id) => {
          const person = found.find((each) => each.id === id);
          if (person) send(person.id, person.name);
        }}
        onCreate={(name) => send(null, name)}
        className="min-h-[34px] min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-2.5 text-left"
      />
      <label className="flex items-center gap-2 text-sm">
        as
        <select
          value={part}
          onChange={({ target: { value } }) => setPart(attendeeParts.find((each) => each === value) ?? 'member')}
          className={box}
        >
          {attendeeParts.map((each) => (
            <option key={each} value={each}>
              {attendeePartWords[each]}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}
