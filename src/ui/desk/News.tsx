'use client';

import { momentInWords, whenInWords } from '@/core/calendar/moment';
import type { NewsLine } from '@/core/desk/news';
import { counted } from '@/core/text/measure';
import { Link } from '../kit/link';
import { Stamp } from '../kit/stamp';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { BlockSheet, DeskBlock } from './Block';
import type { Frame } from './blockWords';

const mostShown = 8;

/** What was changed lately, or filed by the person: what was done together is one line. */
export function News({ whose, frame }: { readonly whose: 'all' | 'mine'; readonly frame: Frame }) {
  const { data } = useAsk('desk.news', { whose });
  if (!data || data.length === 0) return null;
  return (
    <DeskBlock
      {...frame}
      acts={
        <Link
          href={whose === 'mine' ? '/all?view=filed-by-me' : '/all?view=since-i-looked'}
          className="text-sm text-brine-ink hover:underline"
        >
          {whose === 'mine' ? 'All that I filed' : 'All that is new since I looked'}
        </Link>
      }
    >
      <BlockSheet>
        <ul>
          {data.slice(0, mostShown).map((line) => (
            <Line key={`${line.verb} ${line.by} ${line.placeId} ${line.at}`} line={line} whose={whose} />
          ))}
        </ul>
      </BlockSheet>
    </DeskBlock>
  );
}

function Line({ line, whose }: { readonly line: NewsLine; readonly whose: 'all' | 'mine' }) {
  const { now, timeZone } = useSurroundings();
  const [paper] = line.papers;
  const place = (
    <Link href={`/place/${line.placeId}`} className="hover:underline">
      {line.placeName}
    </Link>
  );
  return (
    <li className="flex min-h-[34px] items-center gap-2.5 border-b border-line px-3 py-1 last:border-0">
      <span className="w-[54px] shrink-0">
        {line.count === 1 && paper ? (
          <Stamp word={paper.stamp} />
        ) : (
          <span className="figures block text-center font-semibold">{line.count.toLocaleString('en-GB')}</span>
        )}
      </span>
      <span className="min-w-0 flex-1">
        {line.count === 1 && paper ? (
          <span className="flex flex-wrap items-baseline gap-x-2">
            <Link href={`/place/${line.placeId}?paper=${paper.id}`} className="truncate font-medium hover:underline">
              {paper.title}
            </Link>
            <span className="truncate text-sm text-soft">{place}</span>
          </span>
        ) : (
          <span className="block truncate" title={line.papers.map(({ title }) => title).join(', ')}>
            {counted(line.count, 'paper')} {line.verb} in <span className="font-medium">{place}</span>
          </span>
        )}
      </span>
      <time className="shrink-0 text-sm text-soft" dateTime={line.at} title={momentInWords(line.at, timeZone)}>
        {whose === 'all' && <span className="max-sm:hidden">{line.by}, </span>}
        {whenInWords(line.at, now, timeZone)}
      </time>
    </li>
  );
}
