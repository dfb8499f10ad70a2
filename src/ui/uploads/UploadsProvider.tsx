'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from 'react';
import type { OutputOf } from '@/core/contract';
import type { Issue } from '@/core/errors/issue';
import { counted } from '@/core/text/measure';
import { isUnderWay, type QueueItem } from '@/core/uploads/queue';
import { useSurroundings } from '../surroundings/Surroundings';
import { BatchLeft } from './BatchLeft';
import { FileDialog } from './FileDialog';
import { say } from '../kit/notice';
import { whileFiling } from './batch';
import { goOn } from './goOn';
import { foldersOf, offered, type OfferedFile } from './offeredFiles';
import { UploadQueue } from './UploadQueue';
import { UploadsContext, type ReceivingPlace, type Uploads, type VersionedPaper } from './uploadsContext';
import { VersionDialog } from './VersionDialog';

const none: readonly QueueItem[] = [];

/** What was filed is asked for again at most this often: the screen hears of it from the server as well. */
const askedEveryMs = 2000;

/** Work that is done soon after it was asked for, however often it is asked for in between. */
function seldom(work: () => void): () => void {
  let waiting: ReturnType<typeof setTimeout> | null = null;
  let last = 0;
  return () => {
    waiting ??= setTimeout(
      () => {
        waiting = null;
        last = performance.now();
        work();
      },
      Math.max(0, last + askedEveryMs - performance.now()),
    );
  };
}

/** Says who was told of what was filed, and who could not be. */
function sayTold(told: OutputOf<'uploads.tell'> | Issue): void {
  if ('says' in told) say.refusal(`Nobody was told of the papers: ${told.says}`);
  else if (told.notTold.length > 0)
    say.refusal(
      `Nothing of this is open to ${told.notTold.join(', ')}, who ${told.notTold.length === 1 ? 'was' : 'were'} not told.`,
    );
  else say.done(`${counted(told.told, 'colleague was', 'colleagues were')} told`);
}

/** Holds the queue of files for the whole library, and the dialog in which they are filed. */
export function UploadsProvider({ children }: { readonly children: ReactNode }) {
  const { library, me } = useSurroundings();
  const queries = useQueryClient();
  const [queue] = useState(
    () =>
      new UploadQueue(
        me.id,
        seldom(() => void queries.invalidateQueries()),
        sayTold,
      ),
  );
  const items = useSyncExternalStore(queue.subscribe, queue.items, () => none);
  const [filing, setFiling] = useState<{
    place: ReceivingPlace;
    files: OfferedFile[];
    then: ((documentId: string) => void) | undefined;
  } | null>(null);

  const offer = useCallback(
    (files: readonly File[], place: ReceivingPlace, then?: (documentId: string) => void) => {
      const file = (others: readonly File[]) => setFiling({ place, files: offered(others, library), then });
      if (files.length === 0) return file([]);
      const coming = files.map((each) => ({ file: each, relativePath: foldersOf(each) }));
      void goOn(me.id, queue, coming).then((others) => {
        if (others.length > 0) file(others.map((each) => each.file));
      });
    },
    [library, queue, me.id],
  );

  const [version, setVersion] = useState<{ file: OfferedFile; of: VersionedPaper } | null>(null);
  const offerVersion = useCallback(
    (each: File, of: VersionedPaper) => {
      const [file] = offered([each], library);
      if (file) setVersion({ file, of });
    },
    [library],
  );

  const busy = items.some(isUnderWay);
  useEffect(() => {
    if (!busy) return undefined;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    let over = (): void => undefined;
    whileFiling(me.id, new Promise((done) => (over = done)));
    return () => {
      window.removeEventListener('beforeunload', warn);
      over();
    };
  }, [busy, me.id]);

  const uploads = useMemo<Uploads>(() => ({ offer, offerVersion, queue, items }), [offer, offerVersion, queue, items]);
  return (
    <UploadsContext value={uploads}>
      {children}
      <BatchLeft />
      {filing && (
        <FileDialog key={filing.files[0]?.key ?? filing.place.id} {...filing} onClose={() => setFiling(null)} />
      )}
      {version && <VersionDialog key={version.file.key} {...version} onClose={() => setVersion(null)} />}
    </UploadsContext>
  );
}
