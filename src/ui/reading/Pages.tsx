'use client';

import dynamic from 'next/dynamic';
import { useCallback, useEffect, useState } from 'react';
import { pageGap, widestPage } from '@/core/reading/pageView';
import { PageList } from './PageList';
import { PageImage } from './PageImage';
import type { Source } from './source';
import { useSteer } from './steer';

const loadPdfPages = () => import('./PdfPages').then((module) => module.PdfPages);
const PdfPages = dynamic(loadPdfPages, { ssr: false });

/** Loads what draws pages while something else is waited for. */
export const usePagesSoon = (): void => useEffect(() => void loadPdfPages().catch(() => undefined), []);

/**
 * The pages of a paper, one below the other; only those in sight are drawn. Whoever may have copies gets the pages
 * themselves, with text to select; others, and pictures in which nothing is written, what the server draws.
 */
export function Pages({ source, startAt }: Props) {
  const { paper, showsFirst } = source;
  const { onDrawn } = useSteer();
  const [isDrawn, setDrawn] = useState(false);
  const drawn = useCallback(() => {
    setDrawn(true);
    onDrawn();
  }, [onDrawn]);
  const Shown = paper.mayTake && (paper.form !== 'picture' || paper.hasPages) ? PdfPages : PicturePages;
  return (
    <div className="relative h-full">
      <Shown source={source} startAt={startAt} onDrawn={drawn} />
      {showsFirst && startAt === 1 && !isDrawn && <FirstPage source={source} onFailed={() => setDrawn(true)} />}
    </div>
  );
}

/** The first page where it will be, as a picture that the page of the library came with. */
function FirstPage({ source, onFailed }: { readonly source: Source; readonly onFailed: () => void }) {
  return (
    <div aria-hidden className="no-print absolute inset-0 overflow-hidden bg-mist">
      <div className="h-[39px] border-b border-line bg-fog" />
      <img
        src={source.address({ page: 1 })}
        alt=""
        fetchPriority="high"
        onError={onFailed}
        className="mx-auto border border-line bg-white shadow-sm"
        style={{ marginTop: pageGap, width: `min(100% - ${2 * pageGap}px, ${widestPage}px)` }}
      />
    </div>
  );
}

interface Props {
  readonly source: Source;
  readonly startAt: number;
}

function PicturePages({ source, startAt, onDrawn }: Props & { readonly onDrawn: () => void }) {
  const { paper, title } = source;
  // Not counted yet: the first page is shown, and the rest once it is.
  const pages = paper.pages ?? 1;
  const [ratio, setRatio] = useState<number | null>(null);
  return (
    <PageList
      source={source}
      pages={pages}
      startAt={startAt}
      firstRatio={ratio}
      outline={[]}
      draw={(page, width, turned) => (
        <PageImage
          key={page}
          address={source.address({ page })}
          name={`${title}, page ${page} of ${pages}`}
          width={width}
          turned={turned}
          onRatio={(each) => {
            setRatio((before) => before ?? each);
            onDrawn();
          }}
        />
      )}
    />
  );
}
