import type { Issue } from '../errors/issue';

export const sameNameAnswers = ['version', 'both'] as const;
/** What to do where the place already holds a paper of that title. */
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

/** Where the same content already is, of what the person may see. */
export interface SameContentPlace {
  readonly documentId: string;
  readonly title: string;
  readonly placeName: string;
}

/** An upload of this person's that is not filed yet: interrupted, or waiting for an answer. */
export interface UnfinishedUpload {
  readonly id: string;
  readonly fileName: string;
  readonly sizeBytes: number;
  readonly receivedBytes: number;
  readonly placeId: string;
  readonly placeName: string;
  readonly outcome: UploadOutcome;
}
