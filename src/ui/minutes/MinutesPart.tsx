'use client';

import { useState } from 'react';
import type { AgendaItemRow, AgendaSheet } from '@/core/agenda/contract';
import { numbersOf } from '@/core/agenda/numbering';
import { confidentialTitle } from '@/core/agenda/page';
import { grouped } from '@/core/collections/grouped';
import type { OutcomeRow } from '@/core/minutes/contract';
import { outcomeKinds, outcomeKindWords, type OutcomeKind } from '@/core/minutes/model';
import { depthsOf } from '@/core/outline/outline';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { Menu } from '../kit/menu';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { MinutesPaper } from './MinutesPaper';
import { OutcomeForm } from './OutcomeForm';
import { OutcomeLine } from './OutcomeLine';
import { WhoWasThere } from './WhoWasThere';

/** What a meeting came to: its minutes, who was there, and the decisions and actions of each item. */
export function MinutesPart({
  sheet,
  meeting,
}: {
  readonly sheet: AgendaSheet;
  readonly meeting: NonNullable<AgendaSheet['meeting']>;
}) {
  const { data, error } = useAsk('minutes.of', { meetingId: meeting.id });
  const { agenda, items, attendees } = sheet;
  if (error) return <p role="alert">{saysOf(error)}</p>;
  if (!data) return null;
  const numbers = numbersOf(items, agenda?.numbering ?? 'figures');
  const depths = depthsOf(items);
  const outcomes = grouped(data.outcomes, ({ itemId }) => itemId);
  return (
    <>
      <MinutesPaper sheet={data} meetingId={meeting.id} hasAgenda={agenda !== null} />
      <WhoWasThere meetingId={meeting.id} attendees={attendees} quorum={data.quorum} mayChange={data.mayChange} />
      <section aria-label="Decisions and actions">
        <div className="mb-1 flex items-center gap-4">
          <h2 className="flex-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">
            Decisions and actions
          </h2>
          <Link href={`/decisions/${sheet.dossier.id}`} className="text-sm text-brine-ink hover:underline">
            Of all meetings
          </Link>
        </div>
        <ul className="rounded-sm border border-line bg-sheet">
          {items.map((item, at) => (
            <Item
              key={item.id}
              item={item}
              number={numbers[at] ?? ''}
              depth={depths[at] ?? 1}
              outcomes={outcomes.get(item.id) ?? []}
              attendees={attendees}
              mayChange={data.mayChange}
            />
          ))}
          {items.length === 0 && (
            <li className="px-4 py-4 text-soft">
              {data.mayChange
                ? 'Decisions and actions are recorded under the items of the agenda. It has none yet.'
                : 'Nothing is recorded yet.'}
            </li>
          )}
        </ul>
      </section>
    </>
  );
}

function Item({
  item,
  number,
  depth,
  outcomes,
  attendees,
  mayChange,
}: {
  readonly item: AgendaItemRow;
  readonly number: string;
  readonly depth: number;
  readonly outcomes: readonly OutcomeRow[];
  readonly attendees: AgendaSheet['attendees'];
  readonly mayChange: boolean;
}) {
  const [adding, setAdding] = useState<OutcomeKind | null>(null);
  const title = item.title ?? confidentialTitle;
  return (
    <li
      className="border-b border-line px-4 py-1.5 last:border-b-0"
      style={{ paddingLeft: `calc(1rem + ${depth - 1} * 1.5rem)` }}
    >
      <div className="flex flex-wrap items-center gap-x-3">
        <span className="figures w-10 shrink-0 font-medium">{number}</span>
        <span className={`min-w-0 flex-1 basis-40 ${item.title === null ? 'text-soft italic' : 'font-medium'}`}>
          {title}
        </span>
        {mayChange && (
          <span className="flex shrink-0">
            {outcomeKinds.map((kind) => (
              <Button
                key={kind}
                look="quiet"
                className="h-6"
                aria-label={`Record ${kind === 'action' ? 'an' : 'a'} ${kind} under ${number} ${title}`}
                aria-expanded={adding === kind}
                onClick={() => setAdding(kind)}
              >
                + {outcomeKindWords[kind]}
              </Button>
            ))}
          </span>
        )}
      </div>
      <ul className="sm:pl-[52px]">
        {outcomes.map((outcome) => (
          <Outcome key={outcome.id} outcome={outcome} attendees={attendees} mayChange={mayChange} />
        ))}
      </ul>
      {adding !== null && (
        <div className="sm:pl-[52px]">
          <OutcomeForm
            key={adding}
            itemId={item.id}
            kind={adding}
            outcome={null}
            attendees={attendees}
            onClose={() => setAdding(null)}
          />
        </div>
      )}
    </li>
  );
}

function Outcome({
  outcome,
  attendees,
  mayChange,
}: {
  readonly outcome: OutcomeRow;
  readonly attendees: AgendaSheet['attendees'];
  readonly mayChange: boolean;
}) {
  const [changing, setChanging] = useState(false);
  const remove = useAct('outcome.remove');
  const { id: outcomeId, itemId, kind, text } = outcome;
  const takeOut = () =>
    remove.mutate(
      { outcomeId, removed: true },
      {
        onSuccess: () => say.undoable(`The ${kind} is removed`, () => remove.mutate({ outcomeId, removed: false })),
      },
    );
  if (changing)
    return (
      <li>
        <OutcomeForm
          itemId={itemId}
          kind={kind}
          outcome={outcome}
          attendees={attendees}
          onClose={() => setChanging(false)}
        />
      </li>
    );
  return (
    <li className="mt-1 flex flex-wrap items-start gap-x-2">
      <OutcomeLine outcome={outcome}>
        {mayChange && (
          <Menu
            label="More"
            look="quiet"
            name={`More to do with: ${text}`}
            className="h-6 text-sm"
            acts={[
              { label: 'Change', act: () => setChanging(true) },
              { label: 'Remove', act: takeOut, apart: true },
            ]}
          />
        )}
      </OutcomeLine>
    </li>
  );
}
