/** What decides whether a mail is answered by itself. */
export interface Answerable {
  /** A program sent it by itself, or that is not known. */
  readonly automatic: boolean;
  /** From whom the sending server said that it comes; '' for a report of delivery; null: that is not known. */
  readonly envelopeFrom: string | null;
  readonly senderAddress: string;
}

const domainOf = (address: string): string => address.slice(address.lastIndexOf('@') + 1).toLowerCase();

/** Whether two addresses are of one domain: what is sent for another need not be from them. */
export const isSameDomain = (one: string, other: string): boolean =>
  one.includes('@') && other.includes('@') && domainOf(one) === domainOf(other);

/** Addresses that nobody reads (common practice, no source; the first two and the last: RFC 2142, RFC 5321). */
const nobodys =
  /^(?:postmaster|mailer-daemon|no-?reply|do-?not-?reply|noreply.*|bounces?(?:[+.-].*)?|.*-request|owner-.*|.*-owner)@/iu;

/**
 * Whether a mail may be answered by a program (RFC 3834, 2): none that a program sent, none that came without a way back, none to a list,
 * and none whose sender is another than it says, who would be sent what they never asked for. The answer goes to where the sending server
 * said that the mail comes from (section 4).
 */
export const mayAnswer = ({ automatic, envelopeFrom, senderAddress }: Answerable): boolean =>
  !automatic &&
  envelopeFrom !== null &&
  envelopeFrom !== '' &&
  isSameDomain(envelopeFrom, senderAddress) &&
  !nobodys.test(envelopeFrom) &&
  !nobodys.test(senderAddress);

/** One sender gets one receipt in so many hours, however much they send (RFC 3834, 2: answers to one address are rationed). */
export const receiptEveryHours = 24;
/** So many receipts are sent in an hour at most: more is an attack, or a loop that nobody thought of. */
export const mostReceiptsAnHour = 200;
