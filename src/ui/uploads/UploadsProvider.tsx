'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from 'react';
import { isUnderWay, type QueueItem } from '@/core/uploads/queue';
import { useSurroundings } from '../surroundings/Surroundings';
import { FileDialog } from './FileDialog';
import { offered, type OfferedFile } from './offeredFiles';
import { UploadQueue } from './UploadQueue';
import { UploadsContext, type ReceivingPlace, type Uploads } from './uploadsContext';

const none: readonly QueueItem[] = [];

/** Holds the queue of files for the whole library, and the dialog in which they are filed. */
export function UploadsProvider({ children }: { readonly children: ReactNode }) {
  const { library } = useSurroundings();
  const queries = useQueryClient();
  const [queue] = useState(() => new UploadQueue(() => void queries.invalidateQueries()));
  const items = useSyncExternalStore(queue.subscribe, queue.items, () => none);
  const [filing, setFiling] = useState<{
    place: ReceivingPlace;
    files: OfferedFile[];
    then: ((documentId: string) => void) | undefined;
  } | null>(null);

  const offer = useCallback(
    (files: readonly File[], place: ReceivingPlace, then?: (documentId: string) => void) =>
      setFiling({ place, files: offered(files, library.maxFileBytes), then }),
    [library.maxFileBytes],
  );

  const busy = items.some(isUnderWay);
  useEffect(() => {
    if (!busy) return undefined;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [busy]);

  const uploads = useMemo<Uploads>(() => ({ offer, queue, items }), [offer, queue, items]);
  return (
    <UploadsContext value={uploads}>
      {children}
      {filing && (
        <FileDialog key={filing.files[0]?.key ?? filing.place.id} {...filing} onClose={() => setFiling(null)} />
      )}
    </UploadsContext>
  );
}
