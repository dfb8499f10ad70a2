'use client';

import { useSyncExternalStore } from 'react';
import { ownOrders, type OwnOrder } from '@/core/places/order';
import { useSurroundings } from '../surroundings/Surroundings';

const listeners = new Set<() => void>();
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** What the signed-in person has dossiers in order by, kept on this device. */
export function useOwnOrder(): readonly [OwnOrder, (order: OwnOrder) => void] {
  const { me } = useSurroundings();
  const key = `embrin-order-${me.id}`;
  const kept = useSyncExternalStore(
    subscribe,
    () => localStorage.getItem(key),
    () => null,
  );
  const choose = (order: OwnOrder) => {
    localStorage.setItem(key, order);
    for (const listener of listeners) listener();
  };
  return [ownOrders.find((each) => each === kept) ?? 'kept', choose];
}
