import { z } from 'zod';
import { answering } from '@/app/http/answer';
import { contentResponse } from '@/app/http/contentResponse';
import { pageResponse } from '@/app/http/pageResponse';
import { requireVisitor } from '@/app/http/visit';
import { refuse } from '@/core/errors/refusal';
import { pageOf } from '@/server/documents/pages';
import { contentOutside } from '@/server/outside/papers';

interface Parameters {
  readonly params: Promise<{ token: string; documentId: string }>;
}

const asked = z.object({
  copy: z.string().nullish(),
  page: z.coerce.number().int().min(1).max(10_000).nullish(),
});

/** The content of a paper for someone outside who has opened a link that shows it. */
function handle(request: Request, { params }: Parameters): Promise<Response> {
  return answering('/api/outside/[token]/paper/[documentId]', async () => {
    const { token, documentId } = await params;
    const visitor = await requireVisitor(request, token);
    if (!z.uuid().safeParse(documentId).success) refuse('not-found');
    const { copy, page } = asked.parse(Object.fromEntries(new URL(request.url).searchParams));
    const asCopy = copy !== null && copy !== undefined;
    const drawn = asCopy ? null : (page ?? null);
    const content = await contentOutside(visitor, documentId, drawn === null ? 'take' : 'see');
    if (drawn !== null) return pageResponse(await pageOf(content, drawn), content.sha256, drawn);
    return contentResponse(request, content, asCopy);
  });
}

export { handle as GET, handle as HEAD };
