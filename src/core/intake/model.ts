import type { Invoice } from '../invoices/model';
import type { Stated } from '../stated/model';

/** How something arrives. */
export const arrivalWays = ['mail', 'scan', 'hand', 'store'] as const;
export type ArrivalWay = (typeof arrivalWays)[number];

/** Each in words, of many. */
export const wayWords: Readonly<Record<ArrivalWay, string>> = {
  mail: 'Mails',
  scan: 'Scans',
  hand: 'Put in by hand',
  store: 'From connected stores',
};

/** What stands for a sender where something says of itself none. */
export const withoutSender: Readonly<Record<ArrivalWay, string>> = {
  mail: 'No sender',
  scan: 'Scan',
  hand: 'A file',
  store: 'From a connected store',
};

/** Whether some content is a mail, with parts of its own. */
export const isMail = (mediaType: string): boolean => mediaType === 'message/rfc822';

/** Whether its sender gets a receipt: none is to be sent; it is still to be sent; it was. */
export const receiptStates = ['none', 'due', 'sent'] as const;

/** How an arrival stands: kept and not read yet; waiting to be checked; filed; set aside as not ours; one that arrived before; a scan that was taken apart; one that was joined with others. */
export const arrivalStates = ['unread', 'waiting', 'filed', 'notOurs', 'again', 'cut', 'joined'] as const;
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
  /** What came from other addresses of its sender’s domain was filed there, and hardly any of it elsewhere. */
  | { readonly kind: 'domain'; readonly about: string; readonly times: number }
  /** A bank account or tax number in it is one with which arrivals were filed there. */
  | { readonly kind: 'number'; readonly about: string; readonly times: number }
  /** Papers that are filed there have words that it has. */
  | { readonly kind: 'words'; readonly about: string; readonly times: number }
  /** The separator sheet before it says its reference. */
  | { readonly kind: 'sheet'; readonly about: string }
  /** Its reference stands in the mail or in what is attached. */
  | { readonly kind: 'reference'; readonly about: string }
  /** Its name does; `alone`: on a line of its own, as that of whoever writes does. */
  | { readonly kind: 'name'; readonly about: string; readonly alone?: true };

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

/** A label, or somebody to tell, that is proposed, by its id; and why, in words. */
export interface Suggested {
  readonly id: string;
  readonly why: string;
}

/** What a filing rule says beside the place: it holds wherever in its dossier the arrival is filed. */
export interface RuledValues {
  readonly rule: string;
  readonly dossierId: string;
  /** By the ids of their columns, as they would be typed. */
  readonly values: Readonly<Record<string, string>>;
}

/** What the library makes of an arrival. */
export interface Proposal {
  readonly labels?: readonly Suggested[];
  readonly tell?: readonly Suggested[];
  /** Left out where no rule says any. */
  readonly ruled?: RuledValues;
  readonly parts: readonly ProposedPart[];
  /** The dossiers that it may belong to, the likeliest first. */
  readonly candidates: readonly Candidate[];
}

/** What somebody said about an arrival to somebody. */
export interface Said {
  readonly by: string;
  readonly to: string;
  /** ISO 8601. */
  readonly at: string;
  readonly says: string;
}

/** So much is said about one arrival at most. */
export const mostSaid = 50;
/** So many arrivals are filed together, or taken back together, at most. */
export const mostTogether = 100;
/** What a rule filed by itself is listed for so long. In hours. */
export const listedHours = 24;
