'use client';

import { useState } from 'react';
import type { PlaceChoice } from '@/core/places/contract';
import { placeInWords } from '@/core/places/way';
import { papersInWords } from '@/core/text/measure';
import { ImpactLines } from '../access/ImpactLines';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { PlaceChooser } from '../choosing/PlaceChooser';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { usePaperActs } from './usePaperActs';

type Target = Pick<PlaceChoice, 'id' | 'name'>;

/** Files papers in one more place, as pointers or as openings. */
export function CrossFileDialog({
  papers,
  mayOpen,
  onClose,
}: {
  readonly papers: readonly { readonly id: string; readonly title: string }[];
  /** Whether the person manages the papers, and so may make openings. */
  readonly mayOpen: boolean;
  readonly onClose: () => void;
}) {
  const [chosen, setChosen] = useState<Target | null>(null);
  const [opens, setOpens] = useState(false);
  const { file } = usePaperActs();
  const forecast = useAsk(
    'papers.forecastFiling',
    {
      documentIds: papers.map(({ id }) => id),
      placeId: chosen?.id ?? '',
      kind: opens ? 'opening' : 'pointer',
    },
    { enabled: chosen !== null },
  );
  const it = papers.length === 1 ? 'it' : 'them';
  const words = papersInWords(papers);
  return (
    <Dialog
      title={`File ${words} elsewhere as well`}
      about={`${papers.length === 1 ? 'It is' : 'They are'} still kept once, and ${papers.length === 1 ? 'stays' : 'stay'} where ${papers.length === 1 ? 'it is' : 'they are'}.`}
      open
      onClose={onClose}
    >
      {chosen === null ? (
        <PlaceChooser
          label="Where"
          capability="add"
          onChoose={({ id, path }) => setChosen({ id, name: placeInWords(path) })}
        />
      ) : (
        <>
          <p>
            In <strong>{chosen.name}</strong>{' '}
            <Button look="quiet" onClick={() => setChosen(null)}>
              Choose another place
            </Button>
          </p>
          {mayOpen && (
            <label className="mt-3 flex items-start gap-2.5">
              <input
                type="checkbox"
                checked={opens}
                onChange={() => setOpens(!opens)}
                className="mt-1 size-4 accent-brine"
              />
              <span>
                Let those in who can open {chosen.name}
                <span className="block text-sm text-soft">
                  Without this, only those see {it} there who may see {it} anyway.
                </span>
              </span>
            </label>
          )}
          <div className="mt-3 rounded-sm border border-line bg-fog px-4 py-2">
            <ImpactLines lines={forecast.data} />
          </div>
        </>
      )}
      {forecast.error && (
        <p role="alert" className="mt-3 text-ember-ink">
          {saysOf(forecast.error)}
        </p>
      )}
      <DialogActs>
        {chosen !== null && (
          <Button
            look="main"
            disabled={!forecast.data}
            onClick={() => void file(papers, chosen, opens ? 'opening' : 'pointer').then((done) => done && onClose())}
          >
            File {it} in {chosen.name} as well
          </Button>
        )}
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
