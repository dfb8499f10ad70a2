'use client';

import { useState } from 'react';
import type { AgendaItemRow, AgendaPaperRow, AgendaSheet } from '@/core/agenda/contract';
import { itemKindWords } from '@/core/agenda/model';
import { confidentialTitle } from '@/core/agenda/page';
import { lengthInWords } from '@/core/agenda/timing';
import { writeDay } from '@/core/calendar/typedDay';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { Menu } from '../kit/menu';
import { Stamp } from '../kit/stamp';
import { OutlineLine } from '../outline/Outline';
import { shiftActs } from '../outline/shiftActs';
import { AttachDialog } from './AttachDialog';
import { CallDialog } from './CallDialog';
import { CallLine } from './CallLine';
import { ItemForm } from './ItemForm';
import type { useAgendaActs } from './useAgendaActs';

const shiftWords = {
  up: 'Move up',
  down: 'Move down',
  in: 'Put into the item above',
  out: 'Take out of its item',
} as const;

/** An item of an agenda: its number, time, title and papers; open, the form that changes it. */
export function ItemLine({
  item,
  number,
  depth,
  time,
  sheet,
  acts,
  changing,
  onChanging,
}: {
  readonly item: AgendaItemRow;
  readonly number: string;
  readonly depth: number;
  readonly time: string;
  readonly sheet: AgendaSheet;
  readonly acts: ReturnType<typeof useAgendaActs>;
  readonly changing: boolean;
  readonly onChanging: (open: boolean) => void;
}) {
  const [attaching, setAttaching] = useState(false);
  const [calling, setCalling] = useState(false);
  const { mayChange, items } = sheet;
  const title = item.title ?? confidentialTitle;
  const moves = shiftActs(
    items,
    item.id,
    shiftWords,
    () => true,
    (shift) => acts.shift(item.id, shift),
  );
  return (
    <OutlineLine
      id={item.id}
      name={`${number} ${title}`}
      depth={depth}
      mayMove={mayChange && !changing}
      onShift={(shift) => acts.shift(item.id, shift)}
    >
      {time !== '' && <span className="figures w-11 shrink-0 pt-1 text-sm text-soft max-sm:hidden">{time}</span>}
      <span className="figures w-10 shrink-0 pt-0.5 font-medium">{number}</span>
      <div className="min-w-0 flex-1">
        {changing ? (
          <ItemForm item={item} sheet={sheet} onClose={() => onChanging(false)} />
        ) : (
          <>
            <p className={item.title === null ? 'text-soft italic' : 'font-medium'}>{title}</p>
            <About item={item} time={time} isStanding={sheet.meeting === null} />
            {item.notes !== '' && <p className="text-sm whitespace-pre-line">{item.notes}</p>}
            <ul>
              {item.papers.map((paper) => (
                <PaperLine key={paper.id} itemId={item.id} paper={paper} mayChange={mayChange} acts={acts} />
              ))}
              {item.calls.map((call) => (
                <CallLine key={call.id} call={call} mayChange={mayChange} />
              ))}
            </ul>
          </>
        )}
      </div>
      {mayChange && !changing && item.title !== null && (
        <span className="flex shrink-0 items-center">
          <Button
            look="quiet"
            className="max-sm:hidden"
            aria-label={`Attach papers to ${number} ${title}`}
            onClick={() => setAttaching(true)}
          >
            Attach
          </Button>
          <Button look="quiet" aria-label={`Change ${number} ${title}`} onClick={() => onChanging(true)}>
            Change
          </Button>
          <Menu
            label="More"
            look="quiet"
            name={`More to do with ${number} ${title}`}
            acts={[
              { label: 'Attach papers…', act: () => setAttaching(true) },
              ...(sheet.meeting ? [{ label: 'Ask for a paper…', act: () => setCalling(true) }] : []),
              ...moves,
              { label: 'Take off the agenda', act: () => acts.remove(item), apart: true },
            ]}
          />
        </span>
      )}
      {calling && (
        <CallDialog item={item} number={number} attendees={sheet.attendees} onClose={() => setCalling(false)} />
      )}
      {attaching && <AttachDialog item={item} number={number} acts={acts} onClose={() => setAttaching(false)} />}
    </OutlineLine>
  );
}

function About({
  item,
  time,
  isStanding,
}: {
  readonly item: AgendaItemRow;
  readonly time: string;
  readonly isStanding: boolean;
}) {
  const { kind, presenter, minutes, readers, carriedFrom, carriesOver, takesCarried } = item;
  const words = [
    kind === null ? '' : itemKindWords[kind],
    presenter,
    minutes === null ? '' : lengthInWords(minutes),
    readers === null
      ? ''
      : readers.length === 0
        ? 'confidential: for nobody yet'
        : `confidential: for ${readers.map(({ name }) => name).join(', ')}`,
    carriedFrom === null ? '' : `carried over from ${writeDay(carriedFrom)}`,
    carriesOver ? 'goes on the next agenda too' : '',
    takesCarried && isStanding ? 'takes what is carried over' : '',
  ].filter((each) => each !== '');
  if (words.length === 0 && time === '') return null;
  return (
    <p className="text-sm text-soft">
      {time !== '' && <span className="sm:hidden">{words.length > 0 ? `${time} · ` : time}</span>}
      {words.join(' · ')}
    </p>
  );
}

/** A paper of an item, with which version it is. */
function PaperLine({
  itemId,
  paper,
  mayChange,
  acts,
}: {
  readonly itemId: string;
  readonly paper: AgendaPaperRow;
  readonly mayChange: boolean;
  readonly acts: ReturnType<typeof useAgendaActs>;
}) {
  const { id, documentId, title, stamp, pageCount, heldVersion, currentVersion, disposed } = paper;
  const address = heldVersion === null ? `/paper/${documentId}` : `/paper/${documentId}?version=${heldVersion}`;
  const isBehind = heldVersion !== null && heldVersion < currentVersion;
  return (
    <li className="mt-1 flex flex-wrap items-center gap-x-2 text-sm">
      <Stamp word={stamp} />
      {disposed ? (
        <span className="text-ember-ink">“{title}” lies in the disposal tray</span>
      ) : (
        <Link href={address} className="inline-flex min-h-[24px] items-center text-brine-ink hover:underline">
          {title}
        </Link>
      )}
      <span className="text-soft">
        {[
          pageCount === null ? '' : counted(pageCount, 'page'),
          heldVersion === null
            ? ''
            : `version ${heldVersion} is held${isBehind ? `; the newest is ${currentVersion}` : ''}`,
        ]
          .filter((each) => each !== '')
          .join(' · ')}
      </span>
      {mayChange && (
        <Menu
          label="More"
          look="quiet"
          name={`More to do with “${title}”`}
          className="h-6 text-sm"
          acts={[
            heldVersion === null
              ? { label: `Hold version ${currentVersion}`, act: () => acts.hold(id, currentVersion) }
              : { label: 'Follow the newest version', act: () => acts.hold(id, null) },
            { label: 'Take out of the item', act: () => acts.detach(itemId, id, documentId), apart: true },
          ]}
        />
      )}
    </li>
  );
}
