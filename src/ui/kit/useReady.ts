'use client';

import { useSyncExternalStore } from 'react';

const never = () => () => undefined;

/** False in the page as the server sent it, true once it reacts: until then a form must not be sent. */
export const useReady = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
