import { z } from 'zod';
import { answering } from '@/app/http/answer';
import { contentQuery, paperResponse } from '@/app/http/paperResponse';
import { requireVisitor } from '@/app/http/visit';
import { refuse } from '@/core/errors/refusal';
import { contentOutside } from '@/server/outside/papers';

interface Parameters {
  readonly params: Promise<{ token: string; documentId: string }>;
}

/** A visitor sees the current version alone. */
const outsideQuery = contentQuery.omit({ version: true, as: true });

/** The content of a paper for someone outside who has opened a link that shows it. */
function handle(request: Request, { params }: Parameters): Promise<Response> {
  return answering('/api/outside/[token]/paper/[documentId]', async () => {
    const { token, documentId } = await params;
    const visitor = await requireVisitor(request, token);
    if (!z.uuid().safeParse(documentId).success) refuse('not-found');
    const query = outsideQuery.parse(Object.fromEntries(new URL(request.url).searchParams));
    return paperResponse(
      request,
      query,
      (capability) => contentOutside(visitor, documentId, query.attachment ?? null, capability),
      'someone with the link',
    );
  });
}

export { handle as GET, handle as HEAD };
