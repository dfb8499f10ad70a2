'use client';

import { useEffect, useRef, useState, type ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { firstView, pageWidth } from '@/core/reading/pageView';
import { useRoom } from './useRoom';
import { useSteer } from './steer';

const forward = new Set(['ArrowRight', 'ArrowDown', 'PageDown', ' ', 'Enter']);
const backward = new Set(['ArrowLeft', 'ArrowUp', 'PageUp', 'Backspace']);

/** One page at a time and nothing else, for a meeting. Arrows turn the pages; Esc ends it, at the page where it was. */
export function FullScreen({
  startAt,
  pages,
  ratio,
  draw,
  onClose,
}: {
  readonly startAt: number;
  readonly pages: number;
  readonly ratio: number;
  readonly draw: (page: number, width: number, turned: number) => ReactNode;
  readonly onClose: (last: number) => void;
}) {
  const stage = useRef<HTMLDivElement>(null);
  const room = useRoom(stage);
  const [page, setPage] = useState(startAt);
  const last = useRef(startAt);
  const close = useRef(onClose);
  useEffect(() => {
    last.current = page;
    close.current = onClose;
  });
  useEffect(() => {
    const element = stage.current;
    if (!element) return;
    element.focus();
    // Where the browser does not allow it, the page still fills the window.
    void element.requestFullscreen().catch(() => undefined);
    const onChange = () => {
      if (document.fullscreenElement === null) close.current(last.current);
    };
    document.addEventListener('fullscreenchange', onChange);
    return () => {
      document.removeEventListener('fullscreenchange', onChange);
      if (document.fullscreenElement === element) void document.exitFullscreen().catch(() => undefined);
    };
  }, []);
  const { to, onPage, stops } = useSteer();
  const [followed, setFollowed] = useState(to);
  if (to !== followed) {
    setFollowed(to);
    if (to !== null) setPage(to.page);
  }
  useEffect(() => onPage(page), [onPage, page]);
  const next = stops.find((each) => each > page) ?? page;
  const before = stops.findLast((each) => each < page) ?? page;
  const turn = (by: number) => setPage((before) => Math.min(pages, Math.max(1, before + by)));
  const width = pageWidth({ ...firstView, fit: 'page' }, { width: room.width, height: room.height + 24 }, ratio);
  return createPortal(
    <div
      ref={stage}
      tabIndex={-1}
      role="dialog"
      aria-label="Full screen"
      onKeyDown={(event) => {
        if (forward.has(event.key)) turn(1);
        else if (backward.has(event.key)) turn(-1);
        else if (event.key === 'n') setPage(next);
        else if (event.key === 'b') setPage(before);
        else if (event.key === 'Home') setPage(1);
        else if (event.key === 'End') setPage(pages);
        else if (event.key === 'Escape') onClose(page);
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
      onClick={({ clientX, currentTarget }) => turn(clientX < currentTarget.clientWidth / 3 ? -1 : 1)}
      className="fixed inset-0 z-50 grid place-items-center bg-[#101817] outline-none"
    >
      {room.width > 0 && <div className="bg-white">{draw(page, width, 0)}</div>}
      <p role="status" className="figures absolute right-4 bottom-3 text-sm text-white/70">
        <span className="sr-only">Page </span>
        {page} of {pages}
        {stops.length > 0 && ' · N: next item · B: item before'}
      </p>
    </div>,
    document.body,
  );
}
