'use client';

import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { Link } from '../kit/link';
import { Path } from '../kit/path';
import { Stamp } from '../kit/stamp';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { BlockSheet, DeskBlock } from './Block';
import type { Frame } from './blockWords';

const mostShown = 6;

/** The papers that the person had open last, each at the page where they were. */
export function Lately({ frame }: { readonly frame: Frame }) {
  const { now, timeZone } = useSurroundings();
  const { data } = useAsk('desk.lately', {});
  if (!data || data.length === 0) return null;
  return (
    <DeskBlock {...frame}>
      <BlockSheet>
        <ul className="grid grid-cols-[minmax(0,1fr)] md:grid-cols-2">
          {data.slice(0, mostShown).map((paper) => (
            <li key={paper.id} className="flex items-center gap-2 border-b border-line px-3 py-1">
              <span className="w-[50px] shrink-0">
                <Stamp word={paper.stamp} />
              </span>
              <span className="min-w-0 flex-1">
                <Link
                  href={`/paper/${paper.id}${paper.page > 1 ? `?page=${paper.page}` : ''}`}
                  className="block truncate font-medium hover:underline"
                >
                  {paper.title}
                </Link>
                <span className="flex gap-2 text-sm text-soft">
                  <Path steps={[paper.where]} className="min-w-0 shrink" />
                  <time className="ml-auto shrink-0" dateTime={paper.at} title={momentInWords(paper.at, timeZone)}>
                    {paper.page > 1 && `page ${paper.page} · `}
                    {whenInWords(paper.at, now, timeZone)}
                  </time>
                </span>
              </span>
            </li>
          ))}
        </ul>
      </BlockSheet>
    </DeskBlock>
  );
}
