import { z } from 'zod';
import { refuse } from '@/core/errors/refusal';
import { answering } from '@/app/http/answer';
import { contentQuery, paperResponse } from '@/app/http/paperResponse';
import { requireActor } from '@/server/auth/actorFrom';
import { contentFor } from '@/server/documents/content';

interface Parameters {
  readonly params: Promise<{ documentId: string }>;
}

/** The content of a paper, for someone signed in. */
function handle(request: Request, { params }: Parameters): Promise<Response> {
  return answering('/api/paper/[documentId]/content', async () => {
    const actor = await requireActor(request.headers);
    const documentId = z.uuid().safeParse((await params).documentId).data ?? refuse('not-found');
    const query = contentQuery.parse(Object.fromEntries(new URL(request.url).searchParams));
    const { version = null, attachment = null } = query;
    return paperResponse(
      request,
      query,
      (capability) => contentFor(actor, { documentId, version, attachment }, capability),
      actor.name,
    );
  });
}

export { handle as GET, handle as HEAD };
