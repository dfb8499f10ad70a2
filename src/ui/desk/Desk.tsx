'use client';

import { useState, type ReactNode } from 'react';
import { columnOf, plainDesk, turned } from '@/core/desk/arrangement';
import type { Arrangement, Block } from '@/core/desk/model';
import { BookmarkList } from '../bookmarks/BookmarkList';
import { Button } from '../kit/button';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { ArrangeDesk } from './ArrangeDesk';
import { BlockSheet, DeskBlock } from './Block';
import { blockWords, type Frame } from './blockWords';
import { Figures } from './Figures';
import { Lately } from './Lately';
import { Needs } from './Needs';
import { News } from './News';
import { NotFiledYet } from './NotFiledYet';
import { NothingOpen } from './NothingOpen';
import { PassedByMe } from './PassedByMe';
import { PassedToMe } from './PassedToMe';
import { SeriesList } from './SeriesList';

/** A person's own first page: what waits for them, their ways back, what changed lately. */
export function Desk() {
  const { me, seenBy } = useSurroundings();
  const { data: series } = useAsk('places.series', {});
  const { data } = useAsk('desk.arrangement', {});
  const arrange = useAct('desk.arrange');
  const [arranging, setArranging] = useState(false);
  const [ordering, setOrdering] = useState(false);
  const isOwn = seenBy === null;
  // What was pressed holds from then on: the next press builds on it, whatever answer is still to come.
  const [pressed, setPressed] = useState<Arrangement | null>(null);
  const arrangement = pressed ?? data ?? plainDesk;
  const keep = (next: Arrangement) => {
    setPressed(next);
    arrange.mutate(next, { onError: () => setPressed(null) });
  };

  const contents: Readonly<Record<Block, (frame: Frame) => ReactNode>> = {
    needs: (frame) => <Needs frame={frame} />,
    passed: (frame) => <PassedToMe frame={frame} />,
    followed: (frame) => <News whose="followed" frame={frame} />,
    lately: (frame) => <Lately frame={frame} />,
    news: (frame) => <News whose="all" frame={frame} />,
    mine: (frame) => <News whose="mine" frame={frame} />,
    figures: (frame) => (me.keeper ? <Figures frame={frame} /> : null),
    bookmarks: (frame) =>
      isOwn ? (
        <DeskBlock
          {...frame}
          acts={
            <Button
              look="quiet"
              className="!h-[24px] !px-1"
              aria-pressed={ordering}
              onClick={() => setOrdering(!ordering)}
            >
              {ordering ? 'Done' : 'Order'}
            </Button>
          }
        >
          <BlockSheet>
            <BookmarkList arranging={ordering} />
          </BlockSheet>
        </DeskBlock>
      ) : null,
    library: (frame) => <SeriesList frame={frame} series={series ?? []} />,
    passedOn: (frame) => <PassedByMe frame={frame} />,
  };
  const column = (isNarrow: boolean) =>
    columnOf(arrangement, isNarrow)
      .filter((block) => !arrangement.leftOut.includes(block))
      .map((block) => (
        <div key={block}>
          {contents[block]({
            title: blockWords[block],
            isFolded: arrangement.folded.includes(block),
            onFold: isOwn ? () => keep(turned(arrangement, 'folded', block)) : null,
          })}
        </div>
      ));

  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-4 max-sm:px-3">
      <div className="mb-3 flex items-center gap-3">
        <h1 className="mr-auto font-condensed text-xl">{me.name}’s desk</h1>
        {isOwn && <Button onClick={() => setArranging(true)}>Arrange…</Button>}
      </div>
      <NotFiledYet />
      {!series && (
        <p className="text-soft" aria-busy>
          Looking at what is open to you…
        </p>
      )}
      {series?.length === 0 ? (
        <NothingOpen />
      ) : (
        <div className="grid grid-cols-[minmax(0,1fr)] gap-x-6 lg:grid-cols-[minmax(0,1fr)_300px]">
          <div>{column(false)}</div>
          <div>{column(true)}</div>
        </div>
      )}
      {arranging && <ArrangeDesk arrangement={arrangement} onKeep={keep} onClose={() => setArranging(false)} />}
    </main>
  );
}
