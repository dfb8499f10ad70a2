import { z } from 'zod';
import { stamps, type Stamp } from '../files/fileKind';
import { act, ask } from '../operation/operation';
import type { ReadingFault } from './fault';
import type { Comparison } from './compare';
import type { Spot } from './find';
import type { ShownForm } from './form';
import type { Reading, ReadingState } from './stages';

/** What is read: a paper, in its current version unless a number says which, or an attachment of that mail. */
export const readTarget = z.object({
  documentId: z.uuid(),
  version: z.number().int().positive().nullable().default(null),
  attachment: z.number().int().positive().nullable().default(null),
});
export type ReadTarget = z.input<typeof readTarget>;

/** What the reader is told of some content before it fetches any of it. */
export interface ReadablePaper extends Reading {
  /** How the screen shows it; null if it can only be downloaded. */
  readonly form: ShownForm | null;
  readonly mediaType: string;
  readonly fileName: string;
  readonly sizeBytes: number;
  readonly sha256: string;
  /** Its pages on the screen; null if it has none, or they are not made yet. */
  readonly pages: number | null;
  /** Whether pages were made of it, with text to select. */
  readonly hasPages: boolean;
  /** Whether there is a view of it: sheets, a mail, a list. */
  readonly hasView: boolean;
  /** Whether the caller may have copies, and so text to select. */
  readonly mayTake: boolean;
  /** The page at which the caller last was; 1 at first. */
  readonly page: number;
}

/** How reading the whole library stands. */
export interface LibraryReading {
  /** How many contents are in each state. */
  readonly states: Readonly<Record<ReadingState, number>>;
  /** How many were read to the end in the last ten minutes. */
  readonly lately: number;
  /** Seconds until all is read at that pace; null if nothing waits, or nothing was read. */
  readonly secondsLeft: number | null;
  /** What could not be read, or only in part: the newest first, at most 500. */
  readonly notRead: readonly {
    readonly documentId: string;
    readonly title: string;
    readonly stamp: Stamp;
    readonly homeId: string;
    readonly homeName: string;
    readonly state: ReadingState;
    readonly why: ReadingFault | null;
  }[];
}

/** Questions and acts about reading. */
export const readingContract = {
  'paper.reading': ask<ReadablePaper>()(readTarget),
  /** The pages on which a phrase stands, and how often. */
  'paper.findIn': ask<{ pages: readonly { page: number; count: number }[] }>()(
    readTarget.extend({ phrase: z.string().max(200) }),
  ),
  /** Where a phrase stands on one page. */
  'paper.spots': ask<{ spots: readonly (readonly Spot[])[] }>()(
    readTarget.extend({ phrase: z.string().max(200), page: z.number().int().positive() }),
  ),
  /** Two versions of a paper, word by word. Needs copies, since it gives the text. */
  'paper.compare': ask<Comparison>()(
    z.object({ documentId: z.uuid(), one: z.number().int().positive(), other: z.number().int().positive() }),
  ),
  /** Reads a version's content again and tells whether it is still what was filed, byte by byte. */
  'paper.check': ask<{ whole: boolean }>()(z.object({ documentId: z.uuid(), version: z.number().int().positive() })),
  /** Notes the page at which the caller is. */
  'paper.remember': act()(z.object({ documentId: z.uuid(), page: z.number().int().positive().max(1_000_000) })),
  'paper.readAgain': act()(z.object({ documentId: z.uuid() })),
  'library.reading': ask<LibraryReading>()(z.object({})),
  /** Reads anew: all papers of a kind (`null`: of every kind), or only those that could not be read. */
  'library.readAgain': act<{ contents: number }>()(
    z.object({ stamp: z.enum(stamps).nullable(), which: z.enum(['all', 'notRead']) }),
  ),
};
