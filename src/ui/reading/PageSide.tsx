'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import clsx from 'clsx';
import { useEffect, useRef, useState } from 'react';
import { Button } from '../kit/button';
import type { OutlineEntry } from './outline';
import type { Source } from './source';

const thumbWidth = 108;

/** The overview beside the pages: small pages, or the contents list that the file brings along. */
export function PageSide({
  source,
  pages,
  page,
  ratio,
  outline,
  onPage,
}: {
  readonly source: Source;
  readonly pages: number;
  readonly page: number;
  readonly ratio: number;
  readonly outline: readonly OutlineEntry[];
  readonly onPage: (page: number) => void;
}) {
  const [shown, setShown] = useState<'pages' | 'contents'>('pages');
  const hasContents = outline.length > 0;
  return (
    <nav aria-label="Overview" className="no-print flex w-[176px] shrink-0 flex-col border-r border-line bg-fog">
      {hasContents && (
        <div className="flex gap-1 border-b border-line p-1.5">
          {(['pages', 'contents'] as const).map((each) => (
            <Button
              key={each}
              look="quiet"
              aria-pressed={shown === each}
              onClick={() => setShown(each)}
              className={clsx('!h-[26px] !px-2', shown === each && 'bg-brine-wash font-semibold')}
            >
              {each === 'pages' ? 'Pages' : 'Contents'}
            </Button>
          ))}
        </div>
      )}
      {shown === 'contents' && hasContents ? (
        <ul className="min-h-0 flex-1 overflow-y-auto py-1.5">
          {outline.map((entry, at) => (
            <li key={at}>
              <button
                type="button"
                onClick={() => onPage(entry.page)}
                className="flex w-full gap-2 py-1 pr-2 text-left hover:bg-brine-wash"
                style={{ paddingLeft: 10 + Math.min(entry.depth, 4) * 10 }}
              >
                <span className="min-w-0 flex-1 break-words">{entry.title}</span>
                <span className="figures text-soft">{entry.page}</span>
              </button>
            </li>
          ))}
        </ul>
      ) : (
        <Thumbnails {...{ source, pages, page, ratio, onPage }} />
      )}
    </nav>
  );
}

function Thumbnails({
  source,
  pages,
  page,
  ratio,
  onPage,
}: Pick<Parameters<typeof PageSide>[0], 'source' | 'pages' | 'page' | 'ratio' | 'onPage'>) {
  const scroller = useRef<HTMLDivElement>(null);
  const high = Math.min(220, thumbWidth * ratio);
  const virtual = useVirtualizer({
    count: pages,
    getScrollElement: () => scroller.current,
    estimateSize: () => high + 34,
    overscan: 2,
  });
  useEffect(() => {
    virtual.scrollToIndex(page - 1);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [page]);
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto">
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, start }) => (
          <button
            key={index}
            type="button"
            aria-label={`Page ${index + 1}`}
            aria-current={index + 1 === page ? 'page' : undefined}
            onClick={() => onPage(index + 1)}
            className="absolute left-0 grid w-full justify-items-center gap-0.5 pt-2"
            style={{ top: start }}
          >
            <img
              src={source.address({ page: index + 1 })}
              alt=""
              loading="lazy"
              className={clsx(
                'border bg-white object-contain',
                index + 1 === page ? 'border-brine outline-2 outline-brine' : 'border-line',
              )}
              style={{ width: thumbWidth, height: high }}
            />
            <span className="figures text-xs text-soft">{index + 1}</span>
          </button>
        ))}
      </div>
    </div>
  );
}
