import { answering, json } from '@/app/http/answer';
import { requireSameOrigin } from '@/server/auth/actorFrom';
import { sendCode } from '@/server/outside/visit';

/** Has a code sent to the address that an outside link is for. */
export function POST(request: Request, { params }: { params: Promise<{ token: string }> }): Promise<Response> {
  return answering('/api/outside/[token]/code', async () => {
    requireSameOrigin(request);
    return json(await sendCode((await params).token));
  });
}
