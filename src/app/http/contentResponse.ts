import contentDisposition from 'content-disposition';
import fresh from 'fresh';
import parseRange from 'range-parser';
import { issue } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';
import { lengthHeader } from '@/server/http/length';
import { readContent } from '@/server/blobs/content';
import type { Bytes, Content } from '@/server/blobs/contentStore';

/** Bytes that are served, and what they are. */
export interface Served {
  readonly etag: string;
  readonly sizeBytes: number;
  readonly mediaType: string;
  readonly fileName: string;
  /** The bytes [from, to). */
  read(fromByte: number, toByte: number): Bytes;
}

/** A paper's own content, as it came. */
export const servedContent = (
  content: Content & { readonly mediaType: string; readonly fileName: string },
): Served => ({
  etag: `"${content.sha256}"`,
  sizeBytes: content.sizeBytes,
  // A web page, or a bill as data, is handed over as the text that it is: no browser takes it for a page of ours.
  mediaType: ['text/html', 'application/xml'].includes(content.mediaType) ? 'text/plain' : content.mediaType,
  fileName: content.fileName,
  read: (fromByte, toByte) => readContent(content, fromByte, toByte),
});

/** A piece of content, from the first byte to one past the last. */
type Span = readonly [from: number, to: number];

/**
 * Content as an answer: ranges and conditions by RFC 9110 (sections 13 and 14), the file's name by RFC 6266.
 * Never run by a browser: no sniffing, and a sandbox that allows nothing, should it be opened as a page.
 */
export async function contentResponse(request: Request, content: Served, asCopy: boolean): Promise<Response> {
  const { etag } = content;
  const headers = new Headers({
    etag,
    'accept-ranges': 'bytes',
    'cache-control': 'private, no-cache',
    'content-disposition': contentDisposition(content.fileName, { type: asCopy ? 'attachment' : 'inline' }),
    'content-security-policy': "sandbox; default-src 'none'",
    'cross-origin-resource-policy': 'same-origin',
    'x-content-type-options': 'nosniff',
  });
  if (fresh(Object.fromEntries(request.headers), { etag })) return new Response(null, { status: 304, headers });
  const span = wantedSpan(request, etag, content.sizeBytes);
  const [from, to] = span ?? [0, content.sizeBytes];
  headers.set(
    'content-type',
    content.mediaType.startsWith('text/') ? `${content.mediaType}; charset=utf-8` : content.mediaType,
  );
  headers.set(lengthHeader, String(to - from));
  if (span) headers.set('content-range', `bytes ${from}-${to - 1}/${content.sizeBytes}`);
  const body = request.method === 'HEAD' ? null : await streamOf(content.read(from, to));
  return new Response(body, { status: span ? 206 : 200, headers });
}

/** The one range asked for; null for the whole, also where several are asked for, which a server may ignore (section 14.2). */
function wantedSpan(request: Request, etag: string, sizeBytes: number): Span | null {
  const asked = request.headers.get('range');
  const ifRange = request.headers.get('if-range');
  if (request.method !== 'GET' || asked === null || (ifRange !== null && ifRange !== etag)) return null;
  const ranges = parseRange(sizeBytes, asked);
  if (ranges === -1) throw new Refusal(issue('range-unmet'));
  if (ranges === -2 || ranges.type !== 'bytes' || ranges.length !== 1 || !ranges[0]) return null;
  return [ranges[0].start, ranges[0].end + 1];
}

/**
 * Pulled a piece at a time as the network takes it: memory stays flat, and a reader who leaves stops the reading. The first
 * is read before the answer begins, so that what is wrong from the start is said in words.
 */
async function streamOf(pieces: Bytes): Promise<ReadableStream<Uint8Array>> {
  let next: Promise<IteratorResult<Buffer, void>> | null = Promise.resolve(await pieces.next());
  return new ReadableStream<Uint8Array>(
    {
      async pull(controller) {
        const piece = await (next ?? pieces.next());
        next = null;
        if (piece.done) controller.close();
        else controller.enqueue(piece.value);
      },
      async cancel() {
        await pieces.return();
      },
    },
    { highWaterMark: 1 },
  );
}
