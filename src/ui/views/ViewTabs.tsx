'use client';

import type { SavedView } from '@/core/views/saved';
import { Menu, type MenuAct } from '../kit/menu';

/** A tab that is no saved view. */
export interface FrontTab {
  readonly label: string;
  readonly isOpen: boolean;
  /** Whether the place opens on it where nothing else is asked for. */
  readonly opens: boolean;
  readonly onOpen: () => void;
}

const audienceWords: Record<SavedView['audience'], string> = {
  me: 'for me',
  groups: 'for some groups',
  all: 'for all who may see the place',
};

/** The views of a place as tabs, the plain ledger among them, and what can be done with the open one. */
export function ViewTabs({
  views,
  placeId,
  open,
  plainWords,
  onOpen,
  front,
  acts,
}: {
  readonly views: readonly SavedView[];
  readonly placeId: string;
  readonly open: SavedView | null;
  readonly plainWords: string;
  readonly onOpen: (viewId: string | null) => void;
  /** A page of the place's own that stands before its views. */
  readonly front?: FrontTab | undefined;
  readonly acts: readonly MenuAct[];
}) {
  const tab =
    'h-[34px] shrink-0 border-b-2 px-0.5 font-condensed whitespace-nowrap aria-selected:border-ember aria-selected:text-ink border-transparent text-soft hover:text-ink';
  return (
    <>
      <div role="tablist" aria-label="Views" className="flex min-w-0 items-end gap-4 overflow-x-auto">
        {front && (
          <button type="button" role="tab" aria-selected={front.isOpen} onClick={front.onOpen} className={tab}>
            {front.label}
          </button>
        )}
        {views.map((view) => (
          <button
            key={view.id}
            type="button"
            role="tab"
            aria-selected={view.id === open?.id}
            title={`${view.purpose === '' ? '' : `${view.purpose} `}${audienceWords[view.audience]}${view.placeId === placeId ? '' : `, from ${view.placeName}`}`}
            onClick={() => onOpen(view.id)}
            className={tab}
          >
            {view.name}
          </button>
        ))}
        <button
          type="button"
          role="tab"
          aria-selected={open === null && front?.isOpen !== true}
          onClick={() => onOpen(null)}
          className={tab}
        >
          {plainWords}
        </button>
      </div>
      <span className="ml-auto" />
      {acts.length > 0 && <Menu look="quiet" className="px-1!" label="View" acts={acts} />}
    </>
  );
}
