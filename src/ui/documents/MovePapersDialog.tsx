'use client';

import { useState } from 'react';
import type { PlaceChoice } from '@/core/places/contract';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { Consequences } from '../places/Consequences';
import { PlaceChooser } from '../places/PlaceChooser';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { usePaperActs } from './usePaperActs';

type Target = Pick<PlaceChoice, 'id' | 'name'>;

interface Props {
  readonly papers: readonly { readonly id: string; readonly title: string }[];
  /** Where they were dropped; left out where the person is to choose. */
  readonly to?: Target | undefined;
  readonly open: boolean;
  readonly onClose: () => void;
  readonly onMoved?: () => void;
}

/** Moves papers, after saying who loses and gains sight of them. */
export function MovePapersDialog(props: Props) {
  return props.open && props.papers.length > 0 ? <OpenDialog {...props} /> : null;
}

function OpenDialog({ papers, to, onClose, onMoved }: Props) {
  const [chosen, setChosen] = useState<Target | undefined>(to);
  const { move } = usePaperActs();
  const documentIds = papers.map((paper) => paper.id);
  const forecast = useAsk(
    'papers.moveForecast',
    { documentIds, toId: chosen?.id ?? '' },
    { enabled: chosen !== undefined },
  );
  const words = papers.length === 1 && papers[0] ? `“${papers[0].title}”` : counted(papers.length, 'paper');

  async function go(target: Target) {
    if (!(await move(papers, target))) return;
    onMoved?.();
    onClose();
  }

  return (
    <Dialog title={`Move ${words}`} open onClose={onClose}>
      {chosen ? (
        <p>
          To <strong>{chosen.name}</strong>{' '}
          <Button look="quiet" onClick={() => setChosen(undefined)}>
            Choose another place
          </Button>
        </p>
      ) : (
        <PlaceChooser label="Where to" capability="add" onChoose={setChosen} />
      )}
      {forecast.data && chosen && <Consequences {...forecast.data} />}
      {forecast.error && (
        <p role="alert" className="mt-3 text-ember-ink">
          {saysOf(forecast.error)}
        </p>
      )}
      <DialogActs>
        {chosen && (
          <Button look="main" disabled={!forecast.data} onClick={() => void go(chosen)}>
            Move {papers.length === 1 ? 'it' : words} to {chosen.name}
          </Button>
        )}
        <Button onClick={onClose}>
          Leave {papers.length === 1 ? 'it' : 'them'} where {papers.length === 1 ? 'it is' : 'they are'}
        </Button>
      </DialogActs>
    </Dialog>
  );
}
