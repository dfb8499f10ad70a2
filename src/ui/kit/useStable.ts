'use client';

import { useCallback, useEffect, useRef } from 'react';

/** A stable function that calls the newest handler, so that components given it need not re-render. For events only. */
export function useStable<A extends unknown[], R>(handler: (...args: A) => R): (...args: A) => R {
  const latest = useRef(handler);
  useEffect(() => {
    latest.current = handler;
  });
  return useCallback((...args: A) => latest.current(...args), []);
}
