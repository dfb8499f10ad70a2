'use client';

import { useEffect } from 'react';

/**
 * Marks the page as one that reacts. The page as the server sent it looks the same and takes no press yet; until it is marked,
 * the pointer says that something is still coming.
 */
export function Reacting() {
  useEffect(() => {
    document.documentElement.dataset['reacts'] = '';
  }, []);
  return null;
}
