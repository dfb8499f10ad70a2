'use client';

import type { Bookmark, BookmarkKind, BookmarkOn } from '@/core/desk/model';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { Stamp } from '../kit/stamp';
import { useAct, useAsk } from '../server/useCall';
import { useBookmarks } from './useBookmarks';

const kindWords: Readonly<Record<BookmarkKind, string>> = { paper: '', place: 'place', view: 'view', search: 'search' };

/** The person's bookmarks in their order; with `arranging`, the order can be changed. */
export function BookmarkList({ arranging }: { readonly arranging: boolean }) {
  const { data } = useAsk('bookmarks.mine', {});
  const reorder = useAct('bookmark.reorder');
  const { turn } = useBookmarks();
  if (!data) return null;
  if (data.length === 0)
    return (
      <p className="px-3 py-3 text-sm text-soft">
        None yet. <kbd className="font-mono">Alt B</kbd>, or the menu of a paper, a place, a view or a search, puts it
        here.
      </p>
    );
  const on = ({ kind, ref }: Bookmark): BookmarkOn => ({ kind, ref });
  const move = (at: number, by: -1 | 1) => {
    const each = data[at];
    const before = by < 0 ? data[at - 1] : data[at + 2];
    if (each) reorder.mutate({ on: on(each), before: before ? on(before) : null });
  };
  return (
    <ul>
      {data.map((each, at) => (
        <li
          key={`${each.kind} ${each.ref}`}
          className="flex items-center gap-2 border-b border-line px-3 py-1.5 last:border-0"
        >
          {each.stamp && <Stamp word={each.stamp} />}
          <Link href={each.address} className="min-w-0 flex-1 hover:underline">
            <span className="block truncate font-medium">{each.name}</span>
            <span className="block truncate text-sm text-soft">
              {[kindWords[each.kind], each.where].filter(Boolean).join(' · ')}
            </span>
          </Link>
          {arranging && (
            <span className="flex">
              <Button
                look="quiet"
                className="!px-1"
                aria-label={`Move ${each.name} up`}
                disabled={at === 0}
                onClick={() => move(at, -1)}
              >
                ↑
              </Button>
              <Button
                look="quiet"
                className="!px-1"
                aria-label={`Move ${each.name} down`}
                disabled={at === data.length - 1}
                onClick={() => move(at, 1)}
              >
                ↓
              </Button>
              <Button
                look="quiet"
                className="!px-1"
                aria-label={`Remove the bookmark ${each.name}`}
                onClick={() => turn({ on: on(each), name: each.name })}
              >
                ×
              </Button>
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}
