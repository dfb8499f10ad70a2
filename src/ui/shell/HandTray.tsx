'use client';

import { useState } from 'react';
import { counted, sizeInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Menu, type MenuAct } from '../kit/menu';
import { useNarrow } from '../kit/useNarrow';
import { CopyDialog } from '../documents/CopyDialog';
import { CrossFileDialog } from '../documents/CrossFileDialog';
import { DisposeDialog } from '../documents/DisposeDialog';
import { PrintDialog } from '../documents/PrintDialog';
import { LockDialog } from '../documents/LockDialog';
import { usePaperActs } from '../documents/usePaperActs';
import { MovePapersDialog } from '../documents/MovePapersDialog';
import { LabelPanel } from '../labels/LabelPanel';
import { ExportDialog } from '../exports/ExportDialog';
import { HoldDialog } from '../holds/HoldDialog';
import { HandPanel } from './HandPanel';
import { useSurroundings } from '../surroundings/Surroundings';
import { useHand, useLabelPanel } from '../hand/HandProvider';

/** The tray along the bottom: what is in hand, and what can be done with it. */
export function HandTray() {
  const { held, putAllDown, putDown } = useHand();
  const { me, seenBy } = useSurroundings();
  const { dispose } = usePaperActs();
  const [dialog, setDialog] = useState<
    'list' | 'move' | 'file' | 'copy' | 'lock' | 'export' | 'print' | 'hold' | 'dispose' | null
  >(null);
  const close = () => setDialog(null);
  const isNarrow = useNarrow();
  const { open: labelling, setOpen: setLabelling } = useLabelPanel();
  const papers = [...held.values()];
  if (papers.length === 0) {
    return (
      <footer
        aria-label="In hand"
        className="no-print flex h-[44px] shrink-0 items-center border-t border-line bg-fog px-4 text-sm text-soft"
      >
        <span className="mr-auto">
          Nothing in hand.<span className="max-sm:hidden"> Tick papers anywhere to collect them here.</span>
        </span>
        <Button look="quiet" aria-expanded={labelling} onClick={() => setLabelling(!labelling)}>
          Labels
        </Button>
        {labelling && <LabelPanel papers={[]} onClose={() => setLabelling(false)} />}
      </footer>
    );
  }
  const ids = papers.map((paper) => paper.id);
  const places = new Set(papers.map((paper) => paper.homeId)).size;
  const pages = papers.reduce((sum, paper) => sum + (paper.pageCount ?? 0), 0);
  const bytes = papers.reduce((sum, paper) => sum + paper.sizeBytes, 0);
  const several = papers.length > 1;
  const acts: MenuAct[] = [
    { label: 'Show', act: () => setDialog('list') },
    { label: 'Label', act: () => setLabelling(!labelling) },
    { label: 'Move…', act: () => setDialog('move') },
    { label: 'File elsewhere as well…', act: () => setDialog('file') },
    { label: 'Copy…', act: () => setDialog('copy') },
    { label: 'Lock…', act: () => setDialog('lock') },
    { label: 'Print…', act: () => setDialog('print') },
    ...(seenBy === null ? [{ label: 'Export…', act: () => setDialog('export') }] : []),
    ...(me.keeper && seenBy === null ? [{ label: 'Hold…', act: () => setDialog('hold') }] : []),
    {
      label: several ? 'Dispose of…' : 'Dispose of',
      act: () => (several ? setDialog('dispose') : void dispose(papers).then((done) => done && putDown(ids))),
    },
  ];
  return (
    <footer
      aria-label="In hand"
      className="no-print flex min-h-[44px] shrink-0 flex-wrap items-center gap-x-2 gap-y-1 border-t border-straw-edge bg-straw px-4 py-1 text-straw-ink"
    >
      <strong className="figures">{counted(papers.length, 'paper')} in hand</strong>
      <span className="figures mr-auto text-sm">
        {pages > 0 && `${counted(pages, 'page')} · `}
        {sizeInWords(bytes)} · from {counted(places, 'place')}
      </span>
      {isNarrow ? (
        <Menu label="What to do with them" acts={[...acts, { label: 'Put down', act: putAllDown, apart: true }]} />
      ) : (
        acts.map(({ label, act }) => (
          <Button key={label} look="straw" {...(label === 'Label' ? { 'aria-expanded': labelling } : {})} onClick={act}>
            {label}
          </Button>
        ))
      )}
      {!isNarrow && (
        <Button look="quiet" className="!text-straw-ink" onClick={putAllDown}>
          Put down
        </Button>
      )}
      <HandPanel open={dialog === 'list'} onClose={close} />
      {dialog === 'export' && <ExportDialog title="Export what is in hand" papers={papers} onClose={close} />}
      {dialog === 'hold' && (
        <HoldDialog
          on={{ placeIds: [], documentIds: ids.slice(0, 5000), views: [] }}
          what={counted(Math.min(ids.length, 5000), 'paper')}
          onClose={close}
        />
      )}
      {dialog === 'print' && <PrintDialog papers={papers} onClose={close} />}
      {dialog === 'file' && <CrossFileDialog papers={papers} mayOpen onClose={close} />}
      {dialog === 'copy' && <CopyDialog papers={papers} onClose={close} />}
      {dialog === 'lock' && <LockDialog papers={papers} onClose={close} />}
      {dialog === 'dispose' && <DisposeDialog papers={papers} onClose={close} onDone={putDown} />}
      {labelling && <LabelPanel papers={papers} onClose={() => setLabelling(false)} />}
      <MovePapersDialog papers={papers} open={dialog === 'move'} onClose={close} onMoved={putDown} />
    </footer>
  );
}
