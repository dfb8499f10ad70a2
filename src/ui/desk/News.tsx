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

/** Whose changes: everyone's, those of the person themselves, or what others changed in what they follow. */
type Whose = 'all' | 'mine' | 'followed';

const ways: Readonly<Record<Whose, readonly [address: string, words: string]>> = {
  all: ['/all?view=since-i-looked', 'All that is new since I looked'],
  mine: ['/all?view=filed-by-me', 'All that I filed'],
  followed: ['/account', 'What I follow'],
};

/** What was changed lately, or filed by the person: what was done together is one line. */
export function News({ whose, frame }: { readonly whose: Whose; readonly frame: Frame }) {
  const isFollowed = whose === 'followed';
  const changed = useAsk('desk.news', { whose: isFollowed ? 'all' : whose }, { enabled: !isFollowed });
  const followed = useAsk('follow.news', {}, { enabled: isFollowed });
  const { data } = isFollowed ? followed : changed;
  if (!data || data.length === 0) return null;
  return (
    <DeskBlock
      {...frame}
      acts={
        <Link href={ways[whose][0]} className="text-sm text-brine-ink hover:underline">
          {ways[whose][1]}
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

function Line({ line, whose }: { readonly line: NewsLine; readonly whose: Whose }) {
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
        {whose !== 'mine' && <span className="max-sm:hidden">{line.by}, </span>}
        {whenInWords(line.at, now, timeZone)}
      </time>
    </li>
  );
}
