'use client';

import { createContext, use } from 'react';
import type { QueueItem } from '@/core/uploads/queue';
import type { UploadQueue } from './UploadQueue';

/** A place into which files are put. */
export interface ReceivingPlace {
  readonly id: string;
  readonly name: string;
}

/** A paper that may get a new version. */
export interface VersionedPaper {
  readonly id: string;
  readonly title: string;
  readonly place: ReceivingPlace;
}

/** The files on their way in, and what one can do with them. */
export interface Uploads {
  /**
   * Offers files for filing in a place: nothing is sent before the person has said so. `then` is told of each paper that
   * came of them.
   */
  readonly offer: (files: readonly File[], place: ReceivingPlace, then?: (documentId: string) => void) => void;
  /** Offers a file as a paper's next version, or as a paper of its own beside it. */
  readonly offerVersion: (file: File, of: VersionedPaper) => void;
  readonly queue: UploadQueue;
  readonly items: readonly QueueItem[];
}

/** Provided by the frame around every page. */
export const UploadsContext = createContext<Uploads | null>(null);

/** The files on their way in; throws outside of their provider. */
export function useUploads(): Uploads {
  const uploads = use(UploadsContext);
  if (!uploads) throw new Error('There are no uploads around this component');
  return uploads;
}
