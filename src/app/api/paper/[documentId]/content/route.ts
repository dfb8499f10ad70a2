import sharp from 'sharp';
import { z } from 'zod';
import { refuse } from '@/core/errors/refusal';
import { answering, problemResponse } from '@/app/http/answer';
import { contentResponse } from '@/app/http/contentResponse';
import { requireActor } from '@/server/auth/actorFrom';
import { blobStore } from '@/server/blobs/blobStore';
import { contentFor } from '@/server/documents/content';

interface Parameters {
  readonly params: Promise<{ documentId: string }>;
}

const querySchema = z.object({
  /** A version's number; the current one where it is left out. */
  version: z.coerce.number().int().positive().nullish(),
  /** Given: hand over a copy, which needs `take`. Left out: show it on a page of ours, which needs `see`. */
  copy: z.string().nullish(),
  /** A page, from 1, of a scan, as a picture a browser can show. */
  page: z.coerce.number().int().min(1).max(10_000).nullish(),
});

/** The most of a scan that is taken into memory to turn a page of it into a picture. */
const greatestScanBytes = 120_000_000;

function handle(request: Request, { params }: Parameters): Promise<Response> {
  return answering(async () => {
    const actor = await requireActor(request.headers);
    const documentId = z.uuid().safeParse((await params).documentId).data ?? refuse('not-found');
    const query = querySchema.parse(Object.fromEntries(new URL(request.url).searchParams));
    const asCopy = query.copy !== null && query.copy !== undefined;
    const content = await contentFor(actor, documentId, query.version ?? null, asCopy ? 'take' : 'see');
    if (query.page && content.mediaType === 'image/tiff') return scanPage(content, query.page);
    return contentResponse(request, content, asCopy);
  });
}

async function scanPage(content: Awaited<ReturnType<typeof contentFor>>, page: number): Promise<Response> {
  if (content.sizeBytes > greatestScanBytes)
    refuse('too-large', 'This scan is too large to show here. Take a copy to read it.');
  const pieces: Buffer[] = [];
  for await (const piece of blobStore.read(content.contentId, 0, content.sizeBytes)) pieces.push(piece);
  try {
    const picture = await sharp(Buffer.concat(pieces), { page: page - 1 })
      .png()
      .toBuffer();
    return new Response(new Uint8Array(picture), {
      headers: {
        'content-type': 'image/png',
        'cache-control': 'private, no-cache',
        'x-content-type-options': 'nosniff',
      },
    });
  } catch {
    return problemResponse(
      new z.ZodError([
        { code: 'custom', path: ['page'], message: 'That page of the scan cannot be shown.', input: page },
      ]),
    );
  }
}

export { handle as GET, handle as HEAD };
