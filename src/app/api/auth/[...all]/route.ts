import { answering } from '@/app/http/answer';
import { readJson } from '@/app/http/body';
import { requireSameOrigin } from '@/server/auth/actorFrom';
import { watched } from '@/server/auth/watch';

interface Parameters {
  readonly params: Promise<{ all: string[] }>;
}

/** The sign-in library's doors, those of them that are used. */
export function POST(request: Request, { params }: Parameters): Promise<Response> {
  return answering('/api/auth/[...all]', async () => {
    requireSameOrigin(request);
    const isEmpty = request.body === null || request.headers.get('content-length') === '0';
    return watched((await params).all.join('/'), request, isEmpty ? null : await readJson(request, 20_000));
  });
}
