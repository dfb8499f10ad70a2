'use client';

import dynamic from 'next/dynamic';
import { useEffect, useState } from 'react';
import { PageList } from './PageList';
import { PageImage } from './PageImage';
import type { Source } from './source';

const loadPdfPages = () => import('./PdfPages').then((module) => module.PdfPages);
const PdfPages = dynamic(loadPdfPages, { ssr: false });

/** Loads what draws pages while something else is waited for. */
export const usePagesSoon = (): void => useEffect(() => void loadPdfPages().catch(() => undefined), []);

/**
 * The pages of a paper, one below the other; only those in sight are drawn. Whoever may have copies gets the pages
 * themselves, with text to select; others, and pictures in which nothing is written, what the server draws.
 */
export function Pages({ source, startAt }: { readonly source: Source; readonly startAt: number }) {
  const { paper } = source;
  return paper.mayTake && (paper.form !== 'picture' || paper.hasPages) ? (
    <PdfPages source={source} startAt={startAt} />
  ) : (
    <PicturePages source={source} startAt={startAt} />
  );
}

function PicturePages({ source, startAt }: { readonly source: Source; readonly startAt: number }) {
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
          onRatio={(each) => setRatio((before) => before ?? each)}
        />
      )}
    />
  );
}
