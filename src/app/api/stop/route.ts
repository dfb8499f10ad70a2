import { z } from 'zod';
import { answering } from '@/app/http/answer';
import { readJson } from '@/app/http/body';
import { requireSameOrigin } from '@/server/auth/actorFrom';
import { stopByLink } from '@/server/follow/summary';

const asked = z.object({ personId: z.uuid(), mark: z.string().max(200) });

/** Stops the mails about what someone follows: the mark of their link is the right to do so. */
export function POST(request: Request): Promise<Response> {
  return answering('/api/stop', async () => {
    requireSameOrigin(request);
    const { personId, mark } = asked.parse(await readJson(request, 1000));
    await stopByLink(personId, mark);
    return new Response(null, { status: 204, headers: { 'cache-control': 'no-store' } });
  });
}
