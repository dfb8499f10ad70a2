'use client';

import { useState, type ClipboardEvent, type FormEvent } from 'react';
import type { AgendaSheet } from '@/core/agenda/contract';
import { numberings, numberingWords } from '@/core/agenda/model';
import { depthsOf } from '@/core/outline/outline';
import { numbersOf } from '@/core/agenda/numbering';
import { clockOf, lengthInWords, minutesOf, timesOf } from '@/core/agenda/timing';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { OpenActions } from '../minutes/OpenActions';
import { Outline } from '../outline/Outline';
import { useAct } from '../server/useCall';
import { ItemLine } from './ItemLine';
import { useAgendaActs } from './useAgendaActs';

type Begun = NonNullable<AgendaSheet['agenda']>;

/** The items of an agenda in order, with their numbers and times. */
export function AgendaPart({ sheet, agenda }: { readonly sheet: AgendaSheet; readonly agenda: Begun }) {
  const { items, mayChange } = sheet;
  const acts = useAgendaActs(sheet);
  const [changing, setChanging] = useState<string | null>(null);
  const numbers = numbersOf(items, agenda.numbering);
  const depths = depthsOf(items);
  const { times, endsAt } = timesOf(items, agenda.startsAt ?? 0);
  const minutes = items.reduce((sum, item) => sum + (item.minutes ?? 0), 0);
  const nameOf = (id: string) => items.find((item) => item.id === id)?.title ?? '';
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <span className="flex-1 text-soft">
          {counted(items.length, 'item')}
          {minutes > 0 && `, ${lengthInWords(minutes)}`}
          {minutes > 0 && agenda.startsAt !== null && `: ends at ${clockOf(endsAt)}`}
        </span>
        {mayChange && <Settings agenda={agenda} isMeeting={sheet.meeting !== null} />}
      </div>
      <Outline nameOf={nameOf} mayMove={mayChange} onDrop={acts.moveBefore}>
        {items.map((item, at) => (
          <ItemLine
            key={item.id}
            item={item}
            number={numbers[at] ?? ''}
            depth={depths[at] ?? 1}
            time={agenda.startsAt === null ? '' : clockOf(times[at]?.from ?? 0)}
            sheet={sheet}
            acts={acts}
            changing={changing === item.id}
            onChanging={(open) => setChanging(open ? item.id : null)}
          />
        ))}
        {items.length === 0 && (
          <li className="px-4 py-4 text-soft">
            No items yet. Type the first one below, or paste a list of them: one line each.
          </li>
        )}
      </Outline>
      {mayChange && <AddItems agendaId={agenda.id} />}
      {sheet.meeting && <OpenActions meetingId={sheet.meeting.id} />}
      {sheet.meeting ? (
        <Filing sheet={sheet} agenda={agenda} />
      ) : (
        mayChange && <p className="mt-4 text-sm text-soft">Agendas that are begun already stay as they are.</p>
      )}
    </>
  );
}

/** When the meeting begins, and how items are numbered: kept at once. */
function Settings({ agenda, isMeeting }: { readonly agenda: Begun; readonly isMeeting: boolean }) {
  const set = useAct('agenda.set');
  const { id: agendaId, startsAt, numbering, revision } = agenda;
  const send = (change: Partial<Pick<Begun, 'startsAt' | 'numbering'>>) =>
    set.mutate({ agendaId, startsAt, numbering, revision, ...change });
  const shown = startsAt === null ? '' : clockOf(startsAt);
  return (
    <span className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
      <label className="flex items-center gap-2">
        {isMeeting ? 'Begins at' : 'Meetings begin at'}
        <input
          key={shown}
          type="time"
          defaultValue={shown}
          onBlur={({ target: { value } }) =>
            value !== shown && send({ startsAt: value === '' ? null : minutesOf(value) })
          }
          className="h-[28px] rounded-sm border border-edge bg-sheet px-2"
        />
      </label>
      <label className="flex items-center gap-2">
        Numbers
        <select
          value={numbering}
          onChange={({ target: { value } }) => {
            const chosen = numberings.find((each) => each === value);
            if (chosen) send({ numbering: chosen });
          }}
          className="h-[28px] rounded-sm border border-edge bg-sheet px-2"
        >
          {numberings.map((each) => (
            <option key={each} value={each}>
              {numberingWords[each]}
            </option>
          ))}
        </select>
      </label>
    </span>
  );
}

function AddItems({ agendaId }: { readonly agendaId: string }) {
  const add = useAct('agenda.addItems');
  const [title, setTitle] = useState('');
  const send = (titles: readonly string[]) =>
    add.mutate(
      { agendaId, parentId: null, beforeId: null, titles: [...titles] },
      {
        onSuccess: () => {
          setTitle('');
          if (titles.length > 1) say.done(`${titles.length} items added`);
        },
      },
    );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (title.trim() !== '' && !add.isPending) send([title.trim()]);
  };
  /** A list of several lines becomes as many items. */
  const paste = (event: ClipboardEvent) => {
    const lines = event.clipboardData
      .getData('text')
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== '');
    if (lines.length < 2) return;
    event.preventDefault();
    send(lines);
  };
  return (
    <form onSubmit={submit} className="mt-2 flex items-center gap-2">
      <input
        aria-label="Title of a new item"
        placeholder="New item"
        value={title}
        maxLength={300}
        onChange={({ target: { value } }) => setTitle(value)}
        onPaste={paste}
        className="h-[34px] min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-2.5 placeholder:text-soft"
      />
      <Button type="submit" disabled={title.trim() === '' || add.isPending}>
        Add the item
      </Button>
    </form>
  );
}

/** The printed agenda: where it is filed, and what has it filed. */
function Filing({ sheet: { items, mayChange }, agenda }: { readonly sheet: AgendaSheet; readonly agenda: Begun }) {
  const file = useAct('agenda.file');
  const { filing, filed, issued } = agenda;
  const words = {
    no: 'It is not filed yet. Filed, it is a PDF and a Word document in the meeting’s folder, and is filed again when the agenda changes.',
    waiting: 'It is being filed…',
    done: issued
      ? 'It is filed. A pack is issued, so it is filed again only when you ask.'
      : 'It is filed as it stands, and is filed again when the agenda changes.',
    failed:
      'It could not be filed: you may not add there any more, or the paper is locked. Nothing is lost; have it filed again.',
  }[filing];
  if (!mayChange && filed.length === 0) return null;
  return (
    <section aria-label="The printed agenda" className="mt-5">
      <h2 className="mb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">The printed agenda</h2>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 rounded-sm border border-line bg-sheet px-4 py-3">
        <span className="min-w-0 flex-1 basis-72">
          {filed.map(({ documentId, title }) => (
            <Link
              key={documentId}
              href={`/paper/${documentId}`}
              className="mr-4 font-medium text-brine-ink hover:underline"
            >
              {title}
            </Link>
          ))}
          {mayChange && (
            <span role="status" className={`block text-sm ${filing === 'failed' ? 'text-ember-ink' : 'text-soft'}`}>
              {words}
            </span>
          )}
        </span>
        {mayChange && (filing === 'no' || filing === 'failed' || (filing === 'done' && issued)) && (
          <Button disabled={file.isPending || items.length === 0} onClick={() => file.mutate({ agendaId: agenda.id })}>
            {filing === 'done' ? 'File it again' : 'File the agenda'}
          </Button>
        )}
      </div>
    </section>
  );
}
