import type { Invoice } from '../invoices/model';
import type { Stated } from '../stated/model';

/** How something arrives. */
export const arrivalWays = ['mail'] as const;
export type ArrivalWay = (typeof arrivalWays)[number];

/** How an arrival stands: kept and not read yet; waiting to be checked; filed; set aside as not ours; one that arrived before. */
export const arrivalStates = ['unread', 'waiting', 'filed', 'notOurs', 'again'] as const;
export type ArrivalState = (typeof arrivalStates)[number];

/** A larger mail is not taken. In bytes. */
export const mostMailBytes = 64 * 1024 * 1024;
/** So many parts of an arrival are filed at once at most. */
export const mostParts = 50;

/** What speaks for a dossier. */
export type Evidence =
  /** A filing rule says so. */
  | { readonly kind: 'rule'; readonly about: string }
  /** The mail was sent to the dossier’s own address. */
  | { readonly kind: 'address'; readonly about: string }
  /** Its sender stands in the dossier’s details. */
  | { readonly kind: 'detail'; readonly about: string }
  /** What came from the same sender was filed there. */
  | { readonly kind: 'sender'; readonly about: string; readonly times: number }
  /** A bank account or tax number in it is one with which arrivals were filed there. */
  | { readonly kind: 'number'; readonly about: string; readonly times: number }
  /** Its reference stands in the mail or in what is attached. */
  | { readonly kind: 'reference'; readonly about: string }
  /** Its name does. */
  | { readonly kind: 'name'; readonly about: string };

/** A dossier with what speaks for it. */
export interface Candidate {
  readonly dossierId: string;
  /** The place in it that a filing rule says; left out: where papers like it lie. */
  readonly placeId?: string;
  readonly evidence: readonly Evidence[];
}

/** A part of an arrival as it would be filed: an attachment by its number; null: the mail itself. */
export interface ProposedPart {
  readonly attachment: number | null;
  readonly title: string;
  /** Whether it is proposed to be filed. */
  readonly counts: boolean;
  /** What it states of itself; left out where it was not looked for. */
  readonly stated?: readonly Stated[];
  /** The bill that it is as data, or has inside; left out where it is none. */
  readonly bill?: Invoice;
  /** Where its pages read otherwise than that data, in words. */
  readonly differs?: readonly string[];
}

/** What the library makes of an arrival. */
export interface Proposal {
  readonly parts: readonly ProposedPart[];
  /** The dossiers that it may belong to, the likeliest first. */
  readonly candidates: readonly Candidate[];
}
