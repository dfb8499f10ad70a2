import { z } from 'zod';
import type { Standing } from '../outline/outline';
import type { Stamp } from '../files/fileKind';
import { act, ask } from '../operation/operation';
import type { Spot } from '../reading/find';
import type { CopyRun } from './copies';
import { issueForms, stampPlaces, type EntryKind, type IssueFault, type IssueState, type StampPlace } from './model';

const id = z.uuid();
const revision = z.number().int().nonnegative();
const line = (most: number) => z.string().trim().max(most, `At most ${most} characters fit.`);
/** A name and a description so long fit on a cover. */
const packName = line(240).min(1, 'A name is needed.');
const title = line(300).min(1, 'A title is needed.');

const page = z.number().int().positive();
const phrase = z.string().max(200);
const noteText = line(4000);

/** Why a paper cannot go into a pack as pages. */
export type PageFault = 'notRead' | 'noPages' | 'protected' | 'damaged' | 'disposed';

/** An entry of a pack as whoever puts it together sees it. */
export interface PackEntryRow extends Standing {
  readonly kind: EntryKind;
  readonly title: string;
  /** Null: a section; or a paper that the caller may not see, of which nothing else is told. */
  readonly paper: {
    readonly documentId: string;
    readonly title: string;
    readonly stamp: Stamp;
    readonly heldVersion: number | null;
    readonly currentVersion: number;
    /** How many pages the version has; null where that is not known, or it has none. */
    readonly pageCount: number | null;
    readonly fault: PageFault | null;
  } | null;
  /** Which pages, as people write them; empty: all. */
  readonly pages: string;
  readonly readers: readonly { readonly personId: string; readonly name: string }[] | null;
}

/** An issue of a pack as lists show it. */
export interface PackIssueRow {
  readonly id: string;
  /** "Issue 1", "Supplement 1 to issue 1". */
  readonly called: string;
  readonly isSupplement: boolean;
  readonly state: IssueState;
  readonly fault: IssueFault | null;
  readonly faultWords: string;
  /** Papers that are ready, of all. */
  readonly done: number;
  readonly of: number;
  /** By the pace so far; null where there is none to go by. */
  readonly secondsLeft: number | null;
  readonly pages: number | null;
  readonly issuedBy: string;
  /** ISO 8601; null until it is issued. */
  readonly issuedAt: string | null;
  readonly endReason: string;
  /** Whether there is a meeting, to whose people it can be told. */
  readonly ofMeeting: boolean;
  /** When and how many of them were told by mail; null: none was. */
  readonly told: { readonly at: string; readonly people: number } | null;
}

/** A pack that is put together. */
export interface PackSheet {
  readonly id: string;
  readonly name: string;
  readonly description: string;
  readonly preparedBy: string;
  readonly forWhom: string;
  readonly day: string | null;
  readonly stampPlace: StampPlace;
  readonly sheets: boolean;
  /** Whether a picture is on the cover. */
  readonly hasPicture: boolean;
  readonly revision: number;
  readonly place: { readonly id: string; readonly name: string };
  readonly meeting: { readonly id: string; readonly day: string; readonly title: string } | null;
  readonly mayChange: boolean;
  readonly entries: readonly PackEntryRow[];
  readonly issues: readonly PackIssueRow[];
}

/** A pack as lists show it. */
export interface PackLine {
  readonly id: string;
  readonly name: string;
  readonly mayChange: boolean;
  /** The issues that can be read, the newest first. */
  readonly issues: readonly PackIssueRow[];
}

/** An issue of a pack as somebody reads it. */
export interface PackReading {
  readonly id: string;
  readonly name: string;
  readonly called: string;
  readonly state: IssueState;
  readonly endReason: string;
  readonly issuedAt: string;
  readonly issuedBy: string;
  readonly place: { readonly id: string; readonly name: string };
  readonly meetingId: string | null;
  /** "212 pages in all", "Pages 213 to 220", "Let in: pages 40a to 40c". */
  readonly pagesInWords: string;
  /** The number of its first page; and, where pages are let in, what is stamped on each. */
  readonly firstPage: number;
  readonly labels?: readonly string[];
  /** Supplements to it that were issued since; and what it is a supplement to. */
  readonly supplements: readonly { readonly id: string; readonly called: string; readonly pages: number }[];
  readonly supplementTo: { readonly id: string; readonly called: string } | null;
  /** The caller's own copy; null while it is being made. */
  readonly copy: { readonly sha256: string; readonly pages: number } | null;
  /** It was tried several times and came to no end. */
  readonly copyFailed: boolean;
  readonly mayTake: boolean;
  /** The contents of the copy: the page in it where each begins, and the number that is stamped there. */
  readonly contents: readonly {
    readonly kind: EntryKind;
    readonly title: string;
    readonly depth: number;
    readonly number: string | null;
    readonly page: number | null;
  }[];
  /** "Pages 7 to 17 are not part of your copy." */
  readonly leftOut: readonly string[];
  /** What the copy consists of, run by run. */
  readonly runs: readonly CopyRun[];
  /** Whether others may follow where the caller is: for members who attend, and who may change the pack. */
  readonly mayLead: boolean;
}

/** A note of the caller's own on a page of a paper, as it stands in a pack. Nobody else is ever told of it. */
export interface PackNote {
  readonly id: string;
  /** The page in the caller's copy, and the number that is stamped there. */
  readonly page: number;
  readonly number: string;
  readonly paper: string;
  /** Empty: the page is only marked. */
  readonly text: string;
  readonly revision: number;
}

/** Whom the readers of a pack may follow. */
export interface PackLead {
  readonly by: string;
  readonly isMe: boolean;
  readonly number: string;
  /** The page in the caller's copy; null: it is not part of it. */
  readonly page: number | null;
}

const fields = {
  name: packName,
  description: line(600),
  preparedBy: line(120),
  forWhom: line(200),
  day: z.iso.date('That is no day: 2026-07-14 is the form.').nullable(),
  stampPlace: z.enum(stampPlaces),
  sheets: z.boolean(),
};

/** Questions and acts about packs. */
export const packsContract = {
  'packs.of': ask<readonly PackLine[]>()(
    z.object({ of: z.union([z.strictObject({ meetingId: id }), z.strictObject({ placeId: id })]) }),
  ),
  'pack.of': ask<PackSheet>()(z.object({ packId: id })),
  /** Begins a pack: of a meeting from its agenda, or of a place from nothing. */
  'pack.begin': act<{ packId: string }>()(
    z.object({ of: z.union([z.strictObject({ meetingId: id }), z.strictObject({ placeId: id, name: packName })]) }),
  ),
  /** Adds the sections and papers that the agenda has and the pack has not. */
  'pack.takeAgenda': act<{ sections: number; papers: number }>()(z.object({ packId: id })),
  'pack.set': act()(z.object({ packId: id, ...fields, revision })),
  /** Puts a picture of the library on the cover, which whoever gets the pack sees; or takes it off (null). */
  'pack.setPicture': act()(z.object({ packId: id, documentId: id.nullable() })),
  'pack.addSection': act<{ entryId: string }>()(z.object({ packId: id, parentId: id.nullable(), title })),
  /** Adds papers; those that are in the pack already are not added twice. Into no section given: each where the agenda has it. */
  'pack.addPapers': act<{ added: number; already: number }>()(
    z.object({
      packId: id,
      parentId: id.nullable(),
      documentIds: z.array(id).min(1, 'Choose a paper.').max(200, 'At most 200 papers are added at once.'),
    }),
  ),
  'pack.changeEntry': act()(
    z.object({
      entryId: id,
      title,
      pages: line(200),
      heldVersion: z.number().int().positive().nullable(),
      readers: z.array(id).max(200, 'At most 200 people fit.').nullable(),
    }),
  ),
  'pack.moveEntry': act()(z.object({ entryId: id, parentId: id.nullable(), beforeId: id.nullable() })),
  /** Takes an entry out with all that lie in it, or puts it back. */
  'pack.removeEntry': act<{ entries: number }>()(z.object({ entryId: id, removed: z.boolean() })),
  /**
   * Issues the pack; or, as a supplement to its last issue, what has come in since, with pages that go on or are let in where they
   * belong. Papers that cannot be pages are named first;
   * `asFiles` says that they are to be listed as files.
   */
  'pack.issue': act<{ issueId: string }>()(z.object({ packId: id, asFiles: z.boolean(), as: z.enum(issueForms) })),
  'pack.stop': act()(z.object({ issueId: id })),
  /** Tells those who attend the meeting, and may see the pack, by mail that it is issued. */
  'pack.tell': act<{ sent: number; of: number }>()(z.object({ issueId: id })),
  'pack.withdraw': act()(z.object({ issueId: id, reason: line(1000).min(1, 'Say why.') })),
  'pack.read': ask<PackReading>()(z.object({ issueId: id })),
  /** The pages of the caller's copy on which a phrase stands, and how often. */
  'pack.findIn': ask<{ pages: readonly { page: number; count: number }[] }>()(z.object({ issueId: id, phrase })),
  /** Where a phrase stands on one page of the caller's copy. */
  'pack.spots': ask<{ spots: readonly (readonly Spot[])[] }>()(z.object({ issueId: id, phrase, page })),
  /** The caller's notes on the papers of an issue, in the order of its pages. */
  'pack.notes': ask<readonly PackNote[]>()(z.object({ issueId: id })),
  /** Writes a note on a page of the caller's copy; an empty one marks the page. Sent twice under one id it is kept once. */
  'pack.writeNote': act()(z.object({ issueId: id, noteId: id, page, text: noteText })),
  'pack.changeNote': act()(z.object({ noteId: id, text: noteText, revision })),
  'pack.removeNote': act()(z.object({ noteId: id })),
  /** Tells those who follow at which page of the caller's copy they are; null: they lead no more. */
  'pack.lead': act()(z.object({ issueId: id, page: page.nullable() })),
  'pack.led': ask<PackLead | null>()(z.object({ issueId: id })),
};
