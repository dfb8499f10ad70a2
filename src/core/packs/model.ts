import type { Standing } from '../outline/outline';

/** An issue, or a copy of one, is tried so often. */
export const mostAttempts = 3;

/** Where on a page its pack page is stamped. */
export const stampPlaces = ['bottomRight', 'bottomMiddle', 'bottomLeft', 'topRight', 'topMiddle', 'topLeft'] as const;
export type StampPlace = (typeof stampPlaces)[number];
/** The same in words, as people choose them. */
export const stampPlaceWords: Readonly<Record<StampPlace, string>> = {
  bottomRight: 'Bottom right',
  bottomMiddle: 'Bottom middle',
  bottomLeft: 'Bottom left',
  topRight: 'Top right',
  topMiddle: 'Top middle',
  topLeft: 'Top left',
};

/** What stands in a pack: a section, or a paper in it. */
export const entryKinds = ['section', 'paper'] as const;
export type EntryKind = (typeof entryKinds)[number];

/** As what a pack is issued: whole; or what came in later, with pages that go on, or that are let in where they belong. */
export const issueForms = ['whole', 'supplement', 'letIn'] as const;
export type IssueForm = (typeof issueForms)[number];

/** How an issue stands. */
export const issueStates = ['waiting', 'making', 'done', 'failed', 'stopped', 'withdrawn'] as const;
export type IssueState = (typeof issueStates)[number];
/** Why an issue was not made. */
export const issueFaults = ['papers', 'tooLarge', 'disk', 'gaveUp'] as const;
export type IssueFault = (typeof issueFaults)[number];

/** Entries lie so deep at most: papers in the sections of an agenda’s items. */
export const deepestEntry = 4;
/** A pack has so many entries at most, */
export const mostEntries = 500;
/** and an issue of it so many pages. */
export const mostPackPages = 5000;

/** An entry of a pack as it is laid out. */
export interface LaidEntry extends Standing {
  readonly kind: EntryKind;
  readonly title: string;
  /** Pages of a paper that go into the pack; null: it has none, and is listed as a file. Of a section 0. */
  readonly pages: number | null;
}
