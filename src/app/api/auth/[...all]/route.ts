import { answering } from '@/app/http/answer';
import { watched } from '@/server/auth/watch';

interface Parameters {
  readonly params: Promise<{ all: string[] }>;
}

/** The sign-in library's doors, those of them that are used. */
export function POST(request: Request, { params }: Parameters): Promise<Response> {
  return answering(async () => watched((await params).all.join('/'), request));
}
