import { z } from 'zod';
import { act, ask } from '../operation/operation';
import type { Stamp } from '../files/fileKind';
import type { PlaceKind } from '../tree/placeKind';
import { amongs } from './among';

/** [from, to) positions in a text, in UTF-16 units. */
export type Marks = readonly (readonly [number, number])[];

/** A result of the find field. */
export interface Found {
  readonly id: string;
  readonly kind: 'paper' | PlaceKind | 'person' | 'view';
  readonly name: string;
  readonly marks: Marks;
  readonly reference: string | null;
  readonly stamp: Stamp | null;
  /** Its path: names from the series down; empty for people and series. */
  readonly path: readonly string[];
  /** For a person: their address. For a saved view: what it is for. */
  readonly about: string | null;
  /** Of a saved view: its place; null for the whole library. Null for all else. */
  readonly placeId: string | null;
}

/** Where in the text of a paper words stand. */
export interface FoundInside {
  readonly page: number;
  /** The attachment of a mail in which it stands, by its number; null for the paper itself. */
  readonly attachment: { readonly number: number; readonly name: string } | null;
  /** The number of the earlier version in which it stands; null for the current one. */
  readonly version: number | null;
  readonly passage: string;
  readonly marks: Marks;
}

/** Why a paper was found. */
export interface FoundWhy {
  readonly documentId: string;
  readonly titleMarks: Marks;
  /** Names from the series to where it stands for the caller. */
  readonly path: readonly string[];
  readonly pathMarks: readonly Marks[];
  /** Null where nothing was found inside. */
  readonly inside: FoundInside | null;
  /** Values, labels, its remark and its file's name, as far as words stand in them: what it is, and how it reads. */
  readonly beside: readonly { readonly what: string; readonly text: string; readonly marks: Marks }[];
}

/** Papers that suit what is being typed by what stands in them, with why. */
export interface FoundPaper extends FoundWhy {
  readonly title: string;
  readonly stamp: Stamp;
}

/** Words that a person looked for, and where; the newest first. */
export interface RecentSearch {
  readonly words: string;
  readonly at: string;
}

const words = z.string().max(2000, 'At most 2,000 characters fit.');

/** So many papers are told of at a time. */
export const mostExplained = 60;

/** The questions of the find field, and of the page of results. */
export const searchContract = {
  find: ask<readonly Found[]>()(z.object({ words: z.string().max(200) })),
  /** The best few papers by what stands in them, while someone types. */
  'search.inside': ask<readonly FoundPaper[]>()(z.object({ words: z.string().max(200) })),
  /** Why papers were found by some words: those among them that the caller may see. */
  'search.why': ask<readonly FoundWhy[]>()(
    z.object({ documentIds: z.array(z.uuid()).max(mostExplained), words, among: z.enum(amongs) }),
  ),
  /** What the caller looked for lately; null where they do not want it kept. */
  'search.recent': ask<readonly RecentSearch[] | null>('noPapers')(z.object({})),
  'search.remember': act()(z.object({ words: z.string().trim().min(1).max(200) })),
  /** Empties what is kept, or one of it, and says whether any is to be kept from now on. */
  'search.forget': act()(z.object({ words: z.string().max(200).nullable(), keep: z.boolean() })),
};
