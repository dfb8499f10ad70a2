'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useReducer, useRef, useState, type ReactNode } from 'react';
import { firstView, nextView, pageGap, pageWidth } from '@/core/reading/pageView';
import { useNarrow } from '../kit/useNarrow';
import { FindBar } from './FindBar';
import { FoundSpots } from './FoundSpots';
import { FullScreen } from './FullScreen';
import { PageSide } from './PageSide';
import { PageTools } from './PageTools';
import { PrintPages } from './PrintPages';
import { MarksOnPage, usePressedWords } from './pageMarks';
import type { OutlineEntry } from './outline';
import { pageAddresses, type Source } from './source';
import { useFind } from './useFind';
import { useRemembered } from './useRemembered';
import { useRoom } from './useRoom';
import { useSteer } from './steer';

/** What a page is taken for until the first is there: A4, upright. */
const a4 = Math.SQRT2;

interface Props {
  readonly source: Source;
  readonly pages: number;
  readonly startAt: number;
  /** The first page's height by its width; null while unknown. */
  readonly firstRatio: number | null;
  readonly outline: readonly OutlineEntry[];
  readonly draw: (page: number, width: number, turned: number) => ReactNode;
}

/** Pages with everything around them: tools, finding, the overview, full screen. */
export function PageList({ source, pages, startAt, firstRatio, outline, draw }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const room = useRoom(scroller);
  const isNarrow = useNarrow();
  const [view, step] = useReducer(nextView, firstView);
  const [side, setSide] = useState(false);
  const [isFull, setFull] = useState(false);
  const [isPrinting, setPrinting] = useState(false);
  // The same function each time: a new one would print again.
  const donePrinting = useCallback(() => setPrinting(false), []);
  const find = useFind(source, startAt);
  const beside = view.spread ? 2 : 1;
  const ratio = firstRatio ?? a4;
  const width = room.width === 0 ? 0 : pageWidth(view, room, ratio);
  const high = view.turned % 180 === 0 ? width * ratio : width / ratio;
  const virtual = useVirtualizer({
    count: width === 0 ? 0 : Math.ceil(pages / beside),
    getScrollElement: () => scroller.current,
    estimateSize: () => high + pageGap,
    overscan: 1,
  });
  const rows = virtual.getVirtualItems();
  const sight = (virtual.scrollOffset ?? 0) + room.height / 3;
  const row = rows.find((each) => each.end > sight)?.index ?? 0;
  // The last pages cannot come to the top: one that was gone to is where one is, as long as it is in sight.
  const [jumped, setJumped] = useState<number | null>(null);
  const seen = rows.filter(
    ({ start, end }) => end > (virtual.scrollOffset ?? 0) && start < (virtual.scrollOffset ?? 0) + room.height,
  );
  const isSeen = jumped !== null && seen.some(({ index }) => index === Math.floor((jumped - 1) / beside));
  const page = isSeen ? jumped : Math.min(pages, row * beside + 1);
  const goTo = (to: number) => virtual.scrollToIndex(Math.floor((to - 1) / beside), { align: 'start' });

  // Where one page is another size, or the pages are shown otherwise, all rows are measured anew and the page stays.
  const kept = useRef(startAt);
  useEffect(() => {
    if (width === 0) return;
    virtual.measure();
    goTo(Math.min(pages, kept.current));
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [width, high, beside]);
  const [hasMoved, setMoved] = useState(false);
  useEffect(() => {
    if (hasMoved) kept.current = jumped ?? page;
  }, [page, jumped, hasMoved]);
  useRemembered(source, hasMoved ? page : null);
  /** Someone goes to a page: from then on that page stays in sight, however the pages are shown. */
  const jumpTo = (to: number) => {
    setMoved(true);
    setJumped(to);
    goTo(to);
  };
  const moveOn = () => {
    setMoved(true);
    setJumped(null);
  };
  // A page is lower for a moment before it is drawn, and the last could not be brought up that far: it is gone to again.
  const total = virtual.getTotalSize();
  useEffect(() => {
    if (jumped !== null) goTo(jumped);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [total]);

  const pressed = usePressedWords();
  const { to, onPage } = useSteer();
  useEffect(() => {
    if (to === null) return;
    kept.current = to.page;
    jumpTo(to.page);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [to]);
  useEffect(() => onPage(page), [onPage, page]);

  useEffect(() => {
    if (source.find === null) return;
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key !== 'f') return;
      event.preventDefault();
      find.start();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [find, source.find]);

  return (
    <div className="flex h-full flex-col">
      <PageTools
        page={page}
        pages={pages}
        width={width}
        view={view}
        onView={step}
        onPage={jumpTo}
        onFind={source.find === null ? null : find.start}
        side={side}
        onSide={() => setSide(!side)}
        onFullScreen={() => setFull(true)}
        onPrint={source.paper.mayTake ? () => setPrinting(true) : null}
        isNarrow={isNarrow}
      />
      {find.open && <FindBar find={find} onHit={jumpTo} />}
      <div className="flex min-h-0 flex-1">
        {side && !isNarrow && (
          <PageSide source={source} pages={pages} page={page} ratio={ratio} outline={outline} onPage={jumpTo} />
        )}
        <div
          ref={scroller}
          tabIndex={0}
          role="region"
          aria-label={`Pages of ${source.title}`}
          onWheel={moveOn}
          onKeyDown={moveOn}
          onTouchMove={moveOn}
          onPointerDown={moveOn}
          onClick={pressed}
          className="min-h-0 flex-1 overflow-auto overscroll-contain"
        >
          <div
            className="relative mx-auto"
            style={{ height: total + pageGap, width: beside * width + (beside - 1) * pageGap }}
          >
            {rows.map(({ index, start }) => (
              <div
                key={index}
                ref={virtual.measureElement}
                data-index={index}
                className="absolute left-0 flex"
                style={{ top: start, gap: pageGap, paddingTop: pageGap }}
              >
                {Array.from({ length: beside }, (_each, at) => index * beside + at + 1)
                  .filter((each) => each <= pages)
                  .map((each) => (
                    <div key={each} data-page={each} className="relative border border-line bg-white shadow-sm">
                      {draw(each, width, view.turned)}
                      {view.turned === 0 && <MarksOnPage page={each} />}
                      {view.turned === 0 && <FoundSpots source={source} find={find} page={each} />}
                    </div>
                  ))}
              </div>
            ))}
          </div>
        </div>
      </div>
      {isFull && (
        <FullScreen
          startAt={page}
          pages={pages}
          ratio={ratio}
          draw={draw}
          onClose={(last) => {
            setFull(false);
            jumpTo(last);
          }}
        />
      )}
      {isPrinting && <PrintPages addresses={pageAddresses(source, pages)} onDone={donePrinting} />}
    </div>
  );
}
