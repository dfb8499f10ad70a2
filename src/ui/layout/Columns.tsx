'use client';

import { Dialog } from 'radix-ui';
import { useState, useSyncExternalStore, type ReactNode } from 'react';
import { Button } from '../kit/button';
import { useNarrow } from '../kit/useNarrow';

interface Props {
  readonly where: ReactNode;
  readonly docket: ReactNode;
  /** A paper has been chosen: on a narrow window its docket comes up by itself. */
  readonly docketOpen: boolean;
  /** There is something else to show in it, as of several papers in hand: on a wide window it comes as well. */
  readonly docketWanted?: boolean;
  readonly onDocketClose: () => void;
  readonly children: ReactNode;
}

const pinnedKey = 'embrin-docket';
const pins = new Set<() => void>();

/** Whether the docket stays when nothing is chosen: kept in this browser. Without a word it folds, for the papers need the room. */
function useDocketPinned(): [boolean, (pinned: boolean) => void] {
  const pinned = useSyncExternalStore(
    (changed) => {
      pins.add(changed);
      return () => pins.delete(changed);
    },
    () => localStorage.getItem(pinnedKey) === 'open',
    () => false,
  );
  return [
    pinned,
    (next) => {
      localStorage.setItem(pinnedKey, next ? 'open' : 'folded');
      for (const changed of pins) changed();
    },
  ];
}

/** The three columns of a room: where, the papers, the docket. */
export function Columns({ where, docket, docketOpen, docketWanted, onDocketClose, children }: Props) {
  const isNarrow = useNarrow();
  const [whereOpen, setWhereOpen] = useState(false);
  const [folded, setFolded] = useState(false);
  const [pinned, setPinned] = useDocketPinned();
  const docketShown = pinned || docketOpen || (docketWanted ?? false);
  function turnDocket() {
    setPinned(!docketShown);
    if (docketOpen) onDocketClose();
  }
  const main = (
    <main id="main" className="flex min-h-0 min-w-0 flex-1 flex-col">
      {isNarrow && (
        <div className="border-b border-line bg-sheet px-3 py-1.5">
          <Button onClick={() => setWhereOpen(true)}>Where</Button>
        </div>
      )}
      {children}
    </main>
  );
  if (isNarrow) {
    return (
      <>
        {main}
        <SideSheet title="Where" side="left" open={whereOpen} onClose={() => setWhereOpen(false)}>
          <div onClick={() => setWhereOpen(false)}>{where}</div>
        </SideSheet>
        <SideSheet title="Docket" side="right" open={docketOpen} onClose={onDocketClose}>
          {docket}
        </SideSheet>
      </>
    );
  }
  return (
    <>
      <div
        className={`no-print flex shrink-0 flex-col border-r border-line bg-fog ${folded ? 'w-[34px]' : 'w-[232px]'}`}
      >
        {!folded && where}
        <button
          type="button"
          aria-expanded={!folded}
          onClick={() => setFolded(!folded)}
          className={`mt-auto border-t border-line px-4 py-1.5 text-left text-sm text-soft hover:text-ink ${folded ? 'h-full px-1 [writing-mode:vertical-rl]' : ''}`}
        >
          {folded ? 'Show where' : 'Fold this panel'}
        </button>
      </div>
      {main}
      <aside
        aria-label="Docket"
        className={`no-print flex shrink-0 flex-col border-l border-line bg-sheet ${docketShown ? 'w-[318px]' : 'w-[34px]'}`}
      >
        {docketShown && <div className="min-h-0 flex-1 overflow-y-auto">{docket}</div>}
        <button
          type="button"
          aria-expanded={docketShown}
          onClick={turnDocket}
          className={`border-t border-line px-4 py-1.5 text-left text-sm text-soft hover:text-ink ${docketShown ? 'mt-auto' : 'h-full px-1 [writing-mode:vertical-rl]'}`}
        >
          {docketShown ? 'Fold this panel' : 'Show the docket'}
        </button>
      </aside>
    </>
  );
}

function SideSheet({
  title,
  side,
  open,
  onClose,
  children,
}: {
  readonly title: string;
  readonly side: 'left' | 'right';
  readonly open: boolean;
  readonly onClose: () => void;
  readonly children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#0b1615]/35" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed inset-y-0 z-50 flex w-[min(340px,92vw)] flex-col overflow-y-auto bg-sheet ${side === 'left' ? 'left-0' : 'right-0'}`}
        >
          <div className="flex items-center justify-between border-b border-line px-4 py-2">
            <Dialog.Title className="font-condensed text-lg">{title}</Dialog.Title>
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
