import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';

/** A longer address is none that anybody passes on. In characters. */
export const mostOfAddress = 2000;

/**
 * Reads a web address as people type or paste it (URL, WHATWG): with http or https, or without either, which is https. Only its form
 * is checked; nothing is fetched. Refuses other schemes, and addresses that carry a password.
 */
export function readWebLink(typed: string): Result<string> {
  const text = typed.trim();
  const says = (words: string) => bad(invalidField('address', words));
  if (text.length > mostOfAddress) return says('At most 2,000 characters fit in an address.');
  const hasScheme = /^[a-z][a-z\d+.-]*:(?!\d)/iu.test(text);
  if (hasScheme && !/^https?:/iu.test(text))
    return says('Only addresses that begin with https:// or http:// are kept.');
  const whole = hasScheme ? text : `https://${text}`;
  if (!URL.canParse(whole)) return says('This is not a web address: https://example.org is the form.');
  const url = new URL(whole);
  if (url.username !== '' || url.password !== '') return says('An address with a password in it is not kept.');
  if (!/^\[.+\]$|\./u.test(url.hostname) && url.hostname !== 'localhost')
    return says('This is not a web address: https://example.org is the form.');
  return good(url.href);
}

/** A web link as a file: its title as a comment, then its address (RFC 2483, section 5: lines end with CR and LF). */
export const uriList = (title: string, address: string): string => `# ${title.replace(/\s+/gu, ' ')}\r\n${address}\r\n`;

/** The first address of such a file that may be opened; null where there is none. */
export function addressIn(list: string): string | null {
  for (const line of list.split(/\r?\n/u)) {
    if (line.startsWith('#') || line.trim() === '') continue;
    const read = /^https?:/iu.test(line.trim()) ? readWebLink(line) : null;
    return read?.ok ? read.value : null;
  }
  return null;
}
