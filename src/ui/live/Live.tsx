'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { contract, isOperation } from '@/core/contract';

/** The screen is refreshed at most this often; more seldom the longer changes go on and on, as while thousands are filed. */
const atMostEvery = { ms: 900, growth: 1.5, mostMs: 4000 } as const;
/** A lock granted within this time was free. */
const takeOverMs = 1000;
/** What changed: papers alone, or something else as well. */
type Changed = 'papers' | 'all';
/** The name of the lock and channel shared by the tabs of a browser. */
const shared = 'embrin-live';

/**
 * Keeps what is on the screen as it is in the library: when the server says that something has changed which this person
 * may see, what depends on it is asked for again. What is scrolled, chosen or half typed stays. Server-sent events (HTML
 * Living Standard) come back by themselves after a broken connection; then everything is asked once.
 */
export function Live() {
  const queries = useQueryClient();
  useEffect(() => {
    let last = 0;
    let everyMs: number = atMostEvery.ms;
    let waiting: ReturnType<typeof setTimeout> | null = null;
    let changed: Changed = 'papers';
    const again = () => {
      waiting = null;
      const isGoingOn = performance.now() - last < 2 * everyMs;
      everyMs = isGoingOn ? Math.min(atMostEvery.mostMs, everyMs * atMostEvery.growth) : atMostEvery.ms;
      last = performance.now();
      void queries.invalidateQueries({ predicate: ({ queryKey }) => dependsOn(changed, queryKey[0]) });
      changed = 'papers';
    };
    const stop = listen((what) => {
      if (what === 'all') changed = 'all';
      waiting ??= setTimeout(again, Math.max(0, everyMs - (performance.now() - last)));
    });
    return () => {
      stop();
      if (waiting) clearTimeout(waiting);
    };
  }, [queries]);
  return null;
}

const dependsOn = (changed: Changed, name: unknown): boolean =>
  changed === 'all' || typeof name !== 'string' || !isOperation(name) || contract[name].reads === 'all';

/**
 * One connection for all tabs: a browser allows six to a host, and a seventh tab would wait for ever. The tab that holds
 * the lock listens and tells the others; when it closes, the next one takes over. Where there are no locks (the Web Locks
 * API asks for a secure context) each tab listens for itself.
 */
function listen(onChange: (changed: Changed) => void): () => void {
  if (!('locks' in navigator)) return listenHere(onChange);
  const channel = new BroadcastChannel(shared);
  channel.addEventListener('message', ({ data }) => onChange(data === 'papers' ? 'papers' : 'all'));
  const began = performance.now();
  const gaveUp = new AbortController();
  let release: () => void = () => gaveUp.abort();
  navigator.locks
    .request(
      shared,
      { signal: gaveUp.signal },
      () =>
        new Promise<void>((done) => {
          const end = listenHere((changed) => {
            onChange(changed);
            channel.postMessage(changed);
          });
          release = () => {
            end();
            done();
          };
          // A tab that takes over may have missed changes.
          if (performance.now() - began > takeOverMs) onChange('all');
        }),
    )
    .catch(() => undefined);
  return () => {
    release();
    channel.close();
  };
}

function listenHere(onChange: (changed: Changed) => void): () => void {
  const source = new EventSource('/api/live');
  let opened = false;
  source.addEventListener('changed', ({ data }) => onChange(data === 'papers' ? 'papers' : 'all'));
  source.addEventListener('open', () => {
    if (opened) onChange('all');
    opened = true;
  });
  return () => source.close();
}
