'use client';

import { columnOf, moved, plainDesk, turned } from '@/core/desk/arrangement';
import type { Arrangement } from '@/core/desk/model';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { useSurroundings } from '../surroundings/Surroundings';
import { blockWords } from './blockWords';

/** Puts the blocks of the desk in order, and leaves some out. */
export function ArrangeDesk({
  arrangement,
  onKeep,
  onClose,
}: {
  readonly arrangement: Arrangement;
  readonly onKeep: (next: Arrangement) => void;
  readonly onClose: () => void;
}) {
  const { me } = useSurroundings();
  const column = (isNarrow: boolean) =>
    columnOf(arrangement, isNarrow).filter((block) => block !== 'figures' || me.keeper);
  return (
    <Dialog
      title="Arrange the desk"
      about="For you alone, on all your devices. A block with nothing in it is not shown."
      open
      onClose={onClose}
    >
      {[false, true].map((isNarrow) => (
        <section key={String(isNarrow)} className="mb-4">
          <h3 className="mb-1 font-condensed">{isNarrow ? 'Beside it' : 'In the middle'}</h3>
          <ul className="rounded-sm border border-line">
            {column(isNarrow).map((block, at, all) => (
              <li key={block} className="flex items-center gap-2 border-b border-line px-3 py-1 last:border-0">
                <label className="flex flex-1 items-center gap-2.5">
                  <input
                    type="checkbox"
                    className="size-4 accent-brine"
                    checked={!arrangement.leftOut.includes(block)}
                    onChange={() => onKeep(turned(arrangement, 'leftOut', block))}
                  />
                  {blockWords[block]}
                </label>
                <Button
                  look="quiet"
                  className="!px-2"
                  aria-label={`Move ${blockWords[block]} up`}
                  disabled={at === 0}
                  onClick={() => onKeep(moved(arrangement, block, -1))}
                >
                  ↑
                </Button>
                <Button
                  look="quiet"
                  className="!px-2"
                  aria-label={`Move ${blockWords[block]} down`}
                  disabled={at === all.length - 1}
                  onClick={() => onKeep(moved(arrangement, block, 1))}
                >
                  ↓
                </Button>
              </li>
            ))}
          </ul>
        </section>
      ))}
      <DialogActs>
        <Button look="main" onClick={onClose}>
          Done
        </Button>
        <Button look="quiet" onClick={() => onKeep(plainDesk)}>
          As it was at first
        </Button>
      </DialogActs>
    </Dialog>
  );
}
