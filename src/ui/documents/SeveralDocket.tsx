'use client';

import type { PaperRow } from '@/core/documents/model';
import { counted, sizeInWords } from '@/core/text/measure';

/** What several chosen papers have in common; "several" where they differ. */
export function SeveralDocket({ papers }: { readonly papers: readonly PaperRow[] }) {
  const shared = (of: (paper: PaperRow) => string): string => {
    const values = new Set(papers.map(of));
    const [only] = values;
    return values.size === 1 && only !== undefined ? only : 'several';
  };
  const pages = papers.reduce((sum, paper) => sum + (paper.pageCount ?? 0), 0);
  const bytes = papers.reduce((sum, paper) => sum + paper.sizeBytes, 0);
  return (
    <div className="px-4 py-4">
      <h2 className="font-condensed text-lg">{counted(papers.length, 'paper')} chosen here</h2>
      <p className="figures text-sm text-soft">
        {pages > 0 && `${counted(pages, 'page')} · `}
        {sizeInWords(bytes)}
      </p>
      <dl className="mt-3 grid grid-cols-[84px_minmax(0,1fr)] gap-y-1 border-t border-line pt-3">
        <dt className="text-soft">Kind</dt>
        <dd>{shared((paper) => paper.stamp)}</dd>
        <dt className="text-soft">Filed by</dt>
        <dd>{shared((paper) => paper.filedBy)}</dd>
      </dl>
      <ul className="mt-3 border-t border-line pt-3">
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
