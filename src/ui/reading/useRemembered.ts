import { useEffect } from 'react';
import { call } from '../server/call';
import type { Source } from './source';

/** A page counts as read after someone has stayed at it for this long. */
const stayMs = 800;

/** Notes the page that someone is at, for when they come back, and puts it into the address, for a link. */
export function useRemembered({ find }: Source, page: number | null): void {
  const documentId =
    find && 'documentId' in find && find.version === null && find.attachment === null ? find.documentId : null;
  useEffect(() => {
    if (page === null || documentId === null) return;
    const timer = setTimeout(() => {
      const address = new URL(window.location.href);
      address.searchParams.set('page', String(page));
      window.history.replaceState(null, '', address);
      // Only a comfort: where it cannot be noted, nobody need hear of it.
      void call('paper.remember', { documentId, page }).catch(() => undefined);
    }, stayMs);
    return () => clearTimeout(timer);
  }, [documentId, page]);
}
