import { toNextJsHandler } from 'better-auth/next-js';
import { answering } from '@/app/http/answer';
import { auth } from '@/server/auth/auth';
import { watched } from '@/server/auth/watch';

interface Parameters {
  readonly params: Promise<{ all: string[] }>;
}

const handlers = () => toNextJsHandler(auth());

export const GET = (request: Request): Promise<Response> => answering(() => handlers().GET(request));

export function POST(request: Request, { params }: Parameters): Promise<Response> {
  return answering(async () => {
    const { all } = await params;
    return watched(all.join('/'), request, (asked) => handlers().POST(asked));
  });
}
