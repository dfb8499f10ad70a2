'use client';

import { useEffect } from 'react';
import type { BookmarkOn } from '@/core/desk/model';
import { isTyping } from '../kit/isTyping';
import { say } from '../kit/notice';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** What can be bookmarked on the page that is open. */
export interface Bookmarkable {
  readonly on: BookmarkOn;
  readonly name: string;
}

/** The person's bookmarks, and a way to put one or take it away. */
export function useBookmarks() {
  const isOwn = useSurroundings().seenBy === null;
  const { data } = useAsk('bookmarks.mine', {}, { enabled: isOwn });
  const put = useAct('bookmark.put');
  const remove = useAct('bookmark.remove');
  const isBookmarked = ({ kind, ref }: BookmarkOn) =>
    data?.some((each) => each.kind === kind && each.ref === ref) === true;
  const turn = ({ on, name }: Bookmarkable) => {
    const input = { on, name: name.slice(0, 200) };
    if (isBookmarked(on))
      remove.mutate(
        { on: input.on },
        { onSuccess: () => say.undoable(`“${name}” is no longer a bookmark`, () => put.mutate(input)) },
      );
    else
      put.mutate(input, {
        onSuccess: () => say.undoable(`“${name}” is on your desk`, () => remove.mutate({ on: input.on })),
      });
  };
  return { isOwn, isBookmarked, turn };
}

/** The innermost thing that can be bookmarked takes the key: a paper's docket before the place that it lies in. */
const open: Bookmarkable[] = [];

/** Offers something as a bookmark, for a menu and by Alt B. */
export function useBookmarkable(it: Bookmarkable) {
  const { isOwn, isBookmarked, turn } = useBookmarks();
  const { kind, ref } = it.on;
  const isOn = isBookmarked(it.on);
  useEffect(() => {
    if (!isOwn) return;
    const mine: Bookmarkable = { on: { kind, ref }, name: it.name };
    open.push(mine);
    const onKey = (event: KeyboardEvent) => {
      if (!event.altKey || event.code !== 'KeyB' || isTyping(event.target) || open.at(-1) !== mine) return;
      event.preventDefault();
      turn(mine);
    };
    window.addEventListener('keydown', onKey);
    return () => {
      open.splice(open.indexOf(mine), 1);
      window.removeEventListener('keydown', onKey);
    };
  });
  return isOwn ? [{ label: isOn ? 'Remove the bookmark' : 'Bookmark', keys: 'Alt B', act: () => turn(it) }] : [];
}
