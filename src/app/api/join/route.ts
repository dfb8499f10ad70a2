import { joinSchema } from '@/core/people/contract';
import { answering, json } from '@/app/http/answer';
import { readJson } from '@/app/http/body';
import { requireSameOrigin } from '@/server/auth/actorFrom';
import { join } from '@/server/people/people';

/** Takes up an invitation: its token is the right to do so. */
export function POST(request: Request): Promise<Response> {
  return answering('/api/join', async () => {
    requireSameOrigin(request);
    return json(await join(joinSchema.parse(await readJson(request, 20_000))));
  });
}
