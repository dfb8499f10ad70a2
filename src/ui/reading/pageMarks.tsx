'use client';

import clsx from 'clsx';
import { createContext, useContext, type MouseEvent } from 'react';
import type { Spot } from '@/core/reading/find';

/** A place on a page that somebody is shown. */
export interface PageMark {
  readonly page: number;
  readonly spot: Spot;
  /** What stands there. */
  readonly name: string;
  /** The one that somebody is at. */
  readonly current: boolean;
}

/** What is shown on pages from outside of them, and what a press on their words does. */
export interface PageMarks {
  readonly marks: readonly PageMark[];
  /** Told the word that was pressed, or the words that were marked. Null: pressing does nothing. */
  readonly onWords: ((words: string) => void) | null;
}

/** Given around pages on which places are marked. */
export const PageMarksContext = createContext<PageMarks>({ marks: [], onWords: null });

/** The marks of one page, over it as it is drawn. */
export function MarksOnPage({ page }: { readonly page: number }) {
  const { marks } = useContext(PageMarksContext);
  return marks
    .filter((mark) => mark.page === page)
    .map(({ spot, name, current }) => (
      <span
        key={name}
        aria-hidden
        title={name}
        data-mark={name}
        className={clsx(
          'pointer-events-none absolute rounded-[2px]',
          current ? 'bg-[#e0631f]/30 outline-2 outline-[#b3421b]' : 'bg-[#e8b93c]/35 outline-1 outline-[#a87a12]',
        )}
        style={{
          left: `calc(${spot.left * 100}% - 2px)`,
          top: `calc(${spot.top * 100}% - 1px)`,
          width: `calc(${(spot.right - spot.left) * 100}% + 4px)`,
          height: `calc(${(spot.bottom - spot.top) * 100}% + 2px)`,
        }}
      />
    ));
}

/** What a press on a page does: the handler for whatever holds the pages. */
export function usePressedWords(): ((event: MouseEvent) => void) | undefined {
  const { onWords } = useContext(PageMarksContext);
  if (onWords === null) return undefined;
  return ({ clientX, clientY }) => {
    const words = window.getSelection()?.toString().trim() || wordAt(clientX, clientY);
    if (words !== '') onWords(words.replaceAll(/\s+/gu, ' '));
  };
}

/** The word under a point of the window; '' where there is none. */
function wordAt(x: number, y: number): string {
  const [node, at] = caretAt(x, y);
  if (!(node instanceof Text)) return '';
  const text = node.data;
  const before = /\S*$/u.exec(text.slice(0, at))?.[0] ?? '';
  const behind = /^\S*/u.exec(text.slice(at))?.[0] ?? '';
  return `${before}${behind}`.replace(/[,;:]+$/u, '');
}

/** Where in the text of the page a point is: by the standard (CSSOM View, 5.2), or as browsers had it before. */
function caretAt(x: number, y: number): readonly [Node | undefined, number] {
  if ('caretPositionFromPoint' in document) {
    const caret = document.caretPositionFromPoint(x, y);
    return [caret?.offsetNode, caret?.offset ?? 0];
  }
  const range = (document as Document).caretRangeFromPoint(x, y);
  return [range?.startContainer, range?.startOffset ?? 0];
}
