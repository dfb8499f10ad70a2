import type { Issue } from '../errors/issue';

/** What to do with a file whose title the place already has. */
export const sameNameAnswers = ['version', 'both'] as const;
/** What to do if the place already has a paper with that title. */
export type SameName = (typeof sameNameAnswers)[number];

/** How an upload ended, or what it waits for. */
export type UploadOutcome =
  | { readonly state: 'receiving'; readonly receivedBytes: number }
  | {
      readonly state: 'filed';
      readonly documentId: string;
      readonly title: string;
      readonly placeId: string;
      readonly versionNumber: number;
    }
  | { readonly state: 'same-content'; readonly places: readonly SameContentPlace[] }
  | { readonly state: 'same-name'; readonly title: string }
  | { readonly state: 'refused'; readonly issue: Issue }
  | { readonly state: 'left-out' };

/** A paper with the same content that the caller may see. */
export interface SameContentPlace {
  readonly documentId: string;
  readonly title: string;
  readonly placeName: string;
}

/** One of the caller's uploads that is interrupted, or waiting for an answer. */
export interface UnfinishedUpload {
  readonly id: string;
  readonly fileName: string;
  readonly sizeBytes: number;
  readonly receivedBytes: number;
  readonly placeId: string;
  readonly placeName: string;
  readonly outcome: UploadOutcome;
}
