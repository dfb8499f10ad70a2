import type { ServerResponse } from 'node:http';
import onHeaders from 'on-headers';

/**
 * The header in which an answer tells the web process how many bytes it has. Next.js takes `Content-Length` away from what a route
 * answers; without it no browser can show how far a download is, nor ask for a part of a paper.
 */
export const lengthHeader = 'x-embrin-length';

/** Has an answer say its length (RFC 9110, section 8.6), unless its bytes are packed on their way out. */
export function tellLength(response: ServerResponse): void {
  onHeaders(response, () => {
    const length = response.getHeader(lengthHeader);
    response.removeHeader(lengthHeader);
    if (typeof length === 'string' && !response.hasHeader('content-encoding'))
      response.setHeader('content-length', length);
  });
}
