import { z } from 'zod';
import { ask } from '../operation/operation';
import type { Stamp } from '../files/fileKind';
import type { PlaceKind } from '../tree/placeKind';

/** A result of the find field. `marks` are [from, to) positions in the name, in UTF-16 units. */
export interface Found {
  readonly id: string;
  readonly kind: 'paper' | PlaceKind | 'person';
  readonly name: string;
  readonly marks: readonly (readonly [number, number])[];
  readonly reference: string | null;
  readonly stamp: Stamp | null;
  /** Its path: names from the series down; empty for people and series. */
  readonly path: readonly string[];
  /** For a person: their address. */
  readonly about: string | null;
}

/** A paper that a search found, and why. */
export interface FoundPaper {
  readonly documentId: string;
  readonly title: string;
  /** [from, to) positions in the title, in UTF-16 units. */
  readonly titleMarks: readonly (readonly [number, number])[];
  readonly stamp: Stamp;
  /** Names from the series to where it stands for the caller. */
  readonly path: readonly string[];
  /** ISO 8601. */
  readonly filedAt: string;
  /** What stands in it; null where only its title was found. */
  readonly inside: null | {
    readonly page: number;
    /** The attachment of a mail in which it stands; null for the paper itself. */
    readonly attachment: string | null;
    readonly passage: string;
    readonly marks: readonly (readonly [number, number])[];
  };
}

/** Papers that a search found: the best first. */
export interface SearchResults {
  readonly papers: readonly FoundPaper[];
  /** Whether there are more after these. */
  readonly more: boolean;
  /** How many words of the question were left out because there were too many. */
  readonly leftOut: number;
}

/** How many results are told at a time. */
export const resultsAtATime = 30;
/** How many may come before those that are told. */
export const mostSkipped = 600;

/** The questions of the find field, and of the page of results. */
export const searchContract = {
  find: ask<readonly Found[]>()(z.object({ words: z.string().max(200) })),
  /** Papers by what stands in them, and by their titles. `placeId`: only those in a place and below it. */
  'search.papers': ask<SearchResults>()(
    z.object({
      words: z.string().max(2000),
      placeId: z.uuid().nullable().default(null),
      skip: z.number().int().nonnegative().max(mostSkipped).default(0),
    }),
  ),
};
