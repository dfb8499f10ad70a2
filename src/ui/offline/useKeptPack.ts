'use client';

import { useEffect, useState } from 'react';
import type { PackNote, PackReading } from '@/core/packs/contract';
import { call } from '../server/call';
import { useSurroundings } from '../surroundings/Surroundings';
import { isPart, type KeepPack } from './kept';

const workerAddress = '/offline-worker.js';

/**
 * Has an open pack kept in the browser, so that it can be read on when the connection is lost: only where copies of it may be
 * taken, and not for a keeper who looks through another's eyes. Returns whether it is there.
 * @param from the address of its content; null: it is not there yet
 */
export function useKeptPack(pack: PackReading, from: string | null): boolean {
  const { me, seenBy } = useSurroundings();
  const [isKept, setKept] = useState(false);
  const { id: issueId, mayTake } = pack;
  const mayKeep = mayTake && seenBy === null && from !== null && 'serviceWorker' in globalThis.navigator;
  useEffect(() => {
    if (!mayKeep || from === null) return;
    let isGone = false;
    const work = async () => {
      await navigator.serviceWorker.register(workerAddress, { scope: '/issued/' });
      const { active } = await navigator.serviceWorker.ready;
      const input = { issueId };
      const [read, notes]: [PackReading, readonly PackNote[]] = [
        await call('pack.read', input),
        await call('pack.notes', input),
      ];
      const keep: KeepPack = {
        issueId,
        personId: me.id,
        from,
        addresses: partsOfPage(),
        answers: [
          { name: 'pack.read', input, told: read },
          { name: 'pack.notes', input, told: notes },
        ],
      };
      const { port1, port2 } = new MessageChannel();
      port1.onmessage = ({ data }) => {
        if (!isGone) setKept(data === true);
      };
      active?.postMessage(keep, [port2]);
    };
    // Only a comfort: where a browser keeps nothing, the pack is read as before.
    void work().catch(() => undefined);
    return () => {
      isGone = true;
    };
  }, [mayKeep, issueId, from, me.id]);
  return isKept;
}

/** The scripts, styles and typefaces that this page has loaded. */
function partsOfPage(): string[] {
  const loaded = performance.getEntriesByType('resource').map(({ name }) => name);
  return [...new Set(loaded.filter((each) => new URL(each).origin === window.location.origin && isPart(each)))];
}
