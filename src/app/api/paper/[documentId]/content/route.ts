import { z } from 'zod';
import { refuse } from '@/core/errors/refusal';
import { answering } from '@/app/http/answer';
import { contentResponse } from '@/app/http/contentResponse';
import { pageResponse } from '@/app/http/pageResponse';
import { requireActor } from '@/server/auth/actorFrom';
import { contentFor } from '@/server/documents/content';
import { pageOf } from '@/server/documents/pages';

interface Parameters {
  readonly params: Promise<{ documentId: string }>;
}

const querySchema = z.object({
  /** A version's number; the current one where it is left out. */
  version: z.coerce.number().int().positive().max(1_000_000).nullish(),
  /** Given: hand it over as a file. Left out: show it on a page of ours. Both are the paper's own bytes, and need `take`. */
  copy: z.string().nullish(),
  /** A page, from 1, as a picture: for scans, and for those who may see a paper and not take copies of it. */
  page: z.coerce.number().int().min(1).max(10_000).nullish(),
});

function handle(request: Request, { params }: Parameters): Promise<Response> {
  return answering('/api/paper/[documentId]/content', async () => {
    const actor = await requireActor(request.headers);
    const documentId = z.uuid().safeParse((await params).documentId).data ?? refuse('not-found');
    const query = querySchema.parse(Object.fromEntries(new URL(request.url).searchParams));
    const asCopy = query.copy !== null && query.copy !== undefined;
    const page = asCopy ? null : (query.page ?? null);
    const content = await contentFor(actor, documentId, query.version ?? null, page === null ? 'take' : 'see');
    if (page !== null) return pageResponse(await pageOf(content, page), content.sha256, page);
    return contentResponse(request, content, asCopy);
  });
}

export { handle as GET, handle as HEAD };
