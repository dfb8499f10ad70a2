import { z } from 'zod';
import { refuse } from '@/core/errors/refusal';
import { answering } from '@/app/http/answer';
import { contentResponse } from '@/app/http/contentResponse';
import { scanPage } from '@/app/http/scanPage';
import { requireActor } from '@/server/auth/actorFrom';
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

export { handle as GET, handle as HEAD };
