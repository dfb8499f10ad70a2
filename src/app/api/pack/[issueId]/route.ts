import { z } from 'zod';
import { refuse } from '@/core/errors/refusal';
import { answering } from '@/app/http/answer';
import { contentQuery, paperResponse } from '@/app/http/paperResponse';
import { requireActor } from '@/server/auth/actorFrom';
import { packContent } from '@/server/packs/reading';

interface Parameters {
  readonly params: Promise<{ issueId: string }>;
}

/** The caller's own copy of an issue of a pack. */
function handle(request: Request, { params }: Parameters): Promise<Response> {
  return answering('/api/pack/[issueId]', async () => {
    const actor = await requireActor(request.headers);
    const issueId = z.uuid().safeParse((await params).issueId).data ?? refuse('not-found');
    const { page, copy, form } = contentQuery.parse(Object.fromEntries(new URL(request.url).searchParams));
    return paperResponse(
      request,
      { page, copy, form },
      (capability) => packContent(actor, issueId, capability),
      actor.name,
    );
  });
}

export { handle as GET, handle as HEAD };
