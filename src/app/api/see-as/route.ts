import { z } from 'zod';
import { answering, json } from '@/app/http/answer';
import { readJson } from '@/app/http/body';
import { startSeeingAs, stopSeeingAs } from '@/server/access/seeAs';
import { requireSameOrigin, requireSession } from '@/server/auth/actorFrom';

const asked = z.object({ kind: z.enum(['person', 'group']), id: z.uuid() });

/** Begins to look at the library as a colleague or a group would. It belongs to the session, so other browsers go on as they were. */
export function POST(request: Request): Promise<Response> {
  return answering('/api/see-as', async () => {
    requireSameOrigin(request);
    const { own, sessionId } = await requireSession(request.headers);
    return json(await startSeeingAs(own, sessionId, asked.parse(await readJson(request, 20_000))));
  });
}

/** Goes back to one's own sight. */
export function DELETE(request: Request): Promise<Response> {
  return answering('/api/see-as', async () => {
    requireSameOrigin(request);
    const { own, sessionId } = await requireSession(request.headers);
    return json(await stopSeeingAs(own, sessionId));
  });
}
