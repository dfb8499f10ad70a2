'use client';

import { Link } from '../kit/link';
import { Dialog } from '../kit/dialog';
import { Stamp } from '../kit/stamp';
import { useHand } from '../hand/HandProvider';
import type { PaperInHand } from '@/core/hand/contract';

/** All that is in hand, by the places where it lies. */
export function HandPanel({ open, onClose }: { readonly open: boolean; readonly onClose: () => void }) {
  const { held, putDown } = useHand();
  const places = new Map<string, PaperInHand[]>();
  for (const paper of held.values()) places.set(paper.homeId, [...(places.get(paper.homeId) ?? []), paper]);
  return (
    <Dialog
      title="In hand"
      about="Kept for you on all your devices, until you put it down."
      shape="sheet"
      open={open}
      onClose={onClose}
    >
      {[...places].map(([placeId, papers]) => (
        <section key={placeId} className="mb-4">
          <h3 className="flex items-baseline gap-2 font-condensed">
            <Link href={`/place/${placeId}`} className="min-w-0 truncate hover:underline" onClick={onClose}>
              {papers[0]?.homeName}
            </Link>
            <button
              type="button"
              className="ml-auto shrink-0 font-sans text-sm text-brine-ink hover:underline"
              onClick={() => putDown(papers.map(({ id }) => id))}
            >
              Put these down
            </button>
          </h3>
          <ul>
            {papers.slice(0, mostShown).map((paper) => (
              <li key={paper.id} className="flex items-center gap-2 border-b border-line py-1">
                <Stamp word={paper.stamp} />
                <Link href={`/paper/${paper.id}`} className="min-w-0 flex-1 truncate hover:underline" onClick={onClose}>
                  {paper.title}
                </Link>
                <button
                  type="button"
                  aria-label={`Put down ${paper.title}`}
                  className="px-1.5 text-soft hover:text-ink"
                  onClick={() => putDown([paper.id])}
                >
                  ×
                </button>
              </li>
            ))}
            {papers.length > mostShown && (
              <li className="py-1 text-soft">and {(papers.length - mostShown).toLocaleString('en-GB')} more</li>
            )}
          </ul>
        </section>
      ))}
    </Dialog>
  );
}

/** So many papers of one place are listed. */
const mostShown = 100;
