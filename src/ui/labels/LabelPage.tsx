'use client';

import { counted } from '@/core/text/measure';
import { asHeld, useHand } from '../hand/HandProvider';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { Stamp } from '../kit/stamp';
import { Waiting } from '../forms/Waiting';
import { useAsk } from '../server/useCall';
import { LabelTag } from './LabelTag';

/** All papers with a label, wherever they are filed. */
export function LabelPage({ labelId }: { readonly labelId: string }) {
  const { data, error } = useAsk('label.papers', { labelId });
  const { pickUp, held, putDown } = useHand();
  if (error || !data) return <Waiting what="the papers" error={error} />;
  const { label, papers } = data;
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <h1 className="font-condensed text-xl">{label.name}</h1>
        <LabelTag label={label} />
        <span className="figures text-sm text-soft">{counted(papers.length, 'paper')}, wherever they are filed</span>
        {papers.length > 0 && (
          <Button className="ml-auto" onClick={() => pickUp(papers.map((paper) => asHeld(paper, paper.homeName)))}>
            Pick up all {counted(papers.length, 'paper')}
          </Button>
        )}
      </div>
      {papers.length === 0 && (
        <p className="rounded-sm border border-line bg-sheet px-4 py-6 text-soft">
          No paper that you can see has this label. Pick papers up and open Labels in the tray to put it on them.
        </p>
      )}
      <ul className="rounded-sm border border-line bg-sheet empty:hidden">
        {papers.map((paper) => (
          <li key={paper.id} className="flex h-[36px] items-center gap-2.5 border-b border-line px-3 last:border-0">
            <input
              type="checkbox"
              aria-label={`Pick up ${paper.title}`}
              checked={held.has(paper.id)}
              onChange={() => (held.has(paper.id) ? putDown([paper.id]) : pickUp([asHeld(paper, paper.homeName)]))}
              className="size-[15px] accent-brine"
            />
            <span className="w-[54px] shrink-0">
              <Stamp word={paper.stamp} />
            </span>
            <Link
              href={`/place/${paper.homeId}?paper=${paper.id}`}
              className="min-w-0 truncate font-medium hover:underline"
            >
              {paper.title}
            </Link>
            <span className="min-w-0 shrink truncate text-sm text-soft">in {paper.homeName}</span>
          </li>
        ))}
      </ul>
    </main>
  );
}
