'use client';

import { useEffect, useRef, type KeyboardEvent } from 'react';

/**
 * For a list of results as one types: Enter waits until the results for the typed words have arrived, and then chooses.
 * Without it, fast typing would choose from older results. Any other key cancels a waiting Enter.
 * @param isAnswered whether the visible results are for the words in the field
 * @param choose chooses the marked result
 * @returns the key handler of the field
 */
export function useWaitingEnter(isAnswered: boolean, choose: () => void): (event: KeyboardEvent) => void {
  const waits = useRef(false);
  useEffect(() => {
    if (!isAnswered || !waits.current) return;
    waits.current = false;
    choose();
  }, [isAnswered, choose]);
  return (event) => {
    waits.current = event.key === 'Enter' && !isAnswered;
    if (waits.current) event.preventDefault();
  };
}
