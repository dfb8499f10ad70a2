import { z } from 'zod';
import { nameSchema } from '../text/name';
import { act, ask } from '../operation/operation';
import { readyStarts } from './starts';

const id = z.uuid();

/** One change to a note's text as Yjs encodes it, in Base64 (RFC 4648). */
const change = z.base64().min(1).max(1_400_000);

/** A change as it is told: its place in their order, and what it is. */
export interface NoteChange {
  readonly number: number;
  readonly change: string;
}

/** A note as it stands for those who write it. */
export interface NoteState {
  /** Raised when the text was begun anew from another version: what was typed before does not fit it any more. */
  readonly round: number;
  /** Those after the number that was asked for. */
  readonly changes: readonly NoteChange[];
  /** Names of other people who have it open for writing. */
  readonly others: readonly string[];
  /** The number of the last change. */
  readonly number: number;
}

/** What a note cannot keep of a paper that is turned into one, in words. */
export interface NotKept {
  readonly notKept: readonly string[];
}

/** Where a new note begins: a ready-made start, or a note of the library. */
export const noteStart = z.union([z.object({ ready: z.enum(readyStarts) }), z.object({ documentId: id })]);

/** Questions and acts about notes: papers that are written in the browser. */
export const notesContract = {
  /** Notes of the library that are offered as starts, as far as the caller may copy them. */
  'notes.starts': ask<readonly { documentId: string; title: string }[]>()(z.object({})),
  'note.create': act<{ documentId: string }>()(z.object({ placeId: id, title: nameSchema, start: noteStart })),
  /** What would be lost if a paper were opened as a note. */
  'note.foresee': ask<NotKept>()(z.object({ documentId: id })),
  /** Turns a paper into a note: as its next version, or as a paper of its own beside it. */
  'note.fromPaper': act<{ documentId: string }>()(z.object({ documentId: id, as: z.enum(['version', 'paper']) })),
  /** Opens a note for writing; begins its text anew where its newest version is not what it was kept as. */
  'note.begin': act<NoteState>()(z.object({ documentId: id })),
  /** Hands over changes, and tells those of others after a number. Nothing is taken if the round is another. */
  'note.write': act<NoteState>()(
    z.object({
      documentId: id,
      round: z.number().int(),
      after: z.number().int().nonnegative(),
      changes: z.array(change).max(20),
    }),
  ),
  /** Keeps the text as the paper's next version; null if that is what it is already. */
  'note.keep': act<{ versionNumber: number | null }>()(z.object({ documentId: id })),
  /** Offers a note as a start for others, or no longer. Keepers only. */
  'note.setStart': act()(z.object({ documentId: id, isStart: z.boolean() })),
};
