/** The header fields of a mail, in order; names in lower case. */
export type Headers = readonly { readonly key: string; readonly value: string }[];

/**
 * Whether a program sent a mail by itself, so that nothing may answer it by itself (RFC 3834, 2 and 5; list mail by RFC 2919 and RFC 2369;
 * `Precedence` is common practice that the RFC names; an empty return path is RFC 5321, 4.5.5).
 * @param envelopeFrom from whom the sending server said that it comes; '' for a report of delivery; null: that is not known
 */
export function isAutomatic(headers: Headers, envelopeFrom: string | null): boolean {
  const values = (key: string) =>
    headers.filter((each) => each.key === key).map(({ value }) => value.trim().toLowerCase());
  if (envelopeFrom === '') return true;
  // Parameters may follow: "auto-replied; owner-email=…".
  if (values('auto-submitted').some((value) => value.split(';')[0]?.trim() !== 'no')) return true;
  if (values('precedence').some((value) => ['bulk', 'junk', 'list'].includes(value))) return true;
  return headers.some(({ key }) => key === 'list-id' || key === 'list-unsubscribe');
}
