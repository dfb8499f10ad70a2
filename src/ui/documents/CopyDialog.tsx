'use client';

import { useState } from 'react';
import { counted, papersInWords } from '@/core/text/measure';
import type { Target } from '../choosing/MoveTarget';
import { PlacesChooser } from '../choosing/PlacesChooser';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { NotAll, useActable } from './NotAll';
import { usePaperActs } from './usePaperActs';
import { whereInWords } from './whereInWords';

/** Copies papers into one place or several, after asking once for all what becomes of names that are there already. */
export function CopyDialog({
  papers,
  onClose,
}: {
  readonly papers: readonly { readonly id: string; readonly title: string }[];
  readonly onClose: () => void;
}) {
  const [chosen, setChosen] = useState<readonly Target[]>([]);
  const [onSameName, setOnSameName] = useState<'number' | 'leaveOut'>('number');
  const { copy } = usePaperActs();
  const sorted = useActable(papers, 'copy');
  const may = sorted?.may ?? [];
  const { data, error } = useAsk(
    'papers.copyForecast',
    { documentIds: may.map(({ id }) => id), toIds: chosen.map(({ id }) => id) },
    { enabled: chosen.length > 0 && may.length > 0, keepPrevious: true },
  );
  const left = onSameName === 'leaveOut' ? (data?.copies ?? 0) - (data?.sameName ?? 0) : (data?.copies ?? 0);
  return (
    <Dialog
      title={`Copy ${papersInWords(papers)}`}
      about="A copy is a paper of its own: changing it leaves the original as it is. It says where it came from, and when that has a newer version. Whoever can open a place can open the copies in it."
      open
      onClose={onClose}
    >
      {sorted && <NotAll sorted={sorted} total={papers.length} />}
      {may.length > 0 && <PlacesChooser label="Where to" chosen={chosen} onChange={setChosen} />}
      {chosen.length > 0 && data && data.sameName > 0 && (
        <fieldset className="mt-3">
          <legend className="font-semibold">
            {counted(data.sameName, 'copy', 'copies')} would have a name that is there already
          </legend>
          {(['number', 'leaveOut'] as const).map((each) => (
            <label key={each} className="flex items-center gap-2.5 py-0.5">
              <input
                type="radio"
                name="onSameName"
                checked={onSameName === each}
                onChange={() => setOnSameName(each)}
                className="size-4 accent-brine"
              />
              {each === 'number' ? 'Number them: “Form (2)”' : 'Leave them out'}
            </label>
          ))}
        </fieldset>
      )}
      {error && (
        <p role="alert" className="mt-3 text-ember-ink">
          {saysOf(error)}
        </p>
      )}
      <DialogActs>
        {chosen.length > 0 && data && (
          <Button
            look="main"
            disabled={left === 0}
            onClick={() => void copy(may, chosen, onSameName).then((done) => done && onClose())}
          >
            {left === 1 ? 'Make one copy' : `Make ${left.toLocaleString('en-GB')} copies`} in {whereInWords(chosen)}
          </Button>
        )}
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
