'use client';

import { useEffect, useRef, useSyncExternalStore } from 'react';

/** Something that can be done on the page that is open. */
export interface ActHere {
  readonly label: string;
  readonly act: () => void;
}

const none: readonly ActHere[] = [];
let here: readonly ActHere[] = none;
const listeners = new Set<() => void>();

function set(acts: readonly ActHere[]): void {
  here = acts;
  for (const listener of listeners) listener();
}

const hear = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** Has the find field offer what can be done on this page, as long as it is open. */
export function useOfferActs(acts: readonly ActHere[]): void {
  const latest = useRef(acts);
  useEffect(() => {
    latest.current = acts;
  });
  const labels = acts.map(({ label }) => label).join('\n');
  useEffect(() => {
    // What an act does may change while its name stays.
    const act = (label: string) => latest.current.find((each) => each.label === label)?.act();
    set(latest.current.map(({ label }) => ({ label, act: () => act(label) })));
    return () => set(none);
  }, [labels]);
}

/** What can be done on the page that is open. */
export const useActsHere = (): readonly ActHere[] =>
  useSyncExternalStore(
    hear,
    () => here,
    () => none,
  );
