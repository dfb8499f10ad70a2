'use client';

import { useState } from 'react';
import { placeInWords } from '@/core/places/way';
import { papersInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { MoveTarget, type Target } from '../choosing/MoveTarget';
import { useAsk } from '../server/useCall';
import { NotAll, useActable } from './NotAll';
import { usePaperActs } from './usePaperActs';

interface Props {
  readonly papers: readonly { readonly id: string; readonly title: string }[];
  /** Where they were dropped; left out if the person chooses. */
  readonly to?: Target | undefined;
  readonly open: boolean;
  readonly onClose: () => void;
  readonly onMoved?: (ids: readonly string[]) => void;
}

/** Moves papers, after showing who loses and gains access. */
export function MovePapersDialog(props: Props) {
  return props.open && props.papers.length > 0 ? <OpenDialog {...props} /> : null;
}

function OpenDialog({ papers: all, to, onClose, onMoved }: Props) {
  const [chosen, setChosen] = useState<Target | undefined>(to);
  const { move, file } = usePaperActs();
  const sorted = useActable(all, 'move');
  const papers = sorted?.may ?? all;
  const documentIds = papers.map((paper) => paper.id);
  const forecast = useAsk(
    'papers.moveForecast',
    { documentIds, toId: chosen?.id ?? '' },
    { enabled: chosen !== undefined && sorted !== null && papers.length > 0 },
  );
  const it = papers.length === 1 ? 'it' : 'them';
  const words = papersInWords(all);

  const shutsOut = forecast.data?.impact.some((line) => line.kind === 'loses') === true;

  async function go(done: Promise<boolean>) {
    if (!(await done)) return;
    onMoved?.(documentIds);
    onClose();
  }

  return (
    <Dialog title={`Move ${words}`} open onClose={onClose}>
      {sorted && all.length > 1 && <NotAll sorted={sorted} total={all.length} />}
      {(papers.length > 0 || all.length === 1) && (
        <MoveTarget
          chosen={chosen}
          capability="add"
          forecast={forecast}
          onChoose={(place) => setChosen(place && { id: place.id, name: placeInWords(place.path) })}
        />
      )}
      <DialogActs>
        {chosen && forecast.data && (
          <FirstChoice
            // If someone would lose access, the alternative that takes none away comes first.
            acts={(shutsOut ? ['file', 'move'] : ['move', 'file']).map((act) =>
              act === 'move'
                ? { words: `Move ${it} to ${chosen.name}`, act: () => void go(move(papers, chosen)) }
                : {
                    words: `Leave ${it} here, and file ${it} in ${chosen.name} as well`,
                    act: () => void go(file(papers, [chosen], 'pointer')),
                  },
            )}
          />
        )}
        <Button onClick={onClose}>
          Leave {it} where {papers.length === 1 ? 'it is' : 'they are'}
        </Button>
      </DialogActs>
    </Dialog>
  );
}

/** Buttons for acts in order; the first is the main one. */
function FirstChoice({ acts }: { readonly acts: readonly { readonly words: string; readonly act: () => void }[] }) {
  return acts.map(({ words, act }, at) => (
    <Button key={words} look={at === 0 ? 'main' : 'plain'} onClick={act}>
      {words}
    </Button>
  ));
}
