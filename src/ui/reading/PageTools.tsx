'use client';

import { percentOf, type PageView, type PageViewStep } from '@/core/reading/pageView';
import { Button } from '../kit/button';
import { Menu } from '../kit/menu';

/** What can be done with the pages of a paper. */
export function PageTools({
  page,
  pages,
  width,
  view,
  onView,
  onPage,
  onFind,
  onSide,
  side,
  onFullScreen,
  onPrint,
  isNarrow,
}: {
  readonly page: number;
  readonly pages: number;
  readonly width: number;
  readonly view: PageView;
  readonly onView: (step: PageViewStep) => void;
  readonly onPage: (page: number) => void;
  readonly onFind: (() => void) | null;
  readonly side: boolean;
  readonly onSide: () => void;
  readonly onFullScreen: () => void;
  readonly onPrint: (() => void) | null;
  readonly isNarrow: boolean;
}) {
  const percent = percentOf(width);
  return (
    <div className="no-print flex flex-wrap items-center gap-x-2 gap-y-1 border-b border-line bg-fog px-3 py-1">
      <Button aria-pressed={side} onClick={onSide} className="max-[899px]:!hidden">
        Overview
      </Button>
      <label className="flex items-center gap-1.5">
        <span className="sr-only">Page</span>
        <input
          key={page}
          defaultValue={page}
          inputMode="numeric"
          aria-label="Page"
          onKeyDown={(event) => {
            const asked = Number(event.currentTarget.value);
            if (event.key === 'Enter' && Number.isInteger(asked) && asked >= 1 && asked <= pages) onPage(asked);
          }}
          className="figures h-[28px] w-[52px] rounded-sm border border-edge bg-sheet px-1.5 text-right"
        />
        <span role="status" className="figures whitespace-nowrap text-soft">
          {`of ${pages}`}
          <span className="sr-only">{`, page ${page}`}</span>
        </span>
      </label>
      <span className="mx-1 hidden h-4 border-l border-line sm:block" />
      <Button aria-label="Smaller" onClick={() => onView({ to: 'smaller', nowPercent: percent })}>
        −
      </Button>
      <span className="figures hidden w-[46px] text-center text-soft sm:block">{percent} %</span>
      <Button aria-label="Larger" onClick={() => onView({ to: 'larger', nowPercent: percent })}>
        +
      </Button>
      <Menu
        label="Pages"
        name="How the pages are shown"
        acts={[
          { label: 'As wide as the window', act: () => onView({ to: 'fitWidth' }), checked: view.fit === 'width' },
          { label: 'Whole pages', act: () => onView({ to: 'fitPage' }), checked: view.fit === 'page' },
          { label: 'Two side by side', act: () => onView({ to: 'spread' }), checked: view.spread },
          { label: 'Turn to the right', act: () => onView({ to: 'turn' }) },
          ...(isNarrow
            ? [
                { label: 'Full screen', act: onFullScreen, apart: true },
                ...(onPrint ? [{ label: 'Print', act: onPrint }] : []),
              ]
            : []),
        ]}
      />
      <span className="flex-1" />
      {onFind && (
        <Button onClick={onFind} title="Ctrl F">
          Find
        </Button>
      )}
      {!isNarrow && onPrint && <Button onClick={onPrint}>Print</Button>}
      {!isNarrow && <Button onClick={onFullScreen}>Full screen</Button>}
    </div>
  );
}
