'use client';

import { useState } from 'react';
import { papersInWords } from '@/core/text/measure';
import { ImpactLines } from '../access/ImpactLines';
import type { Target } from '../choosing/MoveTarget';
import { PlacesChooser } from '../choosing/PlacesChooser';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { whereInWords } from './whereInWords';
import { usePaperActs } from './usePaperActs';

/** Files papers in more places, as pointers or as openings. */
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
  const [chosen, setChosen] = useState<readonly Target[]>([]);
  const [opens, setOpens] = useState(false);
  const { file } = usePaperActs();
  const [it, one] = papers.length === 1 ? ['it', 'it is'] : ['them', 'they are'];
  const kind = opens ? 'opening' : 'pointer';
  return (
    <Dialog
      title={`File ${papersInWords(papers)} elsewhere as well`}
      about={`${papers.length === 1 ? 'It is' : 'They are'} still kept once, and ${papers.length === 1 ? 'stays' : 'stay'} where ${one}.`}
      open
      onClose={onClose}
    >
      <PlacesChooser
        label="Where"
        chosen={chosen}
        onChange={setChosen}
        about={(place) => <WhoGains papers={papers} placeId={place.id} kind={kind} />}
      />
      {mayOpen && chosen.length > 0 && (
        <label className="mt-3 flex items-start gap-2.5">
          <input
            type="checkbox"
            checked={opens}
            onChange={() => setOpens(!opens)}
            className="mt-1 size-4 accent-brine"
          />
          <span>
            Let those in who can open {whereInWords(chosen)}
            <span className="block text-sm text-soft">
              Without this, only those see {it} there who may see {it} anyway.
            </span>
          </span>
        </label>
      )}
      <DialogActs>
        {chosen.length > 0 && (
          <Button look="main" onClick={() => void file(papers, chosen, kind).then((done) => done && onClose())}>
            File {it} in {whereInWords(chosen)} as well
          </Button>
        )}
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}

/** Who would gain access by filing papers in a place, or lose it. */
function WhoGains({
  papers,
  placeId,
  kind,
}: {
  readonly papers: readonly { readonly id: string }[];
  readonly placeId: string;
  readonly kind: 'pointer' | 'opening';
}) {
  const { data, error } = useAsk('papers.forecastFiling', {
    documentIds: papers.map(({ id }) => id),
    placeId,
    kind,
  });
  return error ? (
    <p role="alert" className="text-ember-ink">
      {saysOf(error)}
    </p>
  ) : (
    <ImpactLines lines={data} />
  );
}
