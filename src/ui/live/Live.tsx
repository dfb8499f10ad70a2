'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';

/** However much changes, the screen asks anew no more often than this. */
const atMostEveryMs = 900;

/**
 * Keeps what is on the screen as it is in the library: when the server says that something has changed which this person
 * may see, what is shown is asked for again. What is scrolled, chosen or half typed stays. Server-sent events (HTML Living
 * Standard) come back by themselves after a broken connection; then everything is asked once.
 */
export function Live() {
  const queries = useQueryClient();
  useEffect(() => {
    const source = new EventSource('/api/live');
    let last = 0;
    let waiting: ReturnType<typeof setTimeout> | null = null;
    const again = () => {
      waiting = null;
      last = performance.now();
      void queries.invalidateQueries();
    };
    const onChange = () => {
      waiting ??= setTimeout(again, Math.max(0, atMostEveryMs - (performance.now() - last)));
    };
    let opened = false;
    source.addEventListener('changed', onChange);
    source.addEventListener('open', () => {
      if (opened) onChange();
      opened = true;
    });
    return () => {
      source.close();
      if (waiting) clearTimeout(waiting);
    };
  }, [queries]);
  return null;
}
