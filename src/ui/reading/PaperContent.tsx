'use client';

import dynamic from 'next/dynamic';
import { useSearchParams } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import type { Attachment, ShownForm } from '@/core/reading/form';
import { isUnderWay } from '@/core/reading/stages';
import { Button } from '../kit/button';
import { FileList } from './FileList';
import { Mail } from './Mail';
import { Markup } from './Markup';
import { Pages } from './Pages';
import { PlainText } from './PlainText';
import type { Source } from './source';
import { WebLink } from './WebLink';
import { BeingRead, NotShown } from './Waiting';

const Sheets = dynamic(() => import('./Sheets').then((module) => module.Sheets), { ssr: false });

/** A paper's content as its kind is shown, and as the reader may have it. */
export function PaperContent({
  source,
  startAt,
  onAttachment,
}: {
  readonly source: Source;
  readonly startAt: number;
  readonly onAttachment: ((attachment: Attachment) => void) | null;
}) {
  const { paper } = source;
  if (paper.mayTake) return <Shown {...{ source, startAt, onAttachment }} />;
  return (
    <>
      <p className="hidden p-8 print:block">This paper may be read on the screen, and not printed.</p>
      <div className="h-full print:hidden">
        <Shown {...{ source, startAt, onAttachment }} />
      </div>
    </>
  );
}

function Shown({ source, startAt, onAttachment }: Parameters<typeof PaperContent>[0]) {
  const { paper } = source;
  // On pages the words that a search found are marked; sheets have marks of their own.
  const isLooking = useSearchParams().get('find') !== null && paper.form !== 'sheets';
  const [asPages, setAsPages] = useState(isLooking && paper.pages !== null);
  // A PDF and a picture need nothing to be made of them first.
  const isShownAsItCame = paper.mediaType === 'application/pdf' || paper.form === 'picture';
  if (isShownAsItCame && (paper.form === 'picture' || paper.why === null || paper.pages !== null))
    return <Pages source={source} startAt={startAt} />;
  const view = paper.mayTake && paper.hasView && !asPages ? viewOf(source, onAttachment) : null;
  if (view === null && paper.pages === null)
    return isUnderWay(paper) && paper.form !== null ? <BeingRead source={source} /> : <NotShown source={source} />;
  const hasBoth = paper.mayTake && paper.hasView && paper.pages !== null;
  return (
    <div className="flex h-full flex-col">
      <div className="min-h-0 flex-1">{view ?? <Pages source={source} startAt={startAt} />}</div>
      {hasBoth && (
        <p className="no-print flex items-center justify-end gap-2 border-t border-line bg-fog px-3 py-1 text-soft">
          <Button look="quiet" className="!h-[24px]" onClick={() => setAsPages(!asPages)}>
            {asPages ? otherWords[paper.form ?? 'text'] : 'Show as printed pages'}
          </Button>
        </p>
      )}
    </div>
  );
}

const otherWords: Readonly<Record<ShownForm, string>> = {
  sheets: 'Show as sheets',
  mail: 'Show as a mail',
  markup: 'Show as a web page',
  text: 'Show as a text',
  list: 'Show as a list',
  pages: 'Show as pages',
  picture: 'Show as a picture',
};

function viewOf(source: Source, onAttachment: ((attachment: Attachment) => void) | null): ReactNode {
  switch (source.paper.form) {
    case 'sheets':
      return <Sheets source={source} />;
    case 'mail':
      return <Mail source={source} onAttachment={onAttachment} />;
    case 'markup':
      return <Markup source={source} />;
    case 'text':
      return source.paper.mediaType === 'text/uri-list' ? <WebLink source={source} /> : <PlainText source={source} />;
    case 'list':
      return <FileList source={source} />;
    default:
      return null;
  }
}
