import { z } from 'zod';
import { refuse } from '@/core/errors/refusal';
import { answering } from '@/app/http/answer';
import { contentQuery, paperResponse } from '@/app/http/paperResponse';
import { requireActor } from '@/server/auth/actorFrom';
import { arrivalContent } from '@/server/intake/read';

interface Parameters {
  readonly params: Promise<{ arrivalId: string }>;
}

/** The content of an arrival, or of what is attached to it, for whoever may check it. */
function handle(request: Request, { params }: Parameters): Promise<Response> {
  return answering('/api/arrival/[arrivalId]', async () => {
    const actor = await requireActor(request.headers);
    const arrivalId = z.uuid().safeParse((await params).arrivalId).data ?? refuse('not-found');
    const query = contentQuery.parse(Object.fromEntries(new URL(request.url).searchParams));
    const { attachment = null, page, copy, form } = query;
    return paperResponse(request, { page, copy, form }, () => arrivalContent(actor, arrivalId, attachment), actor.name);
  });
}

export { handle as GET, handle as HEAD };
