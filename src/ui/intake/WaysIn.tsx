'use client';

import { useState } from 'react';
import { momentInWords } from '@/core/calendar/moment';
import type { WayInRow } from '@/core/intake/waysContract';
import { wayInWords } from '@/core/intake/wayIn';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { CheckField, TextField } from '../kit/field';
import { Menu } from '../kit/menu';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { StoreDialog } from './StoreDialog';
import { WayInDialog, type WayInDraft } from './WayInDialog';

const newWay: WayInDraft = {
  ...{ id: null, revision: 0, name: '', on: true },
  settings: { kind: 'scans', folder: '', atBlanks: false },
};
/** How each gets on changes by itself. */
const againMs = 2000;

/** From where the library fetches what arrives, and how each way gets on. */
export function WaysIn() {
  const { data, error } = useAsk('intake.ways', {}, { again: () => againMs });
  const answer = useAct('intake.answerSenders');
  const [open, setOpen] = useState<WayInDraft | null>(null);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-sm:px-3">
      <div className="max-w-[860px]">
        {error && <p role="alert">{saysOf(error)}</p>}
        <div className="mb-3 flex items-center gap-4">
          <p className="flex-1 text-soft">
            Mail that is sent to the library comes by itself. From these places it fetches more: mailboxes, folders into
            which a scanner writes, folders of mails, and folders on other servers.
          </p>
          <Button look="main" onClick={() => setOpen(newWay)}>
            New way in…
          </Button>
        </div>
        {data?.ways.length === 0 && (
          <p>No ways in yet. The folder that the scanner in the corridor writes into is a good first one.</p>
        )}
        <ul className="rounded-sm border border-line bg-sheet empty:hidden">
          {data?.ways.map((way) => (
            <WayLine key={way.id} way={way} onOpen={() => setOpen(way)} />
          ))}
        </ul>
        <SeparatorSheets />
        {data && (
          <div className="mt-5">
            <CheckField
              label="Tell senders that their mail has arrived"
              help="Each at most once a day. Nobody answers what a program sent, lists, or whoever writes in another’s name."
              checked={data.answersSenders}
              onChange={(on) => answer.mutate({ on })}
            />
          </div>
        )}
      </div>
      {open && <WayInDialog key={open.id} draft={open} onClose={() => setOpen(null)} />}
    </div>
  );
}

/** The way to the sheets that are laid between papers before they are scanned. */
function SeparatorSheets() {
  const [reference, setReference] = useState('');
  const isOne = reference === '' || /^[A-Za-z0-9][A-Za-z0-9./-]{0,39}$/u.test(reference);
  return (
    <div className="mt-5 max-w-[520px]">
      <h2 className="font-semibold">Separator sheets</h2>
      <p className="text-sm text-soft">
        Print one, and lay it between papers before they are scanned: each paper then waits for itself. One with a
        reference says besides where the paper behind it goes.
      </p>
      <div className="mt-2 flex items-start gap-3">
        <div className="w-[220px]">
          <TextField
            label="Reference of a dossier, if it has one"
            value={reference}
            maxLength={40}
            onChange={({ target }) => setReference(target.value.trim())}
            wrong={isOne ? undefined : 'Letters, digits, full stops, slashes and hyphens only.'}
          />
        </div>
        {isOne && (
          <a
            href={`/api/separator${reference === '' ? '' : `?reference=${encodeURIComponent(reference)}`}`}
            target="_blank"
            rel="noreferrer"
            className="mt-[26px] min-h-[24px] text-brine-ink underline"
          >
            Open the sheet
          </a>
        )}
      </div>
    </div>
  );
}

function WayLine({ way, onOpen }: { readonly way: WayInRow; readonly onOpen: () => void }) {
  const { id, revision, name, on, settings, folderAt, fault, taken } = way;
  const keep = useAct('intake.keepWay');
  const look = useAct('intake.lookNow');
  const remove = useAct('intake.removeWay');
  const restore = useAct('intake.restoreWay');
  const [picks, setPicks] = useState(false);
  const from =
    settings.kind === 'mailbox'
      ? `${settings.user}, ${settings.host}, ${settings.folder}`
      : settings.kind === 'store'
        ? settings.address
        : folderAt;
  return (
    <li className="flex items-start gap-3 border-b border-line px-3 py-2 last:border-0">
      <span className="min-w-0 flex-1">
        <button type="button" onClick={onOpen} className="min-h-[24px] text-left font-medium hover:underline">
          {name}
        </button>
        {!on && <span className="text-soft"> (off)</span>}
        <span className="block text-sm break-words text-soft">
          {wayInWords[settings.kind].called}: {from}
        </span>
        <span role="status" className="block text-sm">
          <HowItGetsOn way={way} />
          {taken > 0 && ` ${counted(taken, 'arrival has', 'arrivals have')} come this way.`}
        </span>
        {fault !== null && on && (
          <span role="alert" className="block text-sm text-ember-ink">
            {fault}
          </span>
        )}
      </span>
      <Menu
        label="⋯"
        name={`What can be done with ${name}`}
        acts={[
          ...(on && settings.kind === 'store' ? [{ label: 'Pick papers…', act: () => setPicks(true) }] : []),
          { label: 'Change…', act: onOpen },
          ...(on ? [{ label: 'Look now', act: () => look.mutate({ id }) }] : []),
          {
            label: on ? 'Switch off' : 'Switch on',
            act: () => keep.mutate({ id, revision, name, on: !on, settings, password: '' }),
          },
          {
            label: 'Remove',
            apart: true,
            act: () =>
              remove.mutate(
                { id },
                {
                  onSuccess: () =>
                    say.undoable(`“${name}” is removed. What came by it stays.`, () => restore.mutate({ id })),
                },
              ),
          },
        ]}
      />
      {picks && <StoreDialog way={way} onClose={() => setPicks(false)} />}
    </li>
  );
}

function HowItGetsOn({ way: { on, settings, lookNow, lookedAt, tookAt, fault } }: { readonly way: WayInRow }) {
  const { timeZone } = useSurroundings();
  if (!on) return <>Nothing is fetched while it is off.</>;
  if (lookedAt === null) return <>It is looked at for the first time…</>;
  if (lookNow) return <>It is looked at…</>;
  const looked = `Looked at ${momentInWords(lookedAt, timeZone)}`;
  const isPicked = settings.kind === 'store' && !settings.follows;
  if (fault !== null || isPicked) return <>{looked}.</>;
  return (
    <>
      {looked}: all is taken{tookAt === null ? '.' : `, the last ${momentInWords(tookAt, timeZone)}.`}
    </>
  );
}
