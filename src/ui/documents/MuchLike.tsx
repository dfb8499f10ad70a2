'use client';

import type { AlikePaper } from '@/core/likeness/contract';
import { whenInWords } from '@/core/calendar/moment';
import { Link } from '../kit/link';
import { Stamp } from '../kit/stamp';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** How alike a paper is, in words. */
export const likenessInWords = ({ likeness }: Pick<AlikePaper, 'likeness'>): string =>
  likeness === 1 ? 'Same text' : `${Math.round(likeness * 100)} % alike`;

/** Papers whose text is the same as a paper's, or much like it; nothing where there are none. */
export function MuchLike({ documentId }: { readonly documentId: string }) {
  const { now, timeZone } = useSurroundings();
  const { data } = useAsk('paper.alike', { documentId });
  if (!data || data.papers.length === 0) return null;
  return (
    <div className="border-t border-line px-4 py-3">
      <h3 className="mb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">Much like it</h3>
      <ul className="space-y-1">
        {data.papers.map((paper) => (
          <li key={paper.documentId} className="flex items-baseline gap-1.5">
            <Stamp word={paper.stamp} />
            <span className="min-w-0">
              <Link href={`/paper/${paper.documentId}`} className="break-words hover:underline">
                {paper.title}
              </Link>
              <span className="figures block text-sm text-soft">
                {likenessInWords(paper)} · {paper.placeName} · filed {whenInWords(paper.filedAt, now, timeZone)}
              </span>
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
