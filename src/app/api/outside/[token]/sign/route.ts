import { answering } from '@/app/http/answer';
import { readJson } from '@/app/http/body';
import { requireVisitor } from '@/app/http/visit';
import { outsideAnswerSchema } from '@/core/signoff/contract';
import { requireSameOrigin } from '@/server/auth/actorFrom';
import { callerOf } from '@/server/auth/door';
import { answerFromOutside } from '@/server/signoff/answer';

/** The most bytes of an answer: a drawn name of all its points. */
const mostBytes = 60_000;

/** Somebody outside signs, or declines, the version that their link shows. */
export function POST(request: Request, { params }: { params: Promise<{ token: string }> }): Promise<Response> {
  return answering('/api/outside/[token]/sign', async () => {
    requireSameOrigin(request);
    const { token } = await params;
    const visitor = await requireVisitor(request, token);
    const given = outsideAnswerSchema.parse(await readJson(request, mostBytes));
    await answerFromOutside(visitor, given, callerOf(request.headers));
    return new Response(null, { status: 204, headers: { 'cache-control': 'no-store' } });
  });
}
