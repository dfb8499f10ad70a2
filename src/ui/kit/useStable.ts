'use client';

import { useCallback, useEffect, useRef } from 'react';

/** A handler that is always the same one and does what the newest does: what is given it need not be painted again. For events only. */
export function useStable<A extends unknown[], R>(handler: (...args: A) => R): (...args: A) => R {
  const latest = useRef(handler);
  useEffect(() => {
    latest.current = handler;
  });
  return useCallback((...args: A) => latest.current(...args), []);
}
