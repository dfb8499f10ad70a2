'use client';

import { useEffect, useRef, type KeyboardEvent } from 'react';

/**
 * For a list that answers what is typed: Enter waits until the answer to just these words is there, and then chooses.
 * Without it, who types fast would choose the first line of an older answer. Any other key takes the waiting Enter back.
 * @param isAnswered whether the lines in sight answer the words in the field
 * @param choose chooses the line that Enter speaks to
 * @returns the handler for keys pressed in the field
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
