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
      /** Which of the values it came with could not be taken over, a sentence for each; left out for none. */
      readonly notSet?: readonly string[];
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

/** What the library has of one of the caller's uploads. */
export interface KnownUpload {
  readonly uploadId: string;
  readonly receivedBytes: number;
  /** Null while nothing has come of it. */
  readonly outcome: UploadOutcome | null;
}

/** What would become of some files. */
export interface Foreseen {
  /** For each folder on the way to a file: it is there, would be made, or may not be made by the caller. */
  readonly folders: Readonly<Record<string, 'there' | 'made' | 'refused'>>;
  /** The files, by their position among those asked about, whose title is taken. */
  readonly taken: readonly number[];
}
