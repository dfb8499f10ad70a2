'use client';

import { useMemo } from 'react';
import type { PaperInHand } from '@/core/hand/contract';
import { DocketValues } from '../columns/DocketValues';
import { counted, sizeInWords } from '@/core/text/measure';

/** The values of the papers in hand, "several" where they differ; setting one sets it on all of them. */
export function SeveralDocket({
  papers,
  placeId,
}: {
  readonly papers: readonly PaperInHand[];
  readonly placeId: string;
}) {
  const ids = useMemo(() => papers.map((paper) => paper.id), [papers]);
  const pages = papers.reduce((sum, paper) => sum + (paper.pageCount ?? 0), 0);
  const bytes = papers.reduce((sum, paper) => sum + paper.sizeBytes, 0);
  return (
    <div className="py-4">
      <h2 className="px-4 font-condensed text-lg">{counted(papers.length, 'paper')} in hand</h2>
      <p className="figures mb-3 px-4 text-sm text-soft">
        {pages > 0 && `${counted(pages, 'page')} · `}
        {sizeInWords(bytes)}
      </p>
      <DocketValues documentIds={ids} placeId={placeId} />
      <ul className="border-t border-line px-4 pt-3">
        {papers.slice(0, 40).map((paper) => (
          <li key={paper.id} className="truncate">
            {paper.title}
          </li>
        ))}
        {papers.length > 40 && <li className="text-soft">and {papers.length - 40} more</li>}
      </ul>
    </div>
  );
}
