'use client';

import { Button } from '../kit/button';
import { useBookmarkable, type Bookmarkable } from './useBookmarks';

/** A button that puts a bookmark, or takes it away. */
export function BookmarkButton({ it }: { readonly it: Bookmarkable }) {
  const [act] = useBookmarkable(it);
  return act ? (
    <Button look="quiet" title={act.keys} onClick={act.act}>
      {act.label}
    </Button>
  ) : null;
}
