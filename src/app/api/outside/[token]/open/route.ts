import { answering } from '@/app/http/answer';
import { readJson } from '@/app/http/body';
import { visitHeader } from '@/app/http/visit';
import { openLinkSchema } from '@/core/outside/contract';
import { requireSameOrigin } from '@/server/auth/actorFrom';
import { callerOf } from '@/server/auth/door';
import { openLink } from '@/server/outside/visit';

/** Opens an outside link: its token is the right to do so, with the password and the code it asks for. */
export function POST(request: Request, { params }: { params: Promise<{ token: string }> }): Promise<Response> {
  return answering('/api/outside/[token]/open', async () => {
    requireSameOrigin(request);
    const { token } = await params;
    const given = openLinkSchema.parse(await readJson(request, 2000));
    const { visit, until } = await openLink(token, given, callerOf(request.headers));
    return new Response(null, {
      status: 204,
      headers: { 'set-cookie': visitHeader(token, visit, until), 'cache-control': 'no-store' },
    });
  });
}
