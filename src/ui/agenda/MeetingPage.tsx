'use client';

import { parseAsStringLiteral, useQueryState } from 'nuqs';
import type { AgendaSheet } from '@/core/agenda/contract';
import { clockOf } from '@/core/agenda/timing';
import { writeDay } from '@/core/calendar/typedDay';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { Tabs } from '../kit/tabs';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { AgendaPart } from './AgendaPart';
import { MinutesPart } from '../minutes/MinutesPart';
import { MeetingPacks } from '../packs/MeetingPacks';
import { PeoplePart } from './PeoplePart';

const parts = ['agenda', 'people', 'packs', 'minutes'] as const;
const partWords = { agenda: 'Agenda', people: 'Who attends', packs: 'Packs', minutes: 'Minutes' } as const;

type Of = { readonly meetingId: string } | { readonly dossierId: string };

/** A meeting with its agenda and who attends; or the standing items of a dossier, with which its agendas begin. */
export function MeetingPage({ of }: { readonly of: Of }) {
  const { data, error } = useAsk('agenda.of', { of }, { again: ({ agenda }) => agenda?.filing === 'waiting' && 3000 });
  const [part, setPart] = useQueryState(
    'part',
    parseAsStringLiteral(parts).withDefault('agenda').withOptions({ history: 'push' }),
  );
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-3">
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && (
        <div className="max-w-[980px]">
          <Heading sheet={data} />
          {data.meeting && (
            <Tabs
              label="Parts of the meeting"
              parts={parts}
              words={partWords}
              shown={part}
              onShow={(next) => void setPart(next)}
            />
          )}
          {data.meeting && part === 'packs' ? (
            <MeetingPacks meetingId={data.meeting.id} mayChange={data.mayChange} hasAgenda={data.agenda !== null} />
          ) : data.meeting && part === 'people' ? (
            <PeoplePart sheet={data} meeting={data.meeting} />
          ) : data.meeting && part === 'minutes' ? (
            <MinutesPart sheet={data} meeting={data.meeting} />
          ) : data.agenda ? (
            <AgendaPart sheet={data} agenda={data.agenda} />
          ) : (
            <NotBegun sheet={data} of={of} />
          )}
        </div>
      )}
    </main>
  );
}

function Heading({ sheet: { meeting, dossier, agenda } }: { readonly sheet: AgendaSheet }) {
  const startsAt = agenda?.startsAt ?? null;
  return (
    <>
      <p className="text-sm">
        <Link href={`/place/${dossier.id}`} className="text-brine-ink hover:underline">
          {dossier.name}
        </Link>
      </p>
      <h1 className="font-condensed text-xl">
        {meeting ? `${meeting.title}, ${writeDay(meeting.day)}` : 'Standing items'}
      </h1>
      <p className="mb-3 max-w-[80ch] text-soft">
        {meeting
          ? [startsAt === null ? '' : `From ${clockOf(startsAt)}`, meeting.venue]
              .filter((each) => each !== '')
              .join(', ')
          : `Every new agenda of ${dossier.name} begins with these.`}
      </p>
    </>
  );
}

function NotBegun({ sheet: { mayChange, meeting }, of }: { readonly sheet: AgendaSheet; readonly of: Of }) {
  const begin = useAct('agenda.begin');
  return (
    <div className="rounded-sm border border-line bg-sheet px-4 py-4">
      <p className="mb-2 text-soft">
        {meeting
          ? 'There is no agenda yet. It begins with the standing items, and with what the last meeting carried over.'
          : 'There are no standing items yet: such as apologies, the last minutes, any other business.'}
      </p>
      {mayChange && (
        <Button
          look="main"
          disabled={begin.isPending}
          onClick={() =>
            begin.mutate(
              { of },
              {
                onSuccess: ({ standing, carried }) =>
                  say.done(
                    standing + carried === 0
                      ? 'It is begun'
                      : `It is begun, with ${counted(standing, 'standing item')} and ${carried} carried over`,
                  ),
              },
            )
          }
        >
          {meeting ? 'Begin the agenda' : 'Begin the standing items'}
        </Button>
      )}
    </div>
  );
}
