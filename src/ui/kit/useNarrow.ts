import { useSyncExternalStore } from 'react';

/** Under 900 px side panels become sheets, and rows have two lines. */
const narrow = '(max-width: 899px)';

/** Whether the window is narrow. On the server it is not: the page is then drawn again. */
export function useNarrow(): boolean {
  return useSyncExternalStore(
    (changed) => {
      const query = window.matchMedia(narrow);
      query.addEventListener('change', changed);
      return () => query.removeEventListener('change', changed);
    },
    () => window.matchMedia(narrow).matches,
    () => false,
  );
}
