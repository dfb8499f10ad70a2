'use client';

import { useState } from 'react';
import { dayInWords } from '@/core/calendar/moment';
import type { StorePaper, WayInRow } from '@/core/intake/waysContract';
import { mostPicked } from '@/core/intake/wayIn';
import { counted, sizeInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

const againMs = 2000;
const stateWords = { there: '', picked: 'is being taken', taken: 'taken' } as const;

/** What lies in a connected store: papers are picked from it by hand. */
export function StoreDialog({
  way: { id, name, lookedAt, fault },
  onClose,
}: {
  readonly way: WayInRow;
  readonly onClose: () => void;
}) {
  const [words, setWords] = useState('');
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const { data, error } = useAsk('intake.inStore', { id, words }, { keepPrevious: true, again: () => againMs });
  const pick = useAct('intake.pick', { quiet: true });
  const turn = (path: string) => {
    const next = new Set(ticked);
    if (!next.delete(path)) next.add(path);
    setTicked(next);
  };
  return (
    <Dialog
      title={`Papers in ${name}`}
      about="What is picked comes into the intake. In the store everything stays as it is."
      open
      onClose={onClose}
      shape="sheet"
    >
      <TextField
        label="Words of a name or folder"
        value={words}
        maxLength={200}
        onChange={({ target }) => setWords(target.value)}
      />
      {error && <p role="alert">{saysOf(error)}</p>}
      {fault !== null && (
        <p role="alert" className="mb-2 text-ember-ink">
          {fault}
        </p>
      )}
      {data?.papers.length === 0 && (
        <p className="text-soft">
          {lookedAt === null
            ? 'It is looked at for the first time…'
            : words === ''
              ? 'Nothing lies in it.'
              : 'Nothing in it has these words.'}
        </p>
      )}
      <ul aria-label={`Papers in ${name}`}>
        {data?.papers.map((paper) => (
          <PaperLine key={paper.path} paper={paper} isTicked={ticked.has(paper.path)} onTurn={() => turn(paper.path)} />
        ))}
      </ul>
      {data?.hasMore && <p className="mt-1 text-sm text-soft">There are more: type a word of what you look for.</p>}
      {pick.error && (
        <p role="alert" className="mt-2 text-ember-ink">
          {saysOf(pick.error)}
        </p>
      )}
      <DialogActs>
        <Button
          look="main"
          disabled={ticked.size === 0 || ticked.size > mostPicked || pick.isPending}
          onClick={() =>
            pick.mutate(
              { id, paths: [...ticked] },
              {
                onSuccess: ({ picked }) => {
                  setTicked(new Set());
                  say.done(
                    `${counted(picked, 'paper is', 'papers are')} being taken, and ${picked === 1 ? 'waits' : 'wait'} in the intake once read.`,
                  );
                },
              },
            )
          }
        >
          {ticked.size === 0 ? 'Take them' : `Take ${counted(ticked.size, 'paper')}`}
        </Button>
      </DialogActs>
    </Dialog>
  );
}

function PaperLine({
  paper: { path, sizeBytes, changedAt, state },
  isTicked,
  onTurn,
}: {
  readonly paper: StorePaper;
  readonly isTicked: boolean;
  readonly onTurn: () => void;
}) {
  const { timeZone } = useSurroundings();
  const at = path.lastIndexOf('/');
  return (
    <li className="border-b border-line">
      <label className="flex min-h-[30px] items-center gap-2 py-1">
        <input
          type="checkbox"
          aria-label={`Take ${path.slice(1)}`}
          checked={isTicked}
          disabled={state !== 'there'}
          onChange={onTurn}
          className="size-[15px] shrink-0 accent-brine"
        />
        <span className="min-w-0 flex-1">
          <span className="block break-words">{path.slice(at + 1)}</span>
          {at > 0 && <span className="block text-sm break-words text-soft">{path.slice(1, at)}</span>}
        </span>
        <span className="figures shrink-0 text-right text-sm text-soft">
          {stateWords[state] === '' ? sizeInWords(sizeBytes) : stateWords[state]}
          {changedAt !== null && <span className="block">{dayInWords(changedAt, timeZone)}</span>}
        </span>
      </label>
    </li>
  );
}
